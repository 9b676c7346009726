'use client';

import type { ReactNode } from 'react';
import { deviceWords, landings, phraseWords } from '../../core/levels';
import type { ReadSolo } from '../../core/solos';

/** What can be said of any solo, composed or brought in: its phrases, what is counted, and its leaning notes. */
export function SoloFacts({ solo, children }: { readonly solo: ReadSolo; readonly children?: ReactNode }) {
  const { measures } = solo;
  const words = deviceWords(solo);
  const landed = landings(solo);
  const percent = (share: number) => `${Math.round(100 * share)} %`;
  return (
    <div className="space-y-3">
      <section aria-label="Plan">
        <h3 className="font-semibold">The plan</h3>
        <ol className="list-decimal pl-6 text-[13px]">
          {solo.phrases.map((phrase, index) => {
            const from = solo.bars.findIndex(({ start }) => start === phrase.start) + 1;
            const to = solo.bars.findLastIndex(({ start }) => start < phrase.end) + 1;
            return (
              <li key={index}>
                {phraseWords(phrase)}{' '}
                <span className="text-ink-soft">{from === to ? `bar ${from}` : `bars ${from} to ${to}`}</span>
              </li>
            );
          })}
        </ol>
      </section>
      <section aria-label="Measured" className="border-t border-line pt-2 text-[13px]">
        <p>
          {percent(measures.strongBeatHome)} of the strong beats rest on a tone of their chord;{' '}
          {percent(measures.repeatedIdeas)} of the phrases go back to an earlier one; the longest stretch without a rest
          lasts {Math.round(measures.longestRun * 2) / 2} quarters.
        </p>
        {children}
      </section>
      <section aria-label="What lands" className="border-t border-line pt-2 text-[13px]">
        <h3 className="text-[14px] font-semibold">New chords met on a third or seventh</h3>
        {landed.length === 0 ? (
          <p className="text-ink-soft">
            None yet: end a phrase, or begin one, on the note by which a new chord is known.
          </p>
        ) : (
          <p>
            {landed.map(({ bar, text }, index) => (
              <span key={index}>
                {index > 0 && '; '}
                <span className="text-ink-soft">bar {bar}:</span> {text}
              </span>
            ))}
          </p>
        )}
      </section>
      <section aria-label="Leaning notes" className="border-t border-line pt-2 text-[13px]">
        <h3 className="text-[14px] font-semibold">Notes that lean or come early</h3>
        {words.length === 0 ? (
          <p className="text-ink-soft">None: every note rests, or is a colour of its chord.</p>
        ) : (
          <ul className="max-h-52 overflow-y-auto">
            {words.map(({ bar, text }, index) => (
              <li key={index}>
                <span className="text-ink-soft">bar {bar}:</span> {text}
              </li>
            ))}
          </ul>
        )}
      </section>
    </div>
  );
}
