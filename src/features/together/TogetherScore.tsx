'use client';

import { memo, useEffect, useRef } from 'react';
import { useStore } from 'zustand';
import type { EngravedRow } from '../../engrave/engraver';
import type { TogetherLaidOut, TogetherPlayer } from '../../engrave/togetherEngraver';
import { LevelSign } from '../../ui/LevelSign';
import type { Player } from '../work/sound/player';
import { LABEL, type TogetherMade } from './useTogether';
import { cellName, type PickedBar, sectionName } from './words';

interface Props {
  readonly made: TogetherMade;
  readonly player: Player;
  readonly picked: PickedBar | undefined;
  readonly onPick: (picked: PickedBar | undefined) => void;
  /** One player's part alone. */
  readonly alone: string | undefined;
}

/** The score, a row under the other: players' names, leads on a quiet ground, and over each bar a button that picks it. */
export function TogetherScore({ made, player, picked, onPick, alone }: Props) {
  const { frame, laidOut, rows, label, width } = made;
  useLitChord(player, frame);
  return (
    <div ref={frame} className="pb-8" aria-label="Score" role="group">
      {!laidOut && <p className="px-4 py-8 text-ink-soft">Arranging …</p>}
      {laidOut?.lines.map((line, index) => {
        const row = rows.get(index);
        if (!row || row.from !== line.from || row.to !== line.to)
          return (
            <p key={index} className="border-b border-line px-4 py-8 text-[13px] text-ink-soft" aria-busy="true">
              Drawing bars {laidOut.numbers[line.from]} to {laidOut.numbers[line.to - 1]} …
            </p>
          );
        return (
          <ScoreRow
            key={index}
            row={row}
            laidOut={laidOut}
            players={laidOut.players.filter(({ id, cells }) =>
              alone === undefined ? cells.some((cell) => cell !== 'out') : id === alone,
            )}
            label={label}
            width={width}
            picked={picked && picked.bar >= row.from && picked.bar < row.to ? picked : undefined}
            onPick={onPick}
          />
        );
      })}
    </div>
  );
}

const percent = (value: number, whole: number) => `${(100 * value) / whole}%`;

const ScoreRow = memo(function ScoreRow({
  row,
  laidOut,
  players,
  label,
  width,
  picked,
  onPick,
}: {
  readonly row: EngravedRow;
  readonly laidOut: TogetherLaidOut;
  readonly players: readonly TogetherPlayer[];
  readonly label: number;
  readonly width: number;
  readonly picked: PickedBar | undefined;
  readonly onPick: (picked: PickedBar | undefined) => void;
}) {
  const { geometry, from } = row;
  const { numbers, sections } = laidOut;
  const shrunk = Math.min(1, width / geometry.width);
  const sectionOf = (bar: number) =>
    Math.max(
      0,
      sections.findLastIndex(({ fromIndex }) => fromIndex <= bar),
    );
  const middle = (k: number) => ((geometry.staves[k]?.top ?? 0) + (geometry.staves[k]?.bottom ?? 0)) / 2;
  const reach = (k: number) => {
    const staff = geometry.staves[k];
    const [above, below] = [geometry.staves[k - 1], geometry.staves[k + 1]];
    if (!staff) return { top: 0, bottom: 0 };
    return {
      top: above ? (above.bottom + staff.top) / 2 : Math.max(0, staff.top - 22),
      bottom: below ? (staff.bottom + below.top) / 2 : Math.min(geometry.height, staff.bottom + 22),
    };
  };
  return (
    <section
      aria-label={`Bars ${numbers[from]} to ${numbers[row.to - 1]}`}
      className="music-row border-b border-line pt-1 pb-2"
    >
      <div className="relative flex pr-4">
        <div className="relative shrink-0" style={{ width: label }}>
          {players.map((one, k) => (
            <div
              key={one.id}
              className="absolute right-2 left-3 origin-left text-[12.5px] leading-4"
              style={{ top: percent(middle(k), geometry.height), transform: `translateY(-50%) scale(${shrunk})` }}
            >
              <span className="flex items-center gap-1">
                <LevelSign level={one.level} size={15} />
                {label > LABEL.narrow && <b className="truncate">{one.name}</b>}
              </span>
              {label > LABEL.narrow && (
                <span className="block truncate text-ink-soft">{cellName(one.cells[sectionOf(from)] ?? one.role)}</span>
              )}
            </div>
          ))}
        </div>
        <div className="music relative min-w-0 flex-1" data-row={from}>
          {players.map((one, k) =>
            geometry.bars.map((bar, place) =>
              one.cells[sectionOf(from + place)] === 'tune' ? (
                <span
                  key={`${one.id}-${place}`}
                  aria-hidden="true"
                  className="absolute bg-cane-pale/55"
                  style={{
                    left: percent(bar.x, geometry.width),
                    width: percent(bar.width, geometry.width),
                    top: percent((geometry.staves[k]?.top ?? 0) - 9, geometry.height),
                    height: percent(
                      (geometry.staves[k]?.bottom ?? 0) - (geometry.staves[k]?.top ?? 0) + 18,
                      geometry.height,
                    ),
                  }}
                />
              ) : null,
            ),
          )}
          <Picture svg={row.svg} />
          {geometry.bars.map((bar, place) => (
            <span
              key={place}
              aria-hidden="true"
              className="absolute font-serif text-[11px] text-ink-soft italic"
              style={{
                left: percent(bar.x, geometry.width),
                top: percent((geometry.staves[0]?.top ?? 0) - 15, geometry.height),
              }}
            >
              {place === 0 || (numbers[from + place] ?? 0) % 5 === 0 ? numbers[from + place] || '' : ''}
            </span>
          ))}
          {players.map((one, k) => {
            const { top, bottom } = reach(k);
            return geometry.bars.map((bar, place) => {
              const barIndex = from + place;
              const isPicked = picked?.player === one.id && picked.bar === barIndex;
              const said = one.reasons.find((reason) => reason.barIndex === barIndex)?.what ?? '';
              return (
                <button
                  key={`${one.id}-${place}`}
                  type="button"
                  aria-pressed={isPicked}
                  aria-label={`${one.name}, bar ${numbers[barIndex] ?? 0}: ${said}`}
                  title={`${one.name}, bar ${numbers[barIndex] ?? 0}: ${said}`}
                  onClick={() => onPick(isPicked ? undefined : { player: one.id, bar: barIndex })}
                  className={`no-print absolute rounded-sm border ${isPicked ? 'border-cane bg-cane/12' : 'border-transparent hover:bg-cane/6'}`}
                  style={{
                    left: percent(bar.x + 1, geometry.width),
                    width: percent(bar.width - 2, geometry.width),
                    top: percent(top, geometry.height),
                    height: percent(bottom - top, geometry.height),
                  }}
                >
                  {one.byHand.includes(barIndex) && (
                    <span
                      aria-hidden="true"
                      className="absolute right-1 bottom-0 h-[3px] w-3 rounded-full bg-cane/70"
                    />
                  )}
                </button>
              );
            });
          })}
        </div>
      </div>
      <p className="sr-only">
        {sections
          .filter(({ fromIndex, toIndex }) => fromIndex < row.to && toIndex > from)
          .map((section, k) => {
            const leads = players
              .filter(({ cells }) => cells[sections.indexOf(section)] === 'tune')
              .map(({ name }) => name);
            return `${k > 0 ? '; ' : ''}${sectionName(section)}: ${leads.length > 0 ? `${leads.join(' and ')} with the tune` : 'the tune is with others'}`;
          })}
      </p>
    </section>
  );
});

const Picture = memo(function Picture({ svg }: { readonly svg: string }) {
  return <div className="relative" dangerouslySetInnerHTML={{ __html: svg }} />;
});

/**
 * Lights what sounds: notes by their ids, and the chord symbol of the moment. Rows may have been drawn anew since, so
 * it is set at every frame.
 */
function useLitChord(player: Player, frame: React.RefObject<HTMLDivElement | null>): void {
  const { kind } = useStore(player.store);
  const lit = useRef(new Set<Element>());
  useEffect(() => {
    if (kind !== 'playing') return undefined;
    let request = 0;
    let shown: number | undefined;
    const tick = () => {
      const moment = player.moment();
      const now = new Set<Element>();
      for (const { lane, id } of moment?.lit ?? []) {
        const element = document.getElementById(`${lane}:${id}`);
        if (element) now.add(element);
      }
      const row = moment?.bar === undefined ? undefined : rowOf(frame.current, moment.bar);
      const chord = row && chordAt(row, moment?.bar ?? 0, moment?.share ?? 0);
      if (chord) now.add(chord);
      for (const element of lit.current) if (!now.has(element)) element.classList.remove('sounding');
      for (const element of now) element.classList.add('sounding');
      lit.current = now;
      if (moment?.bar !== undefined && moment.bar !== shown) {
        shown = moment.bar;
        row?.scrollIntoView({ block: 'nearest' });
      }
      request = requestAnimationFrame(tick);
    };
    request = requestAnimationFrame(tick);
    return () => {
      cancelAnimationFrame(request);
      for (const element of lit.current) element.classList.remove('sounding');
      lit.current = new Set();
    };
  }, [player, kind, frame]);
}

function rowOf(frame: HTMLElement | null, bar: number): HTMLElement | undefined {
  return [...(frame?.querySelectorAll<HTMLElement>('[data-row]') ?? [])].findLast(
    (row) => Number(row.dataset['row']) <= bar,
  );
}

/** The chord symbol over a place of a bar: the last that lies left of it. */
function chordAt(row: HTMLElement, bar: number, share: number): Element | undefined {
  const bars = [...row.querySelectorAll<SVGGElement>('g.measure')];
  const measure = bars[bar - Number(row.dataset['row'])];
  if (!measure) return undefined;
  const box = measure.getBoundingClientRect();
  const at = box.left + box.width * share + 8;
  const symbols = [...row.querySelectorAll<SVGGElement>('g.harm')].map((one) => ({
    one,
    left: one.getBoundingClientRect().left,
  }));
  return symbols.filter(({ left }) => left <= at).toSorted((a, b) => b.left - a.left)[0]?.one;
}
