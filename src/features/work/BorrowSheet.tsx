'use client';

import { useEffect, useState } from 'react';
import { z } from 'zod';
import { rhythmOfBars } from '../../core/drills';
import { hasPickup } from '../../core/score';
import type { Ticks } from '../../core/time';
import { Sheet } from '../../ui/Sheet';
import { send } from './send';
import { versionedWorkSchema } from './tuneRemote';

const pageSchema = z.object({ tunes: z.array(z.object({ id: z.string(), title: z.string(), meter: z.string() })) });
type ShelfTune = z.infer<typeof pageSchema>['tunes'][number];

/** Lends the rhythm of two bars of a tune on the shelf. */
export function BorrowSheet({
  onClose,
  onTake,
}: {
  readonly onClose: () => void;
  readonly onTake: (rhythm: readonly Ticks[], title: string) => void;
}) {
  const [words, setWords] = useState('');
  const [tunes, setTunes] = useState<readonly ShelfTune[]>([]);
  const [bar, setBar] = useState('1');
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    let isNewest = true;
    const timer = setTimeout(() => {
      void send(`/api/tunes?search=${encodeURIComponent(words)}`, pageSchema, { method: 'GET' }).then((answer) => {
        if (!isNewest) return;
        setProblem(answer.ok ? undefined : answer.problem.message);
        if (answer.ok) setTunes(answer.value.tunes);
      });
    }, 200);
    return () => {
      isNewest = false;
      clearTimeout(timer);
    };
  }, [words]);
  const take = async ({ id, title }: ShelfTune) => {
    const opened = await send(`/api/tunes/${id}`, versionedWorkSchema, { method: 'GET' });
    if (!opened.ok) return setProblem(opened.problem.message);
    const { tune } = opened.value.work;
    const first = (hasPickup(tune) ? 0 : -1) + Number(bar);
    const rhythm = /^\d+$/.test(bar) && tune.bars[first] ? rhythmOfBars(tune, first, first + 2) : undefined;
    if (rhythm) onTake(rhythm, title);
    else setProblem(`Bar ${bar} of ${title || 'this tune'} has no rhythm to borrow: give a bar with notes.`);
    return undefined;
  };
  return (
    <Sheet
      open
      onClose={onClose}
      title="Borrow a rhythm"
      description="The rhythm of two bars of a tune, round and round."
    >
      <div className="mb-2 flex gap-2">
        <input
          aria-label="Search the shelf"
          placeholder="title, composer or key"
          value={words}
          maxLength={100}
          onChange={(event) => setWords(event.target.value)}
          className="min-h-9 flex-1 rounded border border-edge bg-paper px-2"
        />
        <label className="flex items-center gap-1.5">
          from bar
          <input
            value={bar}
            maxLength={4}
            inputMode="numeric"
            onChange={(event) => setBar(event.target.value)}
            className="min-h-9 w-14 rounded border border-edge bg-paper px-2 tabular-nums"
          />
        </label>
      </div>
      {problem && (
        <p role="alert" className="mb-2 text-warn">
          {problem}
        </p>
      )}
      <ul aria-label="Tunes" className="min-h-0 overflow-y-auto">
        {tunes.map((tune) => (
          <li key={tune.id}>
            <button
              type="button"
              onClick={() => void take(tune)}
              className="flex min-h-9 w-full items-center justify-between rounded px-2 text-left hover:bg-cane-pale"
            >
              <span className="font-serif">{tune.title || 'Untitled'}</span>
              <span className="text-[13px] text-ink-soft">{tune.meter}</span>
            </button>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
