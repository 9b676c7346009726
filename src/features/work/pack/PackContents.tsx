'use client';

import { useEffect, useState } from 'react';
import { z } from 'zod';
import type { PackChoice } from '../../../core/keys';
import { send } from '../send';
import { type PackFor, packAddress } from './packAddress';

const contentsSchema = z.object({
  recipients: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      instrument: z.string(),
      goals: z.array(z.string()),
      sheets: z.array(z.string()),
      files: z.array(z.string()),
    }),
  ),
  missing: z.array(z.string()),
  hasSounds: z.boolean(),
});
type Contents = z.infer<typeof contentsSchema>;

/** So long after the last change it is asked what will be in the pack. Milliseconds. */
const PAUSE = 250;

/** What will be in a pack, before it is made. */
export function PackContents({
  to,
  choice,
  date,
}: {
  readonly to: PackFor;
  readonly choice: PackChoice;
  readonly date: string;
}) {
  const [contents, setContents] = useState<Contents>();
  const [problem, setProblem] = useState<string>();
  const address = packAddress(to, 'contents.json', { ...choice, note: '' }, date);
  useEffect(() => {
    let isNewest = true;
    const timer = setTimeout(() => {
      void send(address, contentsSchema, { method: 'GET' }).then((answer) => {
        if (!isNewest) return;
        setProblem(answer.ok ? undefined : answer.problem.message);
        if (answer.ok) setContents(answer.value);
      });
    }, PAUSE);
    return () => {
      isNewest = false;
      clearTimeout(timer);
    };
  }, [address]);
  const recipients = contents?.recipients ?? [];
  const isEmpty = recipients.every(({ sheets, files }) => sheets.length + files.length === 0);
  const hasSoundWish = choice.files.some((file) => file !== 'musicxml');
  return (
    <section
      aria-label="In this pack"
      aria-busy={contents === undefined}
      className="min-w-0 md:border-l md:border-line md:pl-6"
    >
      <h3 className="font-serif text-base font-semibold">In this pack</h3>
      {problem && (
        <p role="alert" className="text-warn">
          {problem}
        </p>
      )}
      {contents && isEmpty && (
        <p className="text-[13.5px] text-ink-soft">
          Nothing yet: choose {to.kind === 'group' ? 'tunes or drills, and what of them' : 'what goes into it'}.
        </p>
      )}
      {(isEmpty ? [] : recipients).map((one) => (
        <div key={one.id} className="mb-3">
          {recipients.length > 1 && (
            <p className="font-semibold">
              {one.name || 'A player'} <span className="font-normal text-ink-soft">{one.instrument}</span>
            </p>
          )}
          <ul className="text-[13.5px]">
            {one.sheets.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
          {one.files.length > 0 && (
            <p className="text-[13px] text-ink-soft">
              and {one.files.length === 1 ? 'one file' : `${one.files.length} files`}
            </p>
          )}
          {one.sheets.length === 0 && one.files.length === 0 && (
            <p className="text-[13px] text-ink-soft">Nothing yet.</p>
          )}
        </div>
      ))}
      {contents && contents.missing.length > 0 && (
        <ul className="text-[13px] text-ink-soft">
          {[...new Set(contents.missing)].map((words) => (
            <li key={words}>{words}</li>
          ))}
        </ul>
      )}
      {contents && !contents.hasSounds && hasSoundWish && (
        <p className="text-[13px] text-warn">There are no sounds on this computer: they stay out.</p>
      )}
    </section>
  );
}
