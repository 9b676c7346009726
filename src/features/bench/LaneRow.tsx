'use client';

import { memo, type KeyboardEvent, type ReactNode } from 'react';
import { type Difficulty, heaviestCauses, judgementText } from '../../core/analysis';
import { capitalised } from '../../core/plainText';
import { type Level, LEVELS } from '../../core/instruments';
import type { EngravedRow } from '../../engrave/engraver';
import type { LaneId, LaneInfo } from '../../engrave/lanes';
import type { Line } from '../../engrave/lines';
import { BeatSign } from '../../ui/BeatSign';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import type { Selection } from '../work/workStore';

interface Props {
  readonly line: Line;
  readonly row: EngravedRow | undefined;
  readonly infos: readonly LaneInfo[];
  /** First names of the group's players at each level. */
  readonly players: Readonly<Partial<Record<Level, string>>>;
  /** Why a level begins in another key than the tune's, in words. */
  readonly moved: Readonly<Partial<Record<Level, string>>>;
  readonly onOwnKey: (level: Level) => void;
  readonly numbers: readonly number[];
  /** Room at the left for the names of the lanes, CSS pixels; little of it is for the signs alone. */
  readonly labelWidth: number;
  /** Width that the music takes now; until it is drawn anew for it, a row is shown smaller, and its names with it. */
  readonly width: number;
  readonly selection: Selection | undefined;
  /** The bar that Tab reaches, when it lies in this row. */
  readonly tabStop: Selection | undefined;
  readonly onSelect: (selection: Selection) => void;
  readonly onKey: (event: KeyboardEvent, at: Selection) => void;
  /** Begins writing at a bar of the tune, by Enter or a double click. */
  readonly onOpen?: ((bar: number) => void) | undefined;
  /** Drawn over the music instead of the bars' buttons, while the tune is written. */
  readonly over?: (row: EngravedRow) => ReactNode;
  /** Drawn over the music under the buttons: tints and letters of phrases. */
  readonly under?: (row: EngravedRow) => ReactNode;
  /** A strip above the music. */
  readonly above?: (row: EngravedRow) => ReactNode;
}

/** One row: the lanes' names, their picture, and over each bar a button that opens it. */
export const LaneRow = memo(function LaneRow({
  line,
  row,
  infos,
  players,
  moved,
  onOwnKey,
  numbers,
  width,
  labelWidth,
  selection,
  tabStop,
  onSelect,
  onKey,
  onOpen,
  over,
  under,
  above,
}: Props) {
  const first = numbers[line.from] ?? 0;
  const last = numbers[line.to - 1] ?? first;
  if (!row) {
    return (
      <div
        className="flex items-center justify-center border-b border-line text-ink-soft"
        style={{ height: infos.length * LANE_HEIGHT }}
        aria-busy="true"
      >
        Drawing bars {first} to {last} …
      </div>
    );
  }
  const { geometry } = row;
  const percent = (value: number, whole: number) => `${(100 * value) / whole}%`;
  const reach = laneReach(geometry.staves, geometry.height);
  const shrunk = Math.min(1, width / geometry.width);
  return (
    <section
      aria-label={`Bars ${first} to ${last}`}
      className="music-row border-b border-line pt-1 pb-2"
      style={{ '--label-width': `${labelWidth}px` }}
    >
      {above?.(row)}
      <div className="relative flex pr-4">
        <div className="relative w-(--label-width) shrink-0">
          {infos.map((info, lane) => (
            <div
              key={info.id}
              className="absolute right-2 left-3 origin-left"
              style={{
                top: percent(
                  ((geometry.staves[lane]?.top ?? 0) + (geometry.staves[lane]?.bottom ?? 0)) / 2,
                  geometry.height,
                ),
                transform: `translateY(-50%) scale(${shrunk})`,
              }}
            >
              <LaneName
                info={info}
                players={info.id === 'tune' || info.id === 'second' ? '' : (players[info.id] ?? '')}
                isFirstRow={line.from === 0}
                moved={info.id === 'tune' || info.id === 'second' ? undefined : moved[info.id]}
                onOwnKey={onOwnKey}
                isSign={labelWidth < SIGNS_ALONE}
              />
            </div>
          ))}
        </div>
        <div className="music relative min-w-0 flex-1" data-row={line.from}>
          {under?.(row)}
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
              {barNumberShown(numbers, line.from + place, place === 0)}
            </span>
          ))}
          {over
            ? over(row)
            : infos.map((info, lane) =>
                geometry.bars.map((bar, place) => {
                  const barIndex = line.from + place;
                  const at: Selection = { lane: info.id, bar: barIndex };
                  const isPicked = selection?.lane === info.id && selection.bar === barIndex;
                  const isStop = tabStop?.lane === info.id && tabStop.bar === barIndex;
                  const { top, bottom } = reach[lane] ?? { top: 0, bottom: 0 };
                  const hasChange = info.changes.some((change) => change.barIndex === barIndex && !change.isOfAll);
                  const hard = info.difficulty[barIndex];
                  const isOutside = info.outside.some((note) => note.barIndex === barIndex);
                  return (
                    <button
                      key={`${info.id}-${place}`}
                      type="button"
                      data-lane={info.id}
                      data-bar={barIndex}
                      tabIndex={isStop ? 0 : -1}
                      aria-pressed={isPicked}
                      aria-label={barLabel(info, barIndex, numbers[barIndex] ?? 0)}
                      title={barHint(info, barIndex)}
                      onClick={() => onSelect(at)}
                      {...(onOpen && info.id === 'tune' && { onDoubleClick: () => onOpen(barIndex) })}
                      onKeyDown={(event) => {
                        if (event.key !== 'Enter' || !onOpen || info.id !== 'tune') return onKey(event, at);
                        event.preventDefault();
                        onOpen(barIndex);
                      }}
                      className={`no-print absolute rounded-sm border ${isPicked ? 'border-cane bg-cane/12' : 'border-transparent hover:bg-cane/6'}`}
                      style={{
                        left: percent(bar.x + 1, geometry.width),
                        width: percent(bar.width - 2, geometry.width),
                        top: percent(top, geometry.height),
                        height: percent(bottom - top, geometry.height),
                      }}
                    >
                      {hard && (
                        <span
                          aria-hidden="true"
                          className={`absolute inset-x-0 bottom-0 border-t ${CURVE_TINTS[info.id === 'tune' || info.id === 'second' ? 'advanced' : info.id]}`}
                          style={{ height: `${Math.min(20, 1 + hard.total * 5)}px` }}
                        />
                      )}
                      {hasChange && (
                        <span
                          aria-hidden="true"
                          className="absolute right-1 bottom-0 h-[3px] w-3 rounded-full bg-cane/70"
                        />
                      )}
                      {isOutside && (
                        <span
                          aria-hidden="true"
                          className="absolute bottom-0 left-1 text-[10px] leading-none font-bold text-warn"
                        >
                          !
                        </span>
                      )}
                    </button>
                  );
                }),
              )}
        </div>
      </div>
    </section>
  );
}, sameRow);

/**
 * While the tune is written, a row is drawn again for its picture and its lanes' names; what is told bar by bar has no
 * place there.
 */
function sameRow(before: Props, after: Props): boolean {
  const sameInfos =
    before.infos === after.infos ||
    (before.over !== undefined &&
      after.over !== undefined &&
      before.infos.length === after.infos.length &&
      before.infos.every(
        (info, k) =>
          info.id === after.infos[k]?.id &&
          info.keyName === after.infos[k]?.keyName &&
          info.tempo.perMinute === after.infos[k]?.tempo.perMinute &&
          info.tempo.beat.type === after.infos[k]?.tempo.beat.type,
      ));
  const sameLine = before.line.from === after.line.from && before.line.to === after.line.to;
  const keys = before.over
    ? (['row', 'width', 'labelWidth', 'over', 'under', 'above'] as const)
    : ([
        'row',
        'width',
        'labelWidth',
        'players',
        'selection',
        'tabStop',
        'onSelect',
        'onKey',
        'onOpen',
        'over',
        'under',
        'above',
      ] as const);
  return (
    sameInfos &&
    sameLine &&
    (before.numbers === after.numbers || before.over !== undefined) &&
    keys.every((key) => before[key] === after[key])
  );
}

/** Set into the page only when it is another one: what lies over it may change with every key. */
const Picture = memo(function Picture({ svg }: { readonly svg: string }) {
  return <div className="relative" dangerouslySetInnerHTML={{ __html: svg }} />;
});

/** About as high as a lane of a row is drawn, CSS pixels. */
const LANE_HEIGHT = 62;
/** Room for a sign, but not for words. */
const SIGNS_ALONE = 80;

function LaneName({
  info,
  players,
  isFirstRow,
  moved,
  onOwnKey,
  isSign,
}: {
  readonly info: LaneInfo;
  readonly players: string;
  readonly isFirstRow: boolean;
  readonly moved: string | undefined;
  readonly onOwnKey: (level: Level) => void;
  /** There is no room for words. */
  readonly isSign: boolean;
}) {
  const level = LEVELS.find((known) => known === info.id);
  return (
    <div className="flex items-center gap-1.5 leading-tight">
      {level ? (
        <LevelSign level={level} size={24} />
      ) : (
        <span aria-hidden="true" className="w-[17px] text-center font-serif text-lg text-ink-soft">
          ≡
        </span>
      )}
      <div className={isSign ? 'sr-only' : 'min-w-0'}>
        <div className={`truncate font-semibold ${level ? LANE_TEXT[level] : 'text-ink'}`}>
          {level ? LEVEL_NAMES[level] : LANE_NAMES[info.id]}
        </div>
        <div
          className="truncate text-[12px] text-ink-soft"
          title={level ? [info.instrument, players].filter(Boolean).join(' · ') : undefined}
        >
          {level ? [info.instrument, players].filter(Boolean).join(' · ') : info.keyName}
        </div>
        {isFirstRow && info.id !== 'second' && (
          <div className="truncate text-[12px] text-ink-soft">
            {level ? `${info.keyName} · ` : ''}
            <BeatSign beat={info.tempo.beat} /> = {info.tempo.perMinute}
          </div>
        )}
        {isFirstRow && level && moved && (
          <button
            type="button"
            title={moved}
            aria-label={`${moved} Go back to the tune's own key`}
            onClick={() => onOwnKey(level)}
            className="min-h-6 text-[12px] text-cane underline underline-offset-2"
          >
            key moved: undo
          </button>
        )}
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
    const topOf = ({ top, smallTop = top }: (typeof staves)[number]) => smallTop;
    return {
      top: before ? (before.bottom + topOf(staff)) / 2 + 1 : Math.max(0, topOf(staff) - 20),
      bottom: after ? (staff.bottom + topOf(after)) / 2 - 1 : Math.min(height, staff.bottom + 18),
    };
  });
}

const LANE_NAMES: Readonly<Record<LaneId, string>> = { tune: 'Tune', second: 'Second part', ...LEVEL_NAMES };

/** The step line under a lane: as high as its bar is hard. */
const CURVE_TINTS = {
  beginner: 'border-beginner/70 bg-beginner/14',
  intermediate: 'border-intermediate/70 bg-intermediate/14',
  advanced: 'border-advanced/70 bg-advanced/12',
} as const;

/** `Right for a first-year player (2.3 of 10): speed 4, rhythm 3`: never a bare number. */
function difficultyText({ total, causes }: Difficulty, lane: LaneId): string {
  const level = LEVELS.find((one) => one === lane);
  const named = heaviestCauses(causes, 4).map(({ name, value }) => `${name} ${value.toFixed(0)}`);
  const said = level ? capitalised(judgementText(total, level)) : `Difficulty ${total.toFixed(1)} of 10`;
  return `${said}${named.length > 0 ? `: ${named.join(', ')}` : ''}`;
}

/** What the pointer is told over a bar: what was changed and why, and how hard it is. */
function barHint(info: LaneInfo, barIndex: number): string | undefined {
  const hard = info.difficulty[barIndex];
  const told = info.changes
    .filter((change) => change.barIndex === barIndex && !change.isOfAll)
    .slice(0, 4)
    .map(({ what, why }) => `${what} (${why})`);
  const lines = [...told, ...(hard ? [difficultyText(hard, info.id)] : [])];
  return lines.length > 0 ? lines.join('\n') : undefined;
}

function barLabel(info: LaneInfo, barIndex: number, number: number): string {
  const changes = info.changes
    .filter((change) => change.barIndex === barIndex && !change.isOfAll)
    .map(({ what }) => what);
  const changed = changes.length > 0 ? ` Changed: ${changes.join('; ')}.` : '';
  const hard = info.difficulty[barIndex];
  return `${LANE_NAMES[info.id]}, bar ${number}: ${info.barTexts[barIndex] ?? ''}.${changed}${hard ? ` ${difficultyText(hard, info.id)}.` : ''}`;
}

/** A number at the head of each row and at every fifth bar; a pickup has none to show. */
function barNumberShown(numbers: readonly number[], bar: number, isFirstInRow: boolean): string {
  const number = numbers[bar] ?? 0;
  return number > 0 && number !== numbers[bar - 1] && (isFirstInRow || number % 4 === 1) ? String(number) : '';
}
