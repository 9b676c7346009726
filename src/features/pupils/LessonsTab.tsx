'use client';

import { dateWords, knownDay, weekdayWords } from '../../core/planning';
import type { PupilOnScreen } from './usePupil';

/** Lessons that were held, with what was noted and what the teacher logged in them; the last first. */
export function LessonsTab({ screen: { pupil, log } }: { readonly screen: PupilOnScreen }) {
  const titleOf = (id: string) => pupil.work.find((work) => work.id === id)?.title ?? 'work that was removed';
  const lessons = pupil.lessons.toReversed();
  return (
    <div role="region" aria-label="Lessons" tabIndex={0} className="overflow-auto px-4 py-3 md:px-6">
      {lessons.length === 0 && <p className="py-4 text-ink-soft">No lesson was noted yet.</p>}
      <ol className="max-w-3xl">
        {lessons.map(({ date, note }, k) => {
          const entries = log.filter((entry) => entry.date === date && entry.by === 'teacher');
          return (
            <li key={`${date}${k}`} className="border-b border-line py-2">
              <h2 className="font-serif font-semibold">
                {weekdayWords(knownDay(date))} {dateWords(knownDay(date))}
              </h2>
              {note !== '' && <p className="whitespace-pre-line">{note}</p>}
              <ul className="text-[13px] text-ink-soft">
                {entries.map((entry, place) => (
                  <li key={place}>
                    {titleOf(entry.work)}
                    {entry.tempo !== undefined && ` at ${entry.tempo}`}: {entry.good > 0 ? 'next step' : 'carry on'}
                    {entry.note !== '' && `; ${entry.note}`}
                  </li>
                ))}
              </ul>
            </li>
          );
        })}
      </ol>
    </div>
  );
}
