'use client';

import { memo, useEffect, useRef, useState } from 'react';
import { capitalised } from '../../../core/plainText';
import type { Work } from '../../../core/work';
import type { DrillCell, DrillLaidOut, DrillSlot } from '../../../engrave/drillEngraver';
import type { EngravedRow } from '../../../engrave/engraver';
import type { LaneInfo } from '../../../engrave/lanes';
import { LEVEL_NAMES, LevelSign } from '../../../ui/LevelSign';
import type { Draws } from '../useEngraving';
import { useWidth } from '../useWidth';
import type { Selection } from '../workStore';

interface Props {
  readonly work: Work;
  readonly infos: readonly LaneInfo[];
  readonly draws: Draws;
  readonly selection: Selection | undefined;
  readonly onSelect: (selection: Selection) => void;
}

/** Room at the left for a level's name, CSS pixels, and on a narrow screen for its sign. */
const LABEL = { wide: 148, narrow: 34, from: 600 } as const;
/** Room after the last barline, and the padding of the lanes. */
const MARGIN = 16;

/** A drill key by key: in each key the levels one under another, whatever each makes of it. */
export function DrillLanes({ work, infos, draws, selection, onSelect }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const whole = useWidth(frame);
  const label = whole < LABEL.from ? LABEL.narrow : LABEL.wide;
  const width = Math.max(0, whole - label - MARGIN);
  const [laidOut, setLaidOut] = useState<DrillLaidOut>();
  const [rows, setRows] = useState<ReadonlyMap<string, readonly EngravedRow[]>>(new Map());
  useEffect(() => {
    if (width <= 0) return undefined;
    let isNewest = true;
    void draws.drill(work, width, {
      laidOut: (next) => isNewest && setLaidOut(next),
      rows: (slot, level, drawn) => isNewest && setRows((before) => new Map(before).set(`${slot}/${level}`, drawn)),
    });
    return () => {
      isNewest = false;
    };
  }, [work, width, draws]);
  return (
    <div ref={frame} className="pb-6">
      {laidOut?.empty.map(({ level, why }) => (
        <p key={level} role="note" className="border-b border-line bg-warn-pale px-4 py-1.5 text-[13px] text-warn">
          {LEVEL_NAMES[level]}: nothing of this drill remains. {why}.
        </p>
      ))}
      {laidOut?.slots.map((slot, index) => (
        <Slot
          key={slot.id}
          slot={slot}
          isLadder={(work.tune.drill?.steps.length ?? 1) > 1}
          isFirstOfStep={laidOut.slots[index - 1]?.step !== slot.step}
          rows={rows}
          infos={infos}
          label={label}
          selection={selection}
          onSelect={onSelect}
        />
      ))}
      {!laidOut && <p className="px-4 py-8 text-ink-soft">Laying the drill out …</p>}
    </div>
  );
}

function Slot({
  slot,
  isLadder,
  isFirstOfStep,
  rows,
  infos,
  label,
  selection,
  onSelect,
}: {
  readonly slot: DrillSlot;
  readonly isLadder: boolean;
  readonly isFirstOfStep: boolean;
  readonly rows: ReadonlyMap<string, readonly EngravedRow[]>;
  readonly infos: readonly LaneInfo[];
  readonly label: number;
  readonly selection: Selection | undefined;
  readonly onSelect: (selection: Selection) => void;
}) {
  return (
    <section aria-label={slot.concertName} className="border-b border-line pt-1.5 pb-2">
      {isLadder && isFirstOfStep && (
        <h2 className="px-3 pt-1 font-serif text-[17px] font-semibold first-letter:uppercase">
          {`${slot.step + 1}. ${capitalised(slot.stepName)}`}
        </h2>
      )}
      {slot.cells.map((cell) => {
        const isPicked = selection?.lane === cell.level && selection.bar >= cell.from && selection.bar < cell.to;
        const info = infos.find(({ id }) => id === cell.level);
        return (
          <Cell
            key={cell.level}
            cell={cell}
            rows={rows.get(`${slot.id}/${cell.level}`)}
            label={label}
            isPicked={isPicked}
            isLit={selection?.lane === cell.level}
            text={info?.barTexts.slice(cell.from, cell.to).join('; ') ?? ''}
            instrument={info?.instrument ?? ''}
            onSelect={onSelect}
          />
        );
      })}
    </section>
  );
}

const Cell = memo(function Cell({
  cell,
  rows,
  label,
  isPicked,
  isLit,
  text,
  instrument,
  onSelect,
}: {
  readonly cell: DrillCell;
  readonly rows: readonly EngravedRow[] | undefined;
  readonly label: number;
  readonly isPicked: boolean;
  /** Its level is the one that is heard: playing keeps its rows in view. */
  readonly isLit: boolean;
  readonly text: string;
  readonly instrument: string;
  readonly onSelect: (selection: Selection) => void;
}) {
  const { level, name, signs, from, to, messages: said } = cell;
  const bars = to - from === 1 ? `bar ${from + 1}` : `bars ${from + 1} to ${to}`;
  return (
    <section
      className={`relative flex pr-4 ${isPicked ? 'bg-cane-pale/60' : ''}`}
      aria-label={`${LEVEL_NAMES[level]}, ${name}`}
    >
      <div style={{ width: label }} className="shrink-0 self-center pr-2 pl-3 text-[12.5px] leading-4">
        <LevelSign level={level} size={18} />
        {label > LABEL.narrow && (
          <>
            <span className="ml-1 font-semibold">{LEVEL_NAMES[level]}</span>
            <br />
            {instrument}
            <br />
            <span className="text-ink-soft">
              {name}, {signs}
            </span>
          </>
        )}
      </div>
      <div className="music relative min-w-0 flex-1" {...(isLit && { 'data-row': from })}>
        {rows ? (
          rows.map((row, index) => <Picture key={index} svg={row.svg} />)
        ) : (
          <p className="py-5 text-[13px] text-ink-soft">Drawing {bars} …</p>
        )}
        {said.map(({ what, why }, index) => (
          <p key={index} className="text-[12.5px] text-warn">
            {what}: {why}.
          </p>
        ))}
        <p className="sr-only">{text}</p>
      </div>
      <button
        type="button"
        aria-pressed={isPicked}
        aria-label={`${LEVEL_NAMES[level]}, ${name}, ${signs}: ${bars}`}
        data-lane={level}
        data-bar={from}
        onClick={() => onSelect({ lane: level, bar: from })}
        className="absolute inset-0 rounded hover:bg-cane-pale/40 focus-visible:outline-2 focus-visible:outline-cane"
      />
    </section>
  );
});

const Picture = memo(function Picture({ svg }: { readonly svg: string }) {
  return <div className="relative" dangerouslySetInnerHTML={{ __html: svg }} />;
});
