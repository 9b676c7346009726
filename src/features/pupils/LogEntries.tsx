'use client';

import { useState } from 'react';
import { z } from 'zod';

import { dateWords, knownDay, LOG_SOURCES } from '../../core/planning';
import { Button } from '../../ui/Button';
import { useToast } from '../../ui/Toast';
import { nothing, send } from '../work/send';
import type { PupilOnScreen } from './usePupil';

const listSchema = z.object({
  entries: z.array(
    z.object({
      id: z.string(),
      date: z.string(),
      work: z.string(),
      step: z.string(),
      minutes: z.number(),
      tempo: z.number().optional(),
      by: z.enum(LOG_SOURCES),
      note: z.string(),
      isStruck: z.boolean(),
    }),
  ),
});
type Listed = z.infer<typeof listSchema>['entries'][number];

const BY_WORDS: Readonly<Record<Listed['by'], string>> = {
  pupil: 'the pupil',
  teacher: 'the teacher',
  stand: 'the stand',
  listener: 'the stand’s listener',
};

/** The newest entries one by one: an odd one can be struck out, and counts no more. */
export function LogEntries({
  screen: { pupil, open },
  onChanged,
}: {
  readonly screen: PupilOnScreen;
  readonly onChanged: () => void;
}) {
  const tell = useToast();
  const [entries, setEntries] = useState<readonly Listed[]>();
  const load = () =>
    send(`/api/pupils/${open.id}/log`, listSchema, { method: 'GET' }).then((answer) => {
      if (answer.ok) setEntries(answer.value.entries);
      else tell(answer.problem.message);
    });
  const toggle = async ({ id, isStruck }: Listed) => {
    const answer = await send(`/api/pupils/${open.id}/log/${id}`, nothing, { method: isStruck ? 'POST' : 'DELETE' });
    if (!answer.ok) return tell(answer.problem.message);
    onChanged();
    return load();
  };
  return (
    <details className="mt-4" onToggle={({ currentTarget }) => currentTarget.open && void load()}>
      <summary className="min-h-7 cursor-pointer font-serif text-base font-semibold">The newest entries</summary>
      {entries?.length === 0 && <p className="text-ink-soft">Nothing was logged yet.</p>}
      {entries && entries.length > 0 && (
        <div className="overflow-x-auto">
          <table className="text-left text-[13px]">
            <thead className="text-ink-soft">
              <tr>
                {['Date', 'Work', 'Minutes', 'Tempo', 'By', 'Note'].map((head) => (
                  <th key={head} scope="col" className="pr-4 font-medium">
                    {head}
                  </th>
                ))}
                <th scope="col">
                  <span className="sr-only">Strike out</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {entries.map((entry) => {
                const title = pupil.work.find(({ id }) => id === entry.work)?.title ?? 'removed work';
                const date = dateWords(knownDay(entry.date));
                return (
                  <tr key={entry.id} className="border-t border-line">
                    <td className={`pr-4 ${entry.isStruck ? 'line-through' : ''}`}>{date}</td>
                    <td className={`pr-4 ${entry.isStruck ? 'line-through' : ''}`}>{title}</td>
                    <td className="pr-4 tabular-nums">{entry.minutes}</td>
                    <td className="pr-4 tabular-nums">{entry.tempo ?? ''}</td>
                    <td className="pr-4">{BY_WORDS[entry.by]}</td>
                    <td className="max-w-64 truncate pr-4">{entry.note}</td>
                    <td className="py-0.5">
                      <Button
                        aria-label={`${entry.isStruck ? 'Let count again' : 'Strike out'}: ${date}, ${title}, ${entry.minutes} minutes`}
                        onClick={() => void toggle(entry)}
                      >
                        {entry.isStruck ? 'Let it count' : 'Strike out'}
                      </Button>
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
      <p className="mt-1 text-[13px] text-ink-soft">
        What is struck out stays in this list and counts no more, in the plan, the charts and the CSV.
      </p>
    </details>
  );
}
