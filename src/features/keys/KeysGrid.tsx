'use client';

import { memo, useEffect, useRef, useState, type KeyboardEvent } from 'react';
import { heaviestCauses } from '../../core/analysis';
import { type KeyForPlayer, keyReasons, type RankedKey, twelveKeys } from '../../core/keys';
import { chroma, type Key, nameKey, namePitchClass, printKey, sameKey } from '../../core/pitch';
import { LevelSign } from '../../ui/LevelSign';

/** Totals beyond this hold somebody who cannot play. */
const CANNOT = 10;

export type KeyOrder = 'fifths' | 'chromatic';

interface Props {
  readonly ranking: readonly RankedKey[];
  readonly order: KeyOrder;
  /** The key that the levels in question have now; none where they differ. */
  readonly chosen: Key | undefined;
  readonly onChoose: (key: Key) => void;
}

/**
 * Players down, the twelve concert keys across: what each reads, how hard it becomes, what does not fit; the total
 * below.
 */
export const KeysGrid = memo(function KeysGrid({ ranking, order, chosen, onChoose }: Props) {
  const columns = inOrder(ranking, order);
  const best = ranking[0];
  const [at, setAt] = useState<{ readonly row: number; readonly column: number }>();
  const grid = useRef<HTMLTableElement>(null);
  const moved = useRef(false);
  const players = best?.players.map(({ player }) => player) ?? [];
  const home = Math.max(
    0,
    columns.findIndex(({ key }) => chosen && sameKey(key, chosen)),
  );
  const place = { row: Math.min(at?.row ?? 0, players.length), column: at?.column ?? home };
  useEffect(() => {
    if (!moved.current) return;
    moved.current = false;
    grid.current?.querySelector<HTMLElement>(`[data-cell="${place.row}/${place.column}"]`)?.focus();
  });
  const onKey = (event: KeyboardEvent) => {
    const { row, column } = place;
    const next = {
      ArrowLeft: { row, column: Math.max(0, column - 1) },
      ArrowRight: { row, column: Math.min(columns.length - 1, column + 1) },
      ArrowUp: { row: Math.max(0, row - 1), column },
      ArrowDown: { row: Math.min(players.length, row + 1), column },
      Home: { row, column: 0 },
      End: { row, column: columns.length - 1 },
    }[event.key];
    if (next) {
      event.preventDefault();
      moved.current = true;
      setAt(next);
    } else if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      const key = columns[column]?.key;
      if (key) onChoose(key);
    }
  };
  const costs = columns.map(({ cost }) => Math.min(cost, CANNOT));
  const [least, most] = [Math.min(...costs), Math.max(...costs)];
  const told = columns[place.column];
  const toldPlayer = told?.players[place.row];
  if (players.length === 0 || !best)
    return (
      <p className="px-4 py-6 text-ink-soft">Nobody plays at this level in the group; choose another level or group.</p>
    );
  return (
    <div className="px-3 pt-2 pb-1.5">
      <table
        ref={grid}
        role="grid"
        aria-label="Keys for each player"
        className="w-full table-fixed border-collapse text-center"
      >
        <thead>
          <tr>
            <th scope="col" className="w-[124px] pr-2 text-left align-bottom text-[12.5px] font-medium text-ink-soft">
              sounding
            </th>
            {columns.map(({ key, isOriginal, matchesRecording }, column) => (
              <th
                key={printKey(key)}
                scope="col"
                className={`pb-0.5 align-bottom font-serif text-[15px] font-semibold ${chosen && sameKey(key, chosen) ? 'rounded-t bg-cane-pale' : ''}`}
              >
                <span className="block h-[15px] font-sans text-[10.5px] leading-[15px] font-medium text-cane">
                  {[best === columns[column] ? 'best' : '', isOriginal ? 'tune' : '', matchesRecording ? 'rec.' : '']
                    .filter(Boolean)
                    .join(' · ')}
                </span>
                {keyShort(key)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {players.map((player, row) => (
            <tr key={row} className="border-t border-line">
              <th
                scope="row"
                className="truncate py-px pr-1 text-left text-[13px] leading-4 font-normal"
                title={`${player.name ?? ''} ${player.instrument.name}`}
              >
                <span className="flex items-center gap-1">
                  <LevelSign level={player.level} size={15} />
                  <span className="min-w-0 truncate">
                    <b className="font-semibold">{player.name || player.instrument.shortName}</b>
                    {player.name ? <span className="text-ink-soft"> {player.instrument.shortName}</span> : ''}
                  </span>
                </span>
              </th>
              {columns.map(({ key, players: judged }, column) => {
                const one = judged[row];
                return (
                  one && (
                    <td
                      key={printKey(key)}
                      role="gridcell"
                      data-cell={`${row}/${column}`}
                      tabIndex={place.row === row && place.column === column ? 0 : -1}
                      aria-selected={chosen ? sameKey(key, chosen) : false}
                      onKeyDown={onKey}
                      onClick={() => onChoose(key)}
                      onFocus={() => setAt({ row, column })}
                      onMouseEnter={() => {
                        if (!grid.current?.contains(document.activeElement)) setAt({ row, column });
                      }}
                      className={`cursor-pointer py-0.5 leading-4 outline-offset-[-2px] ${tintOf(one)} ${chosen && sameKey(key, chosen) ? 'outline outline-1 outline-cane/50' : ''} hover:bg-cane-pale`}
                    >
                      <span className="sr-only">
                        {one.player.name || one.player.instrument.name}, {nameKey(key)} sounding: reads{' '}
                      </span>
                      <span className="block text-[13.5px] font-semibold">{keyShort(one.writtenKey)}</span>
                      <span className="block text-[11px] text-ink-soft tabular-nums">
                        {!one.canPlay ? (
                          <b className="text-warn">cannot</b>
                        ) : (
                          <>
                            <span className="sr-only">difficulty </span>
                            {one.difficulty.toFixed(1)}
                            {one.fits ? (
                              ''
                            ) : (
                              <b className="text-warn">
                                {' '}
                                {one.below + one.above + one.unknown}!<span className="sr-only"> notes do not fit</span>
                              </b>
                            )}
                          </>
                        )}
                      </span>
                    </td>
                  )
                );
              })}
            </tr>
          ))}
          <tr className="border-t-2 border-ink/40">
            <th scope="row" className="pr-1 text-left text-[13px]">
              all together
            </th>
            {columns.map(({ key, cost, players: judged }, column) => (
              <td
                key={printKey(key)}
                role="gridcell"
                data-cell={`${players.length}/${column}`}
                tabIndex={place.row === players.length && place.column === column ? 0 : -1}
                onKeyDown={onKey}
                onClick={() => onChoose(key)}
                onFocus={() => setAt({ row: players.length, column })}
                className={`cursor-pointer py-1 hover:bg-cane-pale ${chosen && sameKey(key, chosen) ? 'rounded-b bg-cane-pale' : ''}`}
              >
                <span className="sr-only">{nameKey(key)}, all together: </span>
                <span aria-hidden="true" className="mx-auto block h-1.5 w-9 rounded-full bg-surround">
                  <span
                    className="block h-1.5 rounded-full bg-cane"
                    style={{
                      width: `${Math.round(100 - (85 * (Math.min(cost, CANNOT) - least)) / Math.max(0.01, most - least))}%`,
                    }}
                  />
                </span>
                <span
                  className={`text-[11.5px] tabular-nums ${best === columns[column] ? 'font-bold text-cane' : 'text-ink-soft'}`}
                >
                  {cost >= CANNOT ? 'not all' : cost.toFixed(1)}
                  {cost >= CANNOT && (
                    <span className="sr-only">
                      {' '}
                      can play: not{' '}
                      {judged
                        .filter(({ canPlay }) => !canPlay)
                        .map(({ player }) => player.name || player.instrument.name)
                        .join(', ')}
                    </span>
                  )}
                </span>
              </td>
            ))}
          </tr>
        </tbody>
      </table>
      <p aria-live="polite" className="mt-1 min-h-10 text-[13px] leading-5">
        {told &&
          (toldPlayer ? (
            <>
              <b>
                {toldPlayer.player.name || toldPlayer.player.instrument.name}, if {nameKey(told.key)} sounds:
              </b>{' '}
              {keyReasons(toldPlayer).join('; ')}.
            </>
          ) : (
            <>
              <b>{nameKey(told.key)} for all:</b> {sufferers(told)}
            </>
          ))}
      </p>
    </div>
  );
});

/** `B♭`, `Em`: the grid has little room; other modes show their tonic. */
function keyShort({ tonic, mode }: Key): string {
  return `${namePitchClass(tonic)}${mode === 'minor' || mode === 'aeolian' ? 'm' : ''}`;
}

function inOrder(ranking: readonly RankedKey[], order: KeyOrder): readonly RankedKey[] {
  const [first] = ranking;
  if (!first) return [];
  const keys = twelveKeys(first.key);
  const place = (key: Key) =>
    order === 'chromatic' ? chroma(key.tonic) : keys.findIndex((one) => chroma(one.tonic) === chroma(key.tonic));
  return ranking.toSorted((a, b) => place(a.key) - place(b.key));
}

function tintOf({ canPlay, fits, difficulty }: KeyForPlayer): string {
  if (!canPlay) return 'bg-warn-pale';
  if (!fits) return 'bg-[#f5ead9]';
  return difficulty < 2.8 ? 'bg-[#e6eddd]' : difficulty < 4.4 ? 'bg-[#eff1e4]' : '';
}

/** Who has it hardest in a key, and by what. */
function sufferers({ players }: RankedKey): string {
  const hard = players.toSorted((a, b) => b.cost - a.cost).slice(0, 3);
  return hard
    .map(
      (one) =>
        `${one.player.name || one.player.instrument.shortName} ${!one.canPlay ? 'cannot play it' : `${one.difficulty.toFixed(1)}${one.fits ? '' : ', does not fit'}`}${
          !one.canPlay
            ? ''
            : ` (${heaviestCauses(one.causes, 2)
                .map(({ name }) => name)
                .join(', ')})`
        }`,
    )
    .join('; ')
    .concat('.');
}
