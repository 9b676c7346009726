'use client';

import { useState, type FormEvent } from 'react';
import { z } from 'zod';
import { storedWork } from '../../core/work/stored';
import { hasPickup, type Tune } from '../../core/score';
import { lickFacts, liftLick, MAX_LICK_BARS } from '../../core/solos';
import { Button } from '../../ui/Button';
import { Sheet } from '../../ui/Sheet';
import { useToast } from '../../ui/Toast';
import { send } from '../work/send';

const NUMBER = 'min-h-9 w-14 rounded border border-edge bg-paper px-2 tabular-nums';

/** Lifts some bars of a line as a lick of the studio. */
export function LickSheet({
  line,
  from: first,
  to: last,
  onClose,
}: {
  /** With its chords, concert. */
  readonly line: Tune;
  /** Bars that are proposed, from 1. */
  readonly from: number;
  readonly to: number;
  readonly onClose: () => void;
}) {
  const [from, setFrom] = useState(String(first));
  const [to, setTo] = useState(String(Math.min(last, first + MAX_LICK_BARS - 1)));
  const [title, setTitle] = useState('');
  const [isBusy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string>();
  const tell = useToast();
  const pickup = hasPickup(line) ? 1 : 0;
  const [a, b] = [Number(from), Number(to)];
  const count = line.bars.length - pickup;
  const isSpan = /^\d+$/.test(from) && /^\d+$/.test(to) && a >= 1 && b >= a && b <= count && b - a < MAX_LICK_BARS;
  const lick = isSpan
    ? liftLick(line, a - 1 + pickup, b + pickup, title.trim() || `Lick from ${line.title}`)
    : undefined;
  const facts = lick && lickFacts(lick);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (!lick) return;
    setBusy(true);
    const made = await send('/api/tunes/new', z.object({ id: z.string() }), {
      method: 'POST',
      json: storedWork({ tune: lick, recipes: {} }),
    });
    setBusy(false);
    if (!made.ok) return setProblem(`${made.problem.message} Nothing was saved yet; please try again.`);
    tell(`${lick.title} is among the licks`);
    onClose();
    return undefined;
  };
  return (
    <Sheet
      open
      onClose={onClose}
      title="Keep as a lick"
      description={`One to ${MAX_LICK_BARS} bars with their chords. It is found again wherever those chords come, in any key.`}
      width="max-w-xl"
    >
      <form onSubmit={(event) => void submit(event)}>
        <p className="mb-3 flex flex-wrap items-center gap-2">
          <label className="flex items-center gap-1.5">
            Bars
            <input
              value={from}
              maxLength={4}
              inputMode="numeric"
              onChange={({ target }) => setFrom(target.value)}
              className={NUMBER}
            />
          </label>
          <label className="flex items-center gap-1.5">
            to
            <input
              value={to}
              maxLength={4}
              inputMode="numeric"
              onChange={({ target }) => setTo(target.value)}
              className={NUMBER}
            />
          </label>
          <label className="flex flex-1 items-center gap-1.5">
            Name
            <input
              value={title}
              maxLength={80}
              placeholder={`Lick from ${line.title}`}
              onChange={({ target }) => setTitle(target.value)}
              className="min-h-9 w-full rounded border border-edge bg-paper px-2"
            />
          </label>
        </p>
        <p className="mb-3 min-h-5 text-[13.5px] text-ink-soft" aria-live="polite">
          {!isSpan
            ? `Give one to ${MAX_LICK_BARS} bars between 1 and ${count}.`
            : facts
              ? `It fits ${facts.fits} (${facts.numerals}).`
              : 'There are no chords over these bars: the lick would not be found again.'}
        </p>
        {problem && (
          <p role="alert" className="mb-2 text-warn">
            {problem}
          </p>
        )}
        <div className="flex justify-end gap-2 border-t border-line pt-3">
          <Button kind="quiet" type="button" onClick={onClose}>
            Cancel
          </Button>
          <Button kind="main" type="submit" disabled={!lick || isBusy}>
            Save to the licks
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
