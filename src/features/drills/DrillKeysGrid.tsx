'use client';

import { memo } from 'react';
import type { KeyOfDrill, KeyPlayer } from '../../core/keys';
import { chroma, namePitchClass, type PitchClass, printPitchClass } from '../../core/pitch';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';

interface Props {
  readonly table: readonly KeyOfDrill[];
  readonly players: readonly KeyPlayer[];
  /** The keys of the drill in their order; none where each level has its own. */
  readonly chosen: readonly PitchClass[] | undefined;
  /** The key that is easiest for all together. */
  readonly best: PitchClass | undefined;
  readonly onToggle: (tonic: PitchClass) => void;
}

/**
 * Players down, the twelve keys across: what each reads, how hard the drill is there, what does not fit. A key's head
 * puts it into the drill or takes it out.
 */
export const DrillKeysGrid = memo(function DrillKeysGrid({ table, players, chosen, best, onToggle }: Props) {
  const placeOf = (tonic: PitchClass) => (chosen ?? []).findIndex((one) => chroma(one) === chroma(tonic));
  return (
    <table aria-label="Keys of the drill for each player" className="w-full table-fixed border-collapse text-center">
      <thead>
        <tr>
          <th scope="col" className="w-[124px] pr-2 text-left align-bottom text-[12.5px] font-medium text-ink-soft">
            sounding
          </th>
          {table.map(({ tonic }) => {
            const place = placeOf(tonic);
            const isBest = best !== undefined && chroma(best) === chroma(tonic);
            return (
              <th key={printPitchClass(tonic)} scope="col" className="p-px align-bottom">
                <span className="block h-[15px] text-[10.5px] leading-[15px] font-medium text-cane">
                  {isBest ? 'easiest' : ''}
                </span>
                <button
                  type="button"
                  aria-pressed={place >= 0}
                  onClick={() => onToggle(tonic)}
                  className={`min-h-8 w-full rounded border font-serif text-[15px] font-semibold ${place >= 0 ? 'border-cane bg-cane-pale' : 'border-transparent hover:border-edge'}`}
                >
                  {namePitchClass(tonic)}
                  {place >= 0 && (
                    <span className="ml-0.5 align-super font-sans text-[10.5px] font-medium text-ink-soft tabular-nums">
                      <span className="sr-only">, key number </span>
                      {place + 1}
                    </span>
                  )}
                </button>
              </th>
            );
          })}
        </tr>
      </thead>
      <tbody>
        {players.map((player, row) => (
          <tr key={row} className="border-t border-line">
            <th scope="row" className="py-px pr-1 text-left text-[13px] leading-4 font-normal">
              <span className="flex items-center gap-1" title={`${player.name ?? ''} ${player.instrument.name}`}>
                <LevelSign level={player.level} size={15} />
                <span className="sr-only">{LEVEL_NAMES[player.level]}, </span>
                <span className="min-w-0 truncate">
                  <b className="font-semibold">{player.name || player.instrument.shortName}</b>
                  {player.name ? <span className="text-ink-soft"> {player.instrument.shortName}</span> : ''}
                </span>
              </span>
            </th>
            {table.map(({ tonic, players: each }) => {
              const one = each[row];
              const isIn = placeOf(tonic) >= 0;
              if (!one) return <td key={printPitchClass(tonic)} />;
              const why = one.messages.map(({ what, why: because }) => `${what}: ${because}`).join('; ');
              return (
                <td
                  key={printPitchClass(tonic)}
                  title={why || undefined}
                  className={`py-0.5 leading-4 ${tintOf(one)} ${isIn ? 'outline outline-1 outline-offset-[-1px] outline-cane/40' : ''}`}
                >
                  <span className="block text-[13.5px] font-semibold">
                    {one.written ? namePitchClass(one.written) : '–'}
                  </span>
                  <span className="block text-[11px] text-ink-soft tabular-nums">
                    {!one.written ? (
                      <b className="text-warn">nothing fits</b>
                    ) : (
                      <>
                        <span className="sr-only">difficulty </span>
                        {one.difficulty.toFixed(1)}
                        {one.messages.length > 0 && <b className="text-warn"> {one.messages.length}!</b>}
                      </>
                    )}
                  </span>
                  {why && <span className="sr-only">{why}</span>}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
});

/** Difficulties up to these are easy, and middling, on the scale that the levels go by. */
const TINTS = { easy: 2.8, middling: 4.4 } as const;

function tintOf({ written, difficulty, messages: said }: KeyOfDrill['players'][number]): string {
  if (!written) return 'bg-warn-pale';
  if (said.length > 0) return 'bg-[#f5ead9]';
  return difficulty < TINTS.easy ? 'bg-[#e6eddd]' : difficulty < TINTS.middling ? 'bg-[#eff1e4]' : '';
}
