'use client';

import { memo, type KeyboardEvent } from 'react';
import { LEVELS } from '../../core/instruments/instrument';
import type { EngravedRow } from '../../engrave/engraver';
import type { LaneId, LaneInfo } from '../../engrave/lanes';
import type { Line } from '../../engrave/lines';
import { BeatSign } from '../../ui/BeatSign';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import type { Selection } from './benchStore';

/** Room at the left of a row for the names of its lanes, CSS pixels. */
export const LABEL_WIDTH = 132;
/** Room after the last barline; the class `pr-4` says the same. */
export const RIGHT_MARGIN = 16;

interface Props {
  readonly line: Line;
  readonly row: EngravedRow | undefined;
  readonly infos: readonly LaneInfo[];
  readonly numbers: readonly number[];
  /** Width that the music takes now; until it is drawn anew for it, a row is shown smaller, and its names with it. */
  readonly width: number;
  readonly selection: Selection | undefined;
  /** The bar that Tab reaches, when it lies in this row. */
  readonly tabStop: Selection | undefined;
  readonly onSelect: (selection: Selection) => void;
  readonly onKey: (event: KeyboardEvent, at: Selection) => void;
}

/** One row: the lanes' names, their picture, and over each bar a button that opens it. */
export const LaneRow = memo(function LaneRow({ line, row, infos, numbers, width, selection, tabStop, onSelect, onKey }: Props) {
  const first = numbers[line.from] ?? 0;
  const last = numbers[line.to - 1] ?? first;
  if (!row) {
    return <div className="flex h-[250px] items-center justify-center border-b border-line text-ink-soft" aria-busy="true">Drawing bars {first} to {last} …</div>;
  }
  const { geometry } = row;
  const percent = (value: number, whole: number) => `${(100 * value) / whole}%`;
  const reach = laneReach(geometry.staves, geometry.height);
  const shrunk = Math.min(1, width / geometry.width);
  return (
    <section aria-label={`Bars ${first} to ${last}`} className="music-row border-b border-line pt-1 pb-2">
      <div className="relative flex pr-4">
        <div className="relative shrink-0" style={{ width: LABEL_WIDTH }}>
          {infos.map((info, lane) => (
            <div key={info.id} className="absolute right-2 left-3 origin-left" style={{ top: percent(((geometry.staves[lane]?.top ?? 0) + (geometry.staves[lane]?.bottom ?? 0)) / 2, geometry.height), transform: `translateY(-50%) scale(${shrunk})` }}>
              <LaneName info={info} isFirstRow={line.from === 0} />
            </div>
          ))}
        </div>
        <div className="music relative min-w-0 flex-1" data-row={line.from}>
          <div dangerouslySetInnerHTML={{ __html: row.svg }} />
          {geometry.bars.map((bar, place) => (
            <span key={place} aria-hidden="true" className="absolute font-serif text-[11px] text-ink-soft italic" style={{ left: percent(bar.x, geometry.width), top: percent((geometry.staves[0]?.top ?? 0) - 15, geometry.height) }}>
              {barNumberShown(numbers, line.from + place, place === 0)}
            </span>
          ))}
          {infos.map((info, lane) => geometry.bars.map((bar, place) => {
            const barIndex = line.from + place;
            const at: Selection = { lane: info.id, bar: barIndex };
            const isPicked = selection?.lane === info.id && selection.bar === barIndex;
            const isStop = tabStop?.lane === info.id && tabStop.bar === barIndex;
            const { top, bottom } = reach[lane] ?? { top: 0, bottom: 0 };
            const hasChange = info.changes.some((change) => change.barIndex === barIndex);
            const isOutside = info.outside.some((note) => note.barIndex === barIndex);
            return (
              <button
                key={`${info.id}-${place}`} type="button" data-lane={info.id} data-bar={barIndex} tabIndex={isStop ? 0 : -1} aria-pressed={isPicked}
                aria-label={barLabel(info, barIndex, numbers[barIndex] ?? 0)} onClick={() => onSelect(at)} onKeyDown={(event) => onKey(event, at)}
                className={`no-print absolute rounded-sm border ${isPicked ? 'border-cane bg-cane/12' : 'border-transparent hover:bg-cane/6'}`}
                style={{ left: percent(bar.x + 1, geometry.width), width: percent(bar.width - 2, geometry.width), top: percent(top, geometry.height), height: percent(bottom - top, geometry.height) }}
              >
                {hasChange && <span aria-hidden="true" className="absolute right-1 bottom-0 h-[3px] w-3 rounded-full bg-cane/70" />}
                {isOutside && <span aria-hidden="true" className="absolute bottom-0 left-1 text-[10px] leading-none font-bold text-warn">!</span>}
              </button>
            );
          }))}
        </div>
      </div>
    </section>
  );
});

function LaneName({ info, isFirstRow }: { readonly info: LaneInfo; readonly isFirstRow: boolean }) {
  const level = LEVELS.find((known) => known === info.id);
  return (
    <div className="flex items-center gap-1.5 leading-tight">
      {level ? <LevelSign level={level} size={24} /> : <span aria-hidden="true" className="w-[17px] text-center font-serif text-lg text-ink-soft">≡</span>}
      <div className="min-w-0">
        <div className={`truncate font-semibold ${level ? LANE_TEXT[level] : 'text-ink'}`}>{level ? LEVEL_NAMES[level] : 'Tune'}</div>
        <div className="truncate text-[12px] text-ink-soft" title={level ? info.instrument : undefined}>{level ? info.instrument : info.keyName}</div>
        {isFirstRow && <div className="truncate text-[12px] text-ink-soft">{level ? `${info.keyName} · ` : ''}<BeatSign beat={info.tempo.beat} /> = {info.tempo.perMinute}</div>}
      </div>
    </div>
  );
}

const LANE_TEXT = { beginner: 'text-beginner', intermediate: 'text-intermediate', advanced: 'text-advanced' } as const;

/** Lanes share the room between them at its middle, so that every bar is a large target. */
function laneReach(staves: EngravedRow['geometry']['staves'], height: number) {
  return staves.map((staff, lane) => {
    const before = staves[lane - 1];
    const after = staves[lane + 1];
    return {
      top: before ? (before.bottom + staff.top) / 2 + 1 : Math.max(0, staff.top - 20),
      bottom: after ? (staff.bottom + after.top) / 2 - 1 : Math.min(height, staff.bottom + 18),
    };
  });
}

const LANE_NAMES: Readonly<Record<LaneId, string>> = { tune: 'Tune', ...LEVEL_NAMES };

function barLabel(info: LaneInfo, barIndex: number, number: number): string {
  const changes = info.changes.filter((change) => change.barIndex === barIndex).map(({ what }) => what);
  const changed = changes.length > 0 ? ` Changed: ${changes.join('; ')}.` : '';
  return `${LANE_NAMES[info.id]}, bar ${number}: ${info.barTexts[barIndex] ?? ''}.${changed}`;
}

/** A number at the head of each row and at every fifth bar; a pickup has none to show. */
function barNumberShown(numbers: readonly number[], bar: number, isFirstInRow: boolean): string {
  const number = numbers[bar] ?? 0;
  return number > 0 && number !== numbers[bar - 1] && (isFirstInRow || number % 4 === 1) ? String(number) : '';
}
