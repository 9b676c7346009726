'use client';

import { ChevronLeft, Printer } from 'lucide-react';
import Link from 'next/link';
import { useState } from 'react';
import { useStore } from 'zustand';
import {
  dateOfDay,
  dateWords,
  knownDay,
  type LogEntry,
  PUPIL_LIMITS,
  type PlanWork,
  type PupilWork,
  weekdayWords,
} from '../../core/planning';
import { Button } from '../../ui/Button';
import { HelpSheet } from '../../ui/HelpSheet';
import { Rail } from '../../ui/Rail';
import { SaveStatus } from '../work/document/SaveStatus';
import type { VersionedPupil } from './openPupil';
import { PrintSheet } from './PrintSheet';
import { TakeHome } from './TakeHome';
import { usePupil, type PupilOnScreen } from './usePupil';
import { minutesOf, weekOf } from './weekPlan';

/** The lesson: what was set with the week's figures beside it, what is decided of each, and the next week at once. */
export function LessonScreen({
  given,
  log,
  today,
}: {
  readonly given: VersionedPupil;
  readonly log: readonly LogEntry[];
  readonly today: string;
}) {
  const screen = usePupil(given, log, today);
  const { pupil, open, plan } = screen;
  const save = useStore(open.store, (state) => state.save);
  const [isPrinting, setPrinting] = useState(false);
  const [help, setHelp] = useState(false);
  const going = pupil.work.filter(({ state }) => state === 'going');
  return (
    <div className="app-frame flex h-dvh">
      <Rail here="today" onHelp={() => setHelp(true)} />
      <div className="flex min-w-0 flex-1 flex-col bg-paper">
        <header className="flex flex-wrap items-center gap-3 border-b border-line bg-panel px-4 py-2 md:px-6">
          <Link
            href={`/pupils/${open.id}`}
            aria-label={`To ${pupil.name}`}
            className="flex size-8 items-center justify-center rounded hover:bg-cane-pale"
          >
            <ChevronLeft size={18} aria-hidden="true" />
          </Link>
          <h1 className="font-serif text-[20px] font-semibold">{pupil.name}: lesson</h1>
          <span className="text-[13px] text-ink-soft">
            {weekdayWords(knownDay(today))} {dateWords(knownDay(today))}
          </span>
          <span className="ml-auto flex items-center gap-2 text-[13px] text-ink-soft">
            <SaveStatus save={save} onRetry={() => void open.saver.flush()} />
            <Button onClick={() => setPrinting(true)}>
              <Printer size={15} aria-hidden="true" />
              Print the week
            </Button>
            <TakeHome screen={screen} />
          </span>
        </header>
        <main className="flex min-h-0 flex-1 flex-col overflow-auto lg:flex-row lg:overflow-hidden">
          <section aria-label="What was set" className="min-w-0 flex-1 px-4 py-3 md:px-6 lg:overflow-auto">
            {going.map((work) => (
              <Decided
                key={work.id}
                work={work}
                planned={plan?.work.find(({ id }) => id === work.id)}
                screen={screen}
              />
            ))}
            {going.length === 0 && (
              <p className="py-4 text-ink-soft">Nothing was set: put something on the stand first.</p>
            )}
            <LessonNoteField screen={screen} />
          </section>
          <aside
            aria-label="The next week"
            tabIndex={0}
            className="shrink-0 border-line bg-panel px-4 py-3 max-lg:border-t lg:w-96 lg:overflow-auto lg:border-l"
          >
            <NextWeek screen={screen} />
          </aside>
        </main>
      </div>
      {isPrinting && <PrintSheet id={open.id} onClose={() => setPrinting(false)} />}
      <HelpSheet open={help} onClose={() => setHelp(false)} />
    </div>
  );
}

/** The week that lies behind: its figures stand beside what was set. */
const WEEK = 7;

function Decided({
  work,
  planned,
  screen,
}: {
  readonly work: PupilWork;
  readonly planned: PlanWork | undefined;
  readonly screen: PupilOnScreen;
}) {
  const { log, today, addEntry, update } = screen;
  const step = planned?.steps.find(({ state }) => state === 'open') ?? planned?.steps.at(-1);
  const [tempo, setTempo] = useState<string>();
  const [note, setNote] = useState('');
  const [decided, setDecided] = useState<string>();
  const since = dateOfDay(knownDay(today) - WEEK);
  const week = log.filter((entry) => entry.work === work.id && entry.date >= since && entry.by !== 'teacher');
  const minutes = week.reduce((sum, entry) => sum + entry.minutes, 0);
  const best = Math.max(
    0,
    ...week.flatMap((entry) => (entry.good > 0 && entry.tempo !== undefined ? [entry.tempo] : [])),
  );
  const [good, again] = [
    week.reduce((sum, entry) => sum + entry.good, 0),
    week.reduce((sum, entry) => sum + entry.again, 0),
  ];
  const write = (isDone: boolean) => {
    if (!step) return;
    const reached = tempo !== undefined && /^\d{2,3}$/.test(tempo) ? Number(tempo) : step.tempo;
    addEntry({
      date: today,
      work: work.id,
      step: step.step,
      minutes: 0,
      ...(reached !== undefined && { tempo: reached }),
      good: isDone ? 1 : 0,
      again: 0,
      by: 'teacher',
      note,
    });
    setDecided(isDone ? `next step after: ${step.what}` : `carry on: ${step.what}`);
    setNote('');
    setTempo(undefined);
  };
  return (
    <article className="mb-3 rounded border border-line px-3 py-2">
      <h2 className="font-serif text-[16px] font-semibold">{work.title}</h2>
      <p className="text-[13px] text-ink-soft">
        {step ? step.what : 'at its goal'} ·{' '}
        {week.length === 0
          ? 'nothing logged this week'
          : [
              `${minutes} minutes this week`,
              best > 0 ? `good at ${best}` : '',
              good + again > 0 ? `${good} good, ${again} again` : '',
            ]
              .filter(Boolean)
              .join(', ')}
      </p>
      <div className="mt-1.5 flex flex-wrap items-center gap-2">
        {step?.tempo !== undefined && (
          <label className="flex items-center gap-1 text-[13px]">
            tempo reached
            <input
              inputMode="numeric"
              aria-label={`Tempo reached, ${work.title}`}
              className="min-h-9 w-14 rounded border border-edge bg-paper px-2 tabular-nums"
              value={tempo ?? step.tempo}
              onChange={({ target }) => setTempo(target.value.replace(/\D/g, '').slice(0, 3))}
            />
          </label>
        )}
        <input
          aria-label={`A word on ${work.title}`}
          placeholder="a word"
          className="min-h-9 min-w-32 flex-1 rounded border border-edge bg-paper px-2"
          value={note}
          maxLength={200}
          onChange={({ target }) => setNote(target.value)}
        />
        <Button className="min-h-9" onClick={() => write(false)}>
          Carry on
        </Button>
        <Button kind="main" className="min-h-9" disabled={planned?.needed === 0} onClick={() => write(true)}>
          Next step
        </Button>
        <Button
          kind="quiet"
          className="min-h-9"
          onClick={() =>
            update('put aside', (now) => ({
              ...now,
              work: now.work.map((one) => (one.id === work.id ? { ...one, state: 'aside' } : one)),
            }))
          }
        >
          Put aside
        </Button>
      </div>
      <p role="status" className="text-[12.5px] text-ink-soft">
        {decided}
      </p>
    </article>
  );
}

function LessonNoteField({ screen }: { readonly screen: PupilOnScreen }) {
  const { pupil, today, update } = screen;
  const present = pupil.lessons.find(({ date }) => date === today)?.note ?? '';
  const [typed, setTyped] = useState<string>();
  const commit = () => {
    if (typed !== undefined && typed !== present)
      update('note of the lesson', (now) => ({
        ...now,
        lessons: [...now.lessons.filter(({ date }) => date !== today), { date: today, note: typed }]
          .toSorted((a, b) => a.date.localeCompare(b.date))
          .slice(-PUPIL_LIMITS.lessons),
      }));
    setTyped(undefined);
  };
  return (
    <label className="block text-[13px] font-medium text-ink-soft">
      Note of the lesson
      <textarea
        className="mt-0.5 block min-h-20 w-full rounded border border-edge bg-paper px-2 py-1 text-ink"
        maxLength={PUPIL_LIMITS.note}
        value={typed ?? present}
        onChange={({ target }) => setTyped(target.value)}
        onBlur={commit}
      />
    </label>
  );
}

function NextWeek({ screen: { pupil, plan, log, today } }: { readonly screen: PupilOnScreen }) {
  const ahead = [...weekOf(pupil, plan, log, today, 0), ...weekOf(pupil, plan, log, today, 1)]
    .filter(({ date }) => date >= today)
    .slice(0, WEEK + 1);
  return (
    <>
      <h2 className="mb-1 font-serif text-base font-semibold">Until the next lesson</h2>
      <ol>
        {ahead
          .filter(({ items }) => items.length > 0)
          .map(({ date, items }) => (
            <li key={date} className="border-t border-line py-1.5">
              <h3 className="text-[13px] font-semibold">
                {weekdayWords(knownDay(date))} {dateWords(knownDay(date))}, {minutesOf(items)} minutes
              </h3>
              <ul className="text-[13px]">
                {items.map((item, k) => (
                  <li key={k} className="grid grid-cols-[48px_1fr]">
                    <span className="tabular-nums text-ink-soft">{item.minutes} min</span>
                    {item.what}
                  </li>
                ))}
              </ul>
            </li>
          ))}
      </ol>
      {ahead.every(({ items }) => items.length === 0) && (
        <p className="text-[13px] text-ink-soft">Nothing is planned.</p>
      )}
    </>
  );
}
