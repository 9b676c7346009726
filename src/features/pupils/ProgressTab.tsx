'use client';

import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { useMemo } from 'react';
import { tonicsInOrder } from '../../core/drills';
import { dateWords, instrumentOfPlaying, knownDay } from '../../core/planning';
import { writtenKeyOf } from '../../core/keys';
import { namePitchClass, printPitchClass } from '../../core/pitch';
import { keyFigures, minuteFigures, noteFigures, tempoFigures, type KeyFigures, type TempoFigures } from './chartData';
import { LogEntries } from './LogEntries';
import { LogImport } from './LogImport';
import type { PupilOnScreen } from './usePupil';

// The chart library is for who looks at charts.
const TempoChart = dynamic(() => import('./charts').then((charts) => charts.TempoChart), { ssr: false });
const MinutesChart = dynamic(() => import('./charts').then((charts) => charts.MinutesChart), { ssr: false });
const NotesChart = dynamic(() => import('./charts').then((charts) => charts.NotesChart), { ssr: false });

const DAYS = 42;
const FOURTHS = tonicsInOrder('fourths', { step: 'C', alter: 0 });

/** Questions that the log answers, each a chart with the same figures as a table. */
export function ProgressTab({ screen }: { readonly screen: PupilOnScreen }) {
  const { pupil, plan, log, today, open } = screen;
  const router = useRouter();
  const tempos = useMemo(() => tempoFigures(pupil, plan, log, today), [pupil, plan, log, today]);
  const minutes = useMemo(() => minuteFigures(pupil, log, today, DAYS), [pupil, log, today]);
  const notes = useMemo(() => noteFigures(log), [log]);
  const keys = useMemo(
    () => keyFigures(plan, pupil, log, today, FOURTHS.map(printPitchClass)),
    [plan, pupil, log, today],
  );
  const climbed = tempos.filter(({ reached, forecast }) => reached.length + forecast.length > 0);
  return (
    <div className="overflow-auto px-4 py-3 md:px-6">
      <div className="grid gap-6 *:min-w-0 xl:grid-cols-2">
        {climbed.map((figures) => (
          <section key={figures.id} aria-label={figures.title}>
            <h2 className="font-serif text-base font-semibold">{tempoQuestion(figures)}</h2>
            <div className="h-56">
              <TempoChart figures={figures} today={today} />
            </div>
            <TempoTable figures={figures} />
          </section>
        ))}
        <section aria-label="Minutes">
          <h2 className="font-serif text-base font-semibold">What was practised?</h2>
          <div className="h-56">
            <MinutesChart figures={minutes} />
          </div>
          <Figures
            heads={['Date', ...minutes.kinds.map(({ name }) => name), 'set']}
            rows={minutes.dates.map((date, k) => [
              dateWords(knownDay(date)),
              ...minutes.kinds.map((kind) => kind.minutes[k] ?? 0),
              minutes.set[k] ?? 0,
            ])}
          />
        </section>
        {notes.length > 0 && (
          <section aria-label="Notes">
            <h2 className="font-serif text-base font-semibold">How many notes right?</h2>
            <div className="h-56">
              <NotesChart figures={notes} />
            </div>
            <Figures
              heads={['Date', 'right, per cent']}
              rows={notes.map(({ date, value }) => [dateWords(knownDay(date)), value])}
            />
          </section>
        )}
      </div>
      {keys.drills.length > 0 && <KeyTable figures={keys} screen={screen} />}
      <LogEntries screen={screen} onChanged={() => router.refresh()} />
      <p className="mt-4 text-[13px]">
        <a className="underline" href={`/api/pupils/${open.id}/files/log.csv`}>
          The whole log as CSV
        </a>{' '}
        ·{' '}
        <a className="underline" href={`/api/pupils/${open.id}/files/plan.csv`}>
          The plan as CSV
        </a>{' '}
        ·{' '}
        <a className="underline" href={`/api/pupils/${open.id}/files/practice.ics`}>
          Practice and lessons for a calendar
        </a>{' '}
        <LogImport screen={screen} onDone={() => router.refresh()} />
      </p>
    </div>
  );
}

function tempoQuestion({ title, goal, by }: TempoFigures): string {
  return `${title}: ready for ${goal}${by === undefined ? '?' : ` by ${dateWords(knownDay(by))}?`}`;
}

function TempoTable({ figures: { reached, forecast, early, late } }: { readonly figures: TempoFigures }) {
  const words = (date: string | undefined) => (date === undefined ? '' : dateWords(knownDay(date)));
  return (
    <Figures
      heads={['Date', 'tempo', 'how sure']}
      rows={[
        ...reached.map(({ date, value }) => [words(date), value, 'played']),
        ...forecast
          .slice(1)
          .map(({ date, value }, k) => [
            words(date),
            value,
            `planned, between ${words(early[k + 1]?.date)} and ${words(late[k + 1]?.date)}`,
          ]),
      ]}
    />
  );
}

function Figures({
  heads,
  rows,
}: {
  readonly heads: readonly string[];
  readonly rows: readonly (readonly (string | number)[])[];
}) {
  return (
    <details className="text-[12.5px]">
      <summary className="cursor-pointer text-ink-soft">The figures</summary>
      <div className="max-h-60 overflow-auto">
        <table className="w-full text-left tabular-nums">
          <thead>
            <tr>
              {heads.map((head) => (
                <th key={head} scope="col" className="pr-3 font-medium">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row, k) => (
              <tr key={k} className="border-t border-line">
                {row.map((cell, column) => (
                  <td key={column} className="pr-3">
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  );
}

/** So long ago a key is called old. */
const OLD_DAYS = 28;

function KeyTable({ figures, screen }: { readonly figures: KeyFigures; readonly screen: PupilOnScreen }) {
  const [first] = screen.pupil.playing;
  const instrument = first && instrumentOfPlaying(first);
  return (
    <section aria-label="Keys" className="mt-6 overflow-auto">
      <h2 className="font-serif text-base font-semibold">Which keys are in the fingers?</h2>
      <p className="text-[12.5px] text-ink-soft">
        Keys as the pupil reads them, round the fourths: the best good tempo, and how many days ago it was played.
      </p>
      <table className="mt-1 border-collapse text-center text-[13px] tabular-nums">
        <thead>
          <tr>
            <th scope="col" className="pr-3 text-left font-medium">
              Drill
            </th>
            {FOURTHS.map((tonic) => (
              <th key={printPitchClass(tonic)} scope="col" className="w-14 px-1 font-medium">
                {namePitchClass(instrument ? writtenKeyOf(instrument, { tonic, mode: 'major' }).tonic : tonic)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {figures.drills.map(({ id, title, cells }) => (
            <tr key={id} className="border-t border-line">
              <th scope="row" className="max-w-60 truncate pr-3 text-left font-normal">
                {title}
              </th>
              {cells.map(({ best, days }, k) => (
                <td
                  key={figures.keys[k]}
                  className={`border border-line px-1 ${days === undefined ? 'text-ink-soft' : days > OLD_DAYS ? 'bg-panel' : 'bg-cane-pale'}`}
                >
                  {best ?? (days === undefined ? '–' : '·')}
                  {days !== undefined && (
                    <span className="block text-[12px] leading-3 text-ink-soft">
                      {days === 0 ? 'today' : `${days} d`}
                    </span>
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
