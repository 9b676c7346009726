'use client';

import { useEffect, useState } from 'react';
import { z } from 'zod';
import { dateWords, knownDay } from '../../core/planning';
import { Button } from '../../ui/Button';
import { useToast } from '../../ui/Toast';
import { type MadeLink, madeLinkSchema, MadeLinkSheet } from '../work/MadeLink';
import { nothing, send } from '../work/send';

const stateSchema = z.object({
  link: z.object({ madeAt: z.string(), endsAt: z.string(), seenAt: z.string().optional() }).optional(),
});

const dayOf = (iso: string) => dateWords(knownDay(iso.slice(0, 10)));

/** The link by which a pupil comes to their own week, at home. */
export function OwnLink({ pupil, name }: { readonly pupil: string; readonly name: string }) {
  const tell = useToast();
  const [state, setState] = useState<z.infer<typeof stateSchema>>();
  const [made, setMade] = useState<MadeLink>();
  const address = `/api/pupils/${pupil}/link` as const;
  useEffect(() => {
    void send(address, stateSchema, { method: 'GET' }).then((answer) => answer.ok && setState(answer.value));
  }, [address]);
  const make = async () => {
    const answer = await send(address, madeLinkSchema, { method: 'POST', json: {} });
    if (!answer.ok) return tell(answer.problem.message);
    setMade(answer.value);
    setState({ link: { madeAt: new Date().toISOString(), endsAt: answer.value.endsAt } });
  };
  const end = async () => {
    const answer = await send(address, nothing, { method: 'DELETE' });
    if (!answer.ok) return tell(answer.problem.message);
    setState({});
    tell('The link has ended.');
  };
  const link = state?.link;
  return (
    <>
      <p className="mb-2 max-w-[62ch] text-[13px] text-ink-soft">
        {link
          ? `${name} has a link until ${dayOf(link.endsAt)}; ${link.seenAt ? `last used on ${dayOf(link.seenAt)}` : 'not used yet'}. It is shown only when it is made: a new one ends the old.`
          : `With a link ${name} sees the week at home, practises on the stand, and what is practised goes into the log. No account is needed.`}
      </p>
      <span className="mb-2 flex flex-wrap gap-2">
        <Button onClick={() => void make()}>{link ? 'Make a new link …' : 'Make a link …'}</Button>
        {link && <Button onClick={() => void end()}>End the link</Button>}
      </span>
      <MadeLinkSheet
        made={made}
        onClose={() => setMade(undefined)}
        title={`${name}’s own week`}
        heading={`${name}, your week`}
        alt={`${name}’s link, to be scanned`}
        until={({ endsAt }) => `Until ${dayOf(endsAt)}. Whoever has it can see this week’s work: keep it at home.`}
      />
    </>
  );
}
