'use client';

import Link from 'next/link';
import { useState } from 'react';
import { HelpSheet } from '../../ui/HelpSheet';
import { Rail } from '../../ui/Rail';
import { MinuteBars } from './MinuteBars';
import { Plays } from './PupilsScreen';
import { dayWords, type PupilRow } from './pupilRow';

/** The day's lessons in order, each with what was practised and what needs a look. */
export function TodayScreen({ rows, today }: { readonly rows: readonly PupilRow[]; readonly today: string }) {
  const [help, setHelp] = useState(false);
  const withLesson = rows.flatMap((row) => (row.lesson ? [{ ...row, lesson: row.lesson }] : []));
  const byTime = withLesson.toSorted(
    (a, b) => a.lesson.date.localeCompare(b.lesson.date) || a.lesson.time.localeCompare(b.lesson.time),
  );
  const ofToday = byTime.filter(({ lesson }) => lesson.date === today);
  const next = byTime.filter(({ lesson }) => lesson.date !== today).slice(0, 6);
  return (
    <div className="app-frame flex h-dvh">
      <Rail here="today" onHelp={() => setHelp(true)} />
      <div className="flex min-w-0 flex-1 flex-col">
        <header className="border-b border-line bg-panel px-4 py-3.5 md:px-6">
          <h1 className="font-serif text-[22px] leading-7 font-semibold">Today</h1>
          <p className="text-[13px] text-ink-soft">
            {ofToday.length === 0
              ? 'No lessons today.'
              : `${ofToday.length} ${ofToday.length === 1 ? 'lesson' : 'lessons'}, ${ofToday.reduce((sum, { lesson }) => sum + lesson.minutes, 0)} minutes.`}
          </p>
        </header>
        <main className="min-h-0 flex-1 overflow-auto bg-paper px-4 py-4 md:px-6">
          <ol className="max-w-4xl">
            {ofToday.map((row) => (
              <li key={row.id} className="grid grid-cols-[64px_1fr] gap-x-4 border-b border-line py-3">
                <span className="font-serif text-lg font-semibold tabular-nums">{row.lesson.time}</span>
                <div className="flex flex-wrap items-start justify-between gap-3">
                  <div className="min-w-0">
                    <Link
                      href={`/pupils/${row.id}/lesson`}
                      className="font-serif text-lg font-semibold underline-offset-3 hover:underline"
                    >
                      {row.name}
                    </Link>
                    <Plays plays={row.plays} />
                    <p className="text-[13px]">{row.work.join(' · ') || 'nothing on the stand'}</p>
                    {row.attention.map((text) => (
                      <p key={text} className="text-[13px] text-warn">
                        {text}
                      </p>
                    ))}
                  </div>
                  <MinuteBars minutes={row.minutes} weekly={row.weekly} />
                </div>
              </li>
            ))}
          </ol>
          {next.length > 0 && (
            <section className="mt-6 max-w-4xl">
              <h2 className="mb-1 font-serif text-base font-semibold">Next</h2>
              <ul>
                {next.map((row) => (
                  <li key={row.id} className="flex flex-wrap gap-x-3 py-1">
                    <span className="w-44 text-ink-soft tabular-nums">
                      {dayWords(row.lesson.date, today)}, {row.lesson.time}
                    </span>
                    <Link href={`/pupils/${row.id}`} className="font-semibold underline-offset-3 hover:underline">
                      {row.name}
                    </Link>
                    <span className="text-[13px] text-ink-soft">{row.work.slice(0, 3).join(' · ')}</span>
                  </li>
                ))}
              </ul>
            </section>
          )}
          {rows.length === 0 && (
            <p className="py-6">
              No pupil yet:{' '}
              <Link className="underline" href="/pupils">
                add the first one
              </Link>
              .
            </p>
          )}
        </main>
      </div>
      <HelpSheet open={help} onClose={() => setHelp(false)} />
    </div>
  );
}
