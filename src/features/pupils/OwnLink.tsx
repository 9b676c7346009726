'use client';

import { Printer } from 'lucide-react';
import { useEffect, useState } from 'react';
import { z } from 'zod';
import { dateWords, knownDay } from '../../core/planning';
import { Button } from '../../ui/Button';
import { Sheet } from '../../ui/Sheet';
import { useToast } from '../../ui/Toast';
import { CopyButton } from '../work/CopyButton';
import { ScanSquare } from '../work/ScanSquare';
import { nothing, send } from '../work/send';

const stateSchema = z.object({
  link: z.object({ madeAt: z.string(), endsAt: z.string(), seenAt: z.string().optional() }).optional(),
});
const madeSchema = z.object({ address: z.string(), endsAt: z.string(), square: z.string() });
type Made = z.infer<typeof madeSchema>;

const dayOf = (iso: string) => dateWords(knownDay(iso.slice(0, 10)));

/** The link by which a pupil comes to their own week, at home. */
export function OwnLink({ pupil, name }: { readonly pupil: string; readonly name: string }) {
  const tell = useToast();
  const [state, setState] = useState<z.infer<typeof stateSchema>>();
  const [made, setMade] = useState<Made>();
  const address = `/api/pupils/${pupil}/link` as const;
  useEffect(() => {
    void send(address, stateSchema, { method: 'GET' }).then((answer) => answer.ok && setState(answer.value));
  }, [address]);
  const make = async () => {
    const answer = await send(address, madeSchema, { method: 'POST', json: {} });
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
      <Sheet
        open={made !== undefined}
        onClose={() => setMade(undefined)}
        title={`${name}’s own week`}
        description="Scan it with a telephone, or open the address. It is shown this once."
        width="max-w-md"
      >
        {made && <MadeLink made={made} name={name} />}
      </Sheet>
    </>
  );
}

function MadeLink({ made, name }: { readonly made: Made; readonly name: string }) {
  return (
    <div>
      <div data-print-alone className="flex flex-col items-start gap-3">
        <p className="hidden font-serif text-xl font-semibold print:block">{name}, your week</p>
        <ScanSquare svg={made.square} alt={`${name}’s link, to be scanned`} size={220} />
        <p className="font-mono text-[13px] break-all">{made.address}</p>
        <p className="text-[13px]">
          Until {dayOf(made.endsAt)}. Whoever has it can see this week’s work: keep it at home.
        </p>
      </div>
      <span className="mt-4 flex gap-2">
        <Button kind="main" onClick={() => window.print()}>
          <Printer size={14} aria-hidden="true" />
          Print
        </Button>
        <CopyButton text={made.address} label="Copy the address" />
      </span>
    </div>
  );
}
