'use client';

import { FileMusic, FileText, Headphones, Printer } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { difficultyText } from '../../core/analysis/difficultyWords';
import type { Level } from '../../core/instruments/instrument';
import { deviceWords, phraseWords, type SoloPart } from '../../core/levels/soloPart';
import { recipesOf, withRecipe, type Work } from '../../core/levels/recipe/work';
import type { ReadSolo } from '../../core/solos/readSolo';
import { capitalised } from '../../core/plainText';
import { barNumbers } from '../../core/score/tune';
import { Choice } from '../../ui/Choice';
import { LEVEL_NAMES } from '../../ui/LevelSign';

const BUTTON =
  'flex min-h-8 flex-1 items-center justify-center gap-1.5 rounded border border-[#8f8d7c] bg-paper px-2 font-medium hover:bg-cane-pale';

/** What a solo is made of, in words: its phrases, what its leaning notes do, what can be counted; and its files. */
export function SoloDrawer({
  work,
  level,
  made,
  read,
  isKept,
  onFile,
  onChange,
}: {
  readonly work: Work;
  readonly level: Level;
  readonly made: SoloPart | undefined;
  /** The tune itself, where it is read as a solo. */
  readonly read: ReadSolo | undefined;
  readonly isKept: boolean;
  readonly onFile: (name: string, download: boolean) => void;
  readonly onChange: (name: string, after: Work) => void;
}) {
  const [isPrinted, setPrinted] = useState(false);
  if (read) return <SoloFacts solo={read} />;
  if (!made) return <p className="text-[13px] text-ink-soft">There is no solo at this level yet.</p>;
  const { solo, part } = made;
  const name = `${level}.solo.pdf${isPrinted ? '?analysis' : ''}`;
  const plays = recipesOf(work)[level].form?.plays ?? 'once';
  return (
    <div className="space-y-3">
      <SoloFacts solo={solo}>
        <p className="mt-1 text-ink-soft">
          {capitalised(difficultyText(part.difficulty, barNumbers(part), level))}.
          {made.isProposed && ' The chords are proposals: the tune has none.'}
        </p>
      </SoloFacts>
      <section aria-label="Form" className="border-t border-line pt-2 leading-8">
        The {LEVEL_NAMES[level].toLowerCase()} part plays{' '}
        <Choice
          look="word"
          label={`${LEVEL_NAMES[level]}: form`}
          value={plays === 'solo' ? 'solo' : 'once'}
          options={[
            { value: 'once', label: plays === 'solo' ? 'the melody once' : 'as its recipe says' },
            { value: 'solo', label: 'melody, solo, melody' },
          ]}
          onChange={(value) =>
            onChange(
              `${LEVEL_NAMES[level]}: ${value === 'solo' ? 'melody, solo, melody' : 'the melody once'}`,
              withRecipe(work, level, { form: { plays: value === 'solo' ? 'solo' : undefined } }),
            )
          }
        />
        {plays === 'solo' && !isKept && (
          <span className="text-[13px] text-ink-soft">; keep a take to have it printed there</span>
        )}
        .
      </section>
      <section aria-label="Download" className="border-t border-line pt-2">
        <p className="mb-1 leading-8">
          {isKept ? 'The kept take' : 'The first take'} on paper, with degrees{' '}
          <Choice
            look="word"
            label="Degrees on paper"
            value={isPrinted ? 'yes' : 'no'}
            options={[
              { value: 'no', label: 'not printed' },
              { value: 'yes', label: 'under the notes' },
            ]}
            onChange={(value) => setPrinted(value === 'yes')}
          />
          .
        </p>
        <div className="flex flex-wrap gap-1.5">
          <button type="button" className={BUTTON} onClick={() => onFile(name, false)}>
            <Printer size={15} aria-hidden="true" />
            Print
          </button>
          <button type="button" className={BUTTON} onClick={() => onFile(name, true)}>
            <FileText size={15} aria-hidden="true" />
            PDF
          </button>
          <button type="button" className={BUTTON} onClick={() => onFile(`${level}.solo.musicxml`, true)}>
            <FileMusic size={15} aria-hidden="true" />
            MusicXML
          </button>
          <button type="button" className={BUTTON} onClick={() => onFile(`${level}.solo.mp3`, true)}>
            <Headphones size={15} aria-hidden="true" />
            MP3
          </button>
        </div>
      </section>
    </div>
  );
}

/** What can be said of any solo, composed or brought in: its phrases, what is counted, and its leaning notes. */
function SoloFacts({ solo, children }: { readonly solo: ReadSolo; readonly children?: ReactNode }) {
  const { measures } = solo;
  const words = deviceWords(solo);
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
