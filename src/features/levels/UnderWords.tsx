'use client';

import { FileMusic, Printer } from 'lucide-react';
import { useMemo, useState } from 'react';
import type { Level } from '../../core/instruments';
import { instrumentOf, recipesOf, type Work } from '../../core/work';
import { firstNotes, type UnderPace, underPart } from '../../core/levels';
import { type Key, nameKey, namePitchClass } from '../../core/pitch';
import { Select } from '../../ui/Select';
import { LEVEL_NAMES } from '../../ui/LevelSign';

const PACE_WORDS: Readonly<Record<UnderPace, string>> = {
  bar: 'one note a bar',
  half: 'two notes a bar',
  beat: 'a note on every beat',
};

/** For those who cannot play the level yet: a part from open strings or a few notes that fits under it. */
export function UnderWords({
  work,
  level,
  onFile,
  onKey,
}: {
  readonly work: Work;
  readonly level: Level;
  readonly onFile: (name: string, download: boolean) => void;
  readonly onKey: (key: Key) => void;
}) {
  const [pace, setPace] = useState<UnderPace>('bar');
  const [count, setCount] = useState<'3' | '5'>('3');
  const recipe = recipesOf(work)[level];
  const instrument = useMemo(() => instrumentOf(recipe), [recipe]);
  const hasStrings = instrument.mechanism.kind === 'bowed' || instrument.mechanism.kind === 'fretted';
  const made = useMemo(
    () =>
      underPart(
        work.tune,
        instrument,
        firstNotes(instrument, count === '5' ? 5 : 3),
        pace,
        recipe.keyAndTempo?.key ?? work.tune.key,
      ),
    [work.tune, instrument, count, pace, recipe.keyAndTempo?.key],
  );
  const query = `notes=${count}&pace=${pace}`;
  const item =
    'inline-flex min-h-8 items-center gap-1.5 rounded border border-edge bg-paper px-2 font-medium hover:bg-cane-pale';
  return (
    <section aria-label="Easier part" className="mt-4 border-t border-line pt-3">
      <h3 className="font-semibold">An easier part under the tune</h3>
      <p className="mt-1 leading-8">
        From{' '}
        {hasStrings ? (
          'the open strings'
        ) : (
          <>
            the first{' '}
            <Select
              look="word"
              label={`${LEVEL_NAMES[level]}: notes of the easier part`}
              value={count}
              options={[
                { value: '3', label: 'three' },
                { value: '5', label: 'five' },
              ]}
              onChange={setCount}
            />{' '}
            notes
          </>
        )}
        ,{' '}
        <Select<UnderPace>
          look="word"
          label={`${LEVEL_NAMES[level]}: pace of the easier part`}
          value={pace}
          options={(['bar', 'half', 'beat'] as const).map((value) => ({ value, label: PACE_WORDS[value] }))}
          onChange={setPace}
        />
        .
      </p>
      <p className={`text-[13px] ${made.fits ? 'text-ink-soft' : 'text-warn'}`}>
        {made.used.length === 1 ? 'One note is' : `${made.used.length} notes are`} needed:{' '}
        {made.used.map(namePitchClass).join(' ')}.{' '}
        {made.fits ? 'They sit well on the chords.' : 'They clash in this key. '}
        {!made.fits && made.better.length > 0 && (
          <>
            Better in{' '}
            {made.better.map((key, index) => (
              <span key={nameKey(key)}>
                {index > 0 && ' or '}
                <button
                  type="button"
                  onClick={() => onKey(key)}
                  className="min-h-7 font-semibold underline underline-offset-2"
                >
                  {nameKey(key)}
                </button>
              </span>
            ))}
            .
          </>
        )}
      </p>
      {made.part.lead && (
        <p className="mt-1 text-[13px] whitespace-pre-wrap tabular-nums">{made.part.lead.join('\n')}</p>
      )}
      <p className="mt-1.5 flex gap-1.5">
        <button
          type="button"
          aria-label="Print it: the easier part"
          className={item}
          onClick={() => onFile(`${level}.under.pdf?${query}`, false)}
        >
          <Printer size={15} aria-hidden="true" />
          Print it
        </button>
        <button
          type="button"
          aria-label="MusicXML of the easier part"
          className={item}
          onClick={() => onFile(`${level}.under.musicxml?${query}`, true)}
        >
          <FileMusic size={15} aria-hidden="true" />
          MusicXML
        </button>
      </p>
    </section>
  );
}
