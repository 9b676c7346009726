'use client';

import { useMemo } from 'react';
import type { Tune } from '../../core/score';
import { licksFound, type ReadSolo, type SoloDevice } from '../../core/solos';

const DEVICE_NAMES: Readonly<Record<SoloDevice, string>> = {
  passing: 'passing notes',
  neighbour: 'a neighbour note',
  approach: 'a half step into a note',
  enclosure: 'an enclosure',
  anticipation: 'a note that comes early',
  lick: 'a lick',
  blue: 'a blue note',
};

const BUTTON =
  'flex min-h-8 shrink-0 items-center gap-1.5 whitespace-nowrap rounded border border-edge bg-paper px-2 font-medium hover:bg-cane-pale';

/**
 * The lines of a solo that was brought in, found by themselves, each a press away from the licks; and any other bars.
 */
export function LinesFound({
  tune,
  read,
  onLift,
}: {
  readonly tune: Tune;
  readonly read: ReadSolo;
  readonly onLift: (from: number, to: number) => void;
}) {
  const found = useMemo(() => licksFound(tune, read), [tune, read]);
  return (
    <section aria-label="Lines worth keeping" className="mb-3 border-b border-line pb-3">
      <h3 className="font-semibold">Lines worth keeping</h3>
      {found.length === 0 && (
        <p className="text-[13px] text-ink-soft">
          None stands by itself: no line begins, meets its chords and comes to rest within four bars.
        </p>
      )}
      <ul className="text-[13px]">
        {found.map(({ from, to, fits, met, devices }) => (
          <li key={from} className="flex items-start justify-between gap-2 py-1">
            <span>
              <span className="font-medium">{from === to ? `Bar ${from}` : `Bars ${from} to ${to}`}</span>, {fits}
              <span className="text-ink-soft">
                {[
                  ...(met > 0 ? [`${met === 1 ? 'a new chord' : `${met} new chords`} met on a third or seventh`] : []),
                  ...devices.map((device) => DEVICE_NAMES[device]),
                ]
                  .map((word) => `; ${word}`)
                  .join('')}
              </span>
            </span>
            <button
              type="button"
              className={BUTTON}
              aria-label={`Keep ${from === to ? `bar ${from}` : `bars ${from} to ${to}`} as a lick`}
              onClick={() => onLift(from, to)}
            >
              Keep …
            </button>
          </li>
        ))}
      </ul>
      <button type="button" className={`${BUTTON} mt-1`} onClick={() => onLift(1, Math.min(2, read.bars.length))}>
        Keep other bars …
      </button>
    </section>
  );
}
