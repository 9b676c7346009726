'use client';

import { useState } from 'react';
import { z } from 'zod';
import { nameOfSet, type ScaleName } from '../../core/harmony';
import { type Instrument, type Level, profileOf } from '../../core/instruments';
import { send } from '../work/send';

const openedSchema = z.object({
  tunes: z.array(z.object({ id: z.string(), title: z.string(), keyName: z.string(), missing: z.number() })),
  whole: z.number(),
  of: z.number(),
});
const firstSchema = z.object({
  sets: z.array(z.object({ name: z.string(), reasons: z.array(z.string()), opens: z.number() })),
});

type Opened = z.infer<typeof openedSchema>;
type First = z.infer<typeof firstSchema>;

/** What a set opens on the shelf, and for a beginner which set to start with: asked for when wanted. */
export function SetOpens({
  set,
  instrument,
  catalogueId,
  level,
}: {
  readonly set: ScaleName;
  readonly instrument: Instrument;
  /** Of a custom instrument, the one it was made from. */
  readonly catalogueId: string;
  readonly level: Level;
}) {
  const [opened, setOpened] = useState<Opened & { readonly set: ScaleName }>();
  const [first, setFirst] = useState<First & { readonly instrument: string }>();
  const [problem, setProblem] = useState<string>();
  const ask = async () => {
    const answer = await send(`/api/sets?set=${encodeURIComponent(set)}`, openedSchema, { method: 'GET' });
    setProblem(answer.ok ? undefined : answer.problem.message);
    if (answer.ok) setOpened({ ...answer.value, set });
  };
  const askFirst = async () => {
    const answer = await send(`/api/sets?for=${encodeURIComponent(catalogueId)}`, firstSchema, { method: 'GET' });
    setProblem(answer.ok ? undefined : answer.problem.message);
    if (answer.ok) setFirst({ ...answer.value, instrument: instrument.id });
  };
  const link = 'min-h-6 text-left underline underline-offset-2';
  return (
    <section aria-label="What sets open" className="border-t border-line pt-2 text-[13px]">
      <button type="button" className={link} onClick={() => void ask()}>
        Which tunes does the {nameOfSet(set)} open?
      </button>
      {opened?.set === set && (
        <>
          <p>
            {opened.whole} of {opened.of} {opened.of === 1 ? 'tune' : 'tunes'} on the shelf whole, in some key:
          </p>
          <ul className="max-h-44 overflow-y-auto">
            {opened.tunes.map(({ id, title, keyName, missing }) => (
              <li key={id}>
                <a className="underline underline-offset-2" href={`/tunes/${id}/tune`}>
                  {title || 'Untitled'}
                </a>{' '}
                <span className="text-ink-soft">
                  {missing === 0 ? 'whole' : `all but ${missing === 1 ? 'one note' : 'two notes'}`}, {keyName}
                </span>
              </li>
            ))}
            {opened.tunes.length === 0 && <li className="text-ink-soft">None, even with two notes more.</li>}
          </ul>
        </>
      )}
      {profileOf(level).pools.asksForFirst && (
        <div className="mt-1">
          <button type="button" className={link} onClick={() => void askFirst()}>
            Which set first on the {inSentence(instrument.name)}?
          </button>
          {first?.instrument === instrument.id && (
            <ol className="list-decimal pl-5">
              {first.sets.map(({ name, reasons }) => (
                <li key={name}>
                  <span className="font-semibold">{name}</span>{' '}
                  <span className="text-ink-soft">{reasons.join(' · ')}</span>
                </li>
              ))}
            </ol>
          )}
        </div>
      )}
      {problem && (
        <p role="alert" className="text-warn">
          {problem}
        </p>
      )}
    </section>
  );
}

/** `Trumpet in B♭` inside a sentence: the note's name keeps its capital. */
function inSentence(name: string): string {
  return name.slice(0, 1).toLowerCase() + name.slice(1);
}
