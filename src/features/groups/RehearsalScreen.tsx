'use client';

import { ChevronLeft, Printer } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { barWords, dateWords, knownDay, type MemberState, type RehearsalItem, type Stumble } from '../../core/planning';
import { Button } from '../../ui/Button';
import { HelpSheet } from '../../ui/HelpSheet';
import { Rail } from '../../ui/Rail';
import { Select } from '../../ui/Select';

interface Props {
  readonly id: string;
  readonly name: string;
  readonly tunes: readonly { readonly tune: string; readonly title: string; readonly count: number }[];
  readonly chosen: string | undefined;
  readonly minutes: number;
  readonly states: readonly MemberState[];
  readonly stumbles: readonly Stumble[];
  readonly items: readonly RehearsalItem[];
}

const LENGTHS = [20, 30, 40, 60, 90] as const;

/** A group's work: who is ready, where everybody stumbles, and what to rehearse in the time there is. */
export function RehearsalScreen({ id, name, tunes, chosen, minutes, states, stumbles, items }: Props) {
  const router = useRouter();
  const [help, setHelp] = useState(false);
  const go = (tune: string | undefined, length: number) => {
    const query = new URLSearchParams({ ...(tune !== undefined && { tune }), minutes: String(length) });
    router.push(`/groups/${id}/rehearsal?${query.toString()}`);
  };
  const worst = stumbles.filter(({ again }) => again > 0).slice(0, 6);
  return (
    <div className="app-frame flex h-dvh">
      <Rail here="groups" onHelp={() => setHelp(true)} />
      <div className="flex min-w-0 flex-1 flex-col bg-paper">
        <header className="flex flex-wrap items-center gap-3 border-b border-line bg-panel px-4 py-2 md:px-6">
          <Link
            href="/groups"
            aria-label="All groups"
            className="no-print flex size-8 items-center justify-center rounded hover:bg-cane-pale"
          >
            <ChevronLeft size={18} aria-hidden="true" />
          </Link>
          <h1 className="font-serif text-[20px] font-semibold">{name}: rehearsal</h1>
          <Button className="no-print ml-auto" onClick={() => window.print()}>
            <Printer size={15} aria-hidden="true" />
            Print
          </Button>
        </header>
        <main className="min-h-0 flex-1 overflow-auto px-4 py-3 md:px-6">
          {tunes.length === 0 ? (
            <p className="max-w-prose py-6">
              Nobody in this group has a tune on the stand. Put one there on a pupil’s page, under Work; players who are
              no pupils yet are found under{' '}
              <Link href="/pupils" className="underline">
                Pupils
              </Link>
              .
            </p>
          ) : (
            <>
              <p className="mb-3 leading-8">
                Rehearse{' '}
                <Select
                  label="Tune"
                  look="word"
                  value={chosen ?? ''}
                  options={tunes.map(({ tune, title, count }) => ({
                    value: tune,
                    label: title,
                    hint: `${count} of the group`,
                  }))}
                  onChange={(tune) => go(tune, minutes)}
                />{' '}
                in{' '}
                <Select
                  label="Minutes"
                  look="word"
                  value={String(minutes)}
                  options={[...new Set([...LENGTHS, minutes])].map((length) => ({
                    value: String(length),
                    label: `${length} minutes`,
                  }))}
                  onChange={(length) => go(chosen, Number(length))}
                />
                .
              </p>
              <div className="grid max-w-6xl gap-6 lg:grid-cols-[1.4fr_1fr]">
                <section aria-label="Plan">
                  <h2 className="font-serif text-base font-semibold">What to rehearse</h2>
                  <ol>
                    {items.map((item, k) => (
                      <li key={k} className="grid grid-cols-[56px_1fr] gap-x-2 border-t border-line py-2">
                        <span className="font-semibold tabular-nums">{item.minutes} min</span>
                        <div>
                          <p className="font-serif">{item.what}</p>
                          <p className="text-[13px] text-ink-soft">
                            {item.who}: {item.why}
                          </p>
                        </div>
                      </li>
                    ))}
                  </ol>
                  <p className="mt-2 text-[12.5px] text-ink-soft">
                    Sit well, rest between, and stop where something hurts.
                  </p>
                </section>
                <div>
                  <Ready states={states} />
                  <section aria-label="Stumbles" className="mt-5">
                    <h2 className="font-serif text-base font-semibold">Where everybody stumbles</h2>
                    {worst.length === 0 && (
                      <p className="text-[13px] text-ink-soft">No round had to come again in the last six weeks.</p>
                    )}
                    <ul>
                      {worst.map(({ fromBar, toBar, again, rounds, who }) => (
                        <li key={`${fromBar}-${toBar}`} className="border-t border-line py-1 text-[13px]">
                          <span className="font-semibold">{barWords(fromBar, toBar)}</span>: {again} of {rounds} rounds
                          again ({who.join(', ')})
                        </li>
                      ))}
                    </ul>
                  </section>
                </div>
              </div>
            </>
          )}
        </main>
      </div>
      <HelpSheet open={help} onClose={() => setHelp(false)} />
    </div>
  );
}

function Ready({ states }: { readonly states: readonly MemberState[] }) {
  return (
    <section aria-label="Ready">
      <h2 className="font-serif text-base font-semibold">Who is ready?</h2>
      <table className="w-full text-left text-[13px]">
        <thead className="text-[12.5px] text-ink-soft">
          <tr>
            <th scope="col" className="font-medium">
              Name
            </th>
            <th scope="col" className="font-medium">
              Tempo
            </th>
            <th scope="col" className="font-medium">
              Steps
            </th>
            <th scope="col" className="font-medium">
              Ready
            </th>
          </tr>
        </thead>
        <tbody>
          {states.map(({ name, tempo, goal, done, steps, isReady, ready }) => (
            <tr key={name} className="border-t border-line">
              <th scope="row" className="py-1 font-semibold">
                {name}
              </th>
              <td className="tabular-nums">
                {tempo ?? '–'}
                {goal !== undefined && ` of ${goal}`}
              </td>
              <td className="tabular-nums">
                {done} of {steps}
              </td>
              <td>{isReady ? 'yes' : ready === null ? 'not in this term' : dateWords(knownDay(ready))}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
