'use client';

import { becoming } from '../../core/work';
import { useCallback, useMemo, type KeyboardEvent, type RefObject } from 'react';
import { useStore } from 'zustand';
import { type Level, LEVELS } from '../../core/instruments';
import { type Group, movedTexts, withOwnKey } from '../../core/keys';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import type { Bench, ViewContent } from '../work/step';
import type { Engraving } from '../work/useEngraving';
import type { Selection } from '../work/workStore';
import { LaneRow } from './LaneRow';
import { focusBar, neighbourBar } from './lanePlaces';

interface Props {
  readonly bench: Bench;
  readonly view: ViewContent;
  readonly lanesRef: RefObject<HTMLDivElement | null>;
  readonly surfaceRef: RefObject<HTMLDivElement | null> | undefined;
  readonly engraving: Engraving;
  /** That the music may take, CSS pixels. */
  readonly width: number;
  readonly labelWidth: number;
}

const FIRST_BAR: Selection = { lane: 'tune', bar: 0 };

/** The lanes, a row of bars under the other, and what the open step puts above and below them. */
export function BenchLanes({ bench, view, lanesRef, surfaceRef, engraving, width, labelWidth }: Props) {
  const { infos, lines, numbers, rows } = engraving;
  const selection = useStore(bench.store, (state) => state.selection);
  const work = useStore(bench.store, ({ document }) => document);
  const moved = useMemo(() => movedTexts(work), [work]);
  const onOwnKey = useCallback(
    (level: Level) => {
      bench.store
        .getState()
        .dispatch((present) =>
          becoming(`${LEVEL_NAMES[level]}: the tune's own key`, present, withOwnKey(present, level)),
        );
    },
    [bench.store],
  );
  const names = useMemo(() => namesByLevel(bench.group), [bench.group]);
  const onSelect = useCallback((next: Selection) => bench.store.getState().select(next), [bench.store]);
  const onKey = useCallback(
    (event: KeyboardEvent, at: Selection) => {
      const target = neighbourBar(event.key, at, {
        lanes: infos.map((info) => info.id),
        bars: numbers.length,
        lines,
      });
      if (!target) return;
      event.preventDefault();
      onSelect(target);
      focusBar(lanesRef.current, target);
    },
    [infos, lines, numbers, onSelect, lanesRef],
  );
  const { over, under, above, onOpen } = view.layers ?? {};
  const tabStop = selection ?? FIRST_BAR;
  const inLine = (at: Selection | undefined, { from, to }: (typeof lines)[number]) =>
    at && at.bar >= from && at.bar < to ? at : undefined;
  return (
    <main ref={lanesRef} aria-label="Lanes" className="print-plain min-h-0 min-w-0 flex-1 overflow-y-auto bg-paper">
      {view.head}
      {view.body?.({ infos, numbers, draws: engraving.draws })}
      <div
        hidden={view.body !== undefined}
        ref={surfaceRef}
        {...view.surface}
        className="print-plain outline-none focus-visible:shadow-[inset_3px_0_0_var(--color-cane)]"
      >
        {lines.map((line, index) => (
          <LaneRow
            key={line.from}
            line={line}
            row={rows.get(index)}
            width={width}
            labelWidth={labelWidth}
            infos={infos}
            players={names}
            moved={moved}
            onOwnKey={onOwnKey}
            numbers={numbers}
            onSelect={onSelect}
            onKey={onKey}
            onOpen={onOpen}
            selection={inLine(selection, line)}
            tabStop={inLine(tabStop, line)}
            {...(over && { over })}
            {...(above && { above })}
            {...(under && { under })}
          />
        ))}
      </div>
      {view.foot}
    </main>
  );
}

/** First names of the group's players at each level. */
function namesByLevel(group: Group | undefined): Readonly<Partial<Record<Level, string>>> {
  const of = (level: Level) =>
    (group?.players ?? []).filter((player) => player.level === level && player.name !== '').map(({ name }) => name);
  return Object.fromEntries(LEVELS.map((level) => [level, of(level).join(', ')]));
}
