'use client';

import { FileText } from 'lucide-react';
import { useCallback, useEffect, useState, type ReactNode } from 'react';
import { z } from 'zod';
import type { PackChoice } from '../../../core/keys';
import { dateWords, knownDay } from '../../../core/planning';
import { Button } from '../../../ui/Button';
import { useToast } from '../../../ui/Toast';
import { type MadeLink, madeLinkSchema, MadeLinkSheet } from '../MadeLink';
import { nothing, send } from '../send';
import type { PackFor } from './packAddress';

const listSchema = z.object({
  handouts: z.array(
    z.object({
      id: z.string(),
      words: z.string(),
      date: z.string(),
      endsAt: z.string(),
      seenAt: z.string().optional(),
    }),
  ),
});

const dayOf = (iso: string) => dateWords(knownDay(iso.slice(0, 10)));

/** The links by which packs can be opened at home: a new one, and those that were handed out. */
export function HandoutLinks({
  to,
  choice,
  date,
  onMade,
  children,
}: {
  readonly to: PackFor;
  readonly choice: PackChoice;
  readonly date: string;
  readonly onMade: () => void;
  /** What stands on the button. */
  readonly children: ReactNode;
}) {
  const tell = useToast();
  const [handouts, setHandouts] = useState<z.infer<typeof listSchema>['handouts']>([]);
  const [made, setMade] = useState<MadeLink>();
  const address = `/api/${to.kind}s/${to.id}/handouts` as const;
  const refresh = useCallback(
    () =>
      send(address, listSchema, { method: 'GET' }).then((answer) => {
        if (answer.ok) setHandouts(answer.value.handouts);
      }),
    [address],
  );
  useEffect(() => void refresh(), [refresh]);
  const make = async () => {
    const answer = await send(address, madeLinkSchema, { method: 'POST', json: { choice, date } });
    if (!answer.ok) return tell(answer.problem.message);
    setMade(answer.value);
    onMade();
    return refresh();
  };
  const end = async (id: string) => {
    const answer = await send(`/api/handouts/${id}`, nothing, { method: 'DELETE' });
    tell(answer.ok ? 'The link has ended.' : answer.problem.message);
    return refresh();
  };
  return (
    <section aria-label="Links" className="mt-3">
      <span className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <Button className="min-h-9" onClick={() => void make()}>
          {children}
        </Button>
        <span className="text-[13px] text-ink-soft">
          {to.kind === 'group'
            ? 'Whoever has it sees everybody’s first name and pages; weeks stay out of it.'
            : 'Whoever has it sees the first name, the pages and the sounds, for 30 days.'}
        </span>
      </span>
      {handouts.length > 0 && (
        <ul className="mt-2 text-[13px]">
          {handouts.map(({ id, words, date: from, endsAt, seenAt }) => (
            <li key={id} className="flex flex-wrap items-center gap-x-3 py-0.5">
              <span>
                From {dateWords(knownDay(from))}: {words || 'the stand alone'}; until {dayOf(endsAt)},{' '}
                {seenAt ? `last opened on ${dayOf(seenAt)}` : 'not opened yet'}.
              </span>
              <Button
                onClick={() => void end(id)}
                aria-label={`End the link from ${dateWords(knownDay(from))}: ${words}`}
              >
                End
              </Button>
            </li>
          ))}
        </ul>
      )}
      <MadeLinkSheet
        made={made}
        onClose={() => setMade(undefined)}
        title={`To take home: ${to.name}`}
        heading={`${to.name}, to take home`}
        alt={`The link for ${to.name}, to be scanned`}
        until={({ endsAt }) => `Until ${dayOf(endsAt)}.`}
      >
        {(link) =>
          choice.sheets.length > 0 && (
            <a
              href={`${new URL(link.address).pathname}/files/pages.pdf`}
              target="_blank"
              rel="noreferrer"
              className="inline-flex min-h-7 items-center gap-1.5 rounded border border-edge bg-paper px-2.5 py-1 font-medium hover:bg-cane-pale"
            >
              <FileText size={14} aria-hidden="true" />
              The pages, with the square
            </a>
          )
        }
      </MadeLinkSheet>
    </section>
  );
}
