'use client';

import { FileMusic, Printer } from 'lucide-react';
import { useMemo, useState } from 'react';
import type { Level } from '../../core/instruments';
import {
  BOW_RHYTHMS,
  type BowRhythm,
  describeGrip,
  hasGrips,
  stringChords,
  stringNames,
  usualBowRhythm,
} from '../../core/levels';
import { instrumentOf, recipesOf, type Work } from '../../core/work';
import { Select } from '../../ui/Select';
import { LEVEL_NAMES } from '../../ui/LevelSign';

const RHYTHM_WORDS: Readonly<Record<BowRhythm, string>> = {
  long: 'long bows',
  shuffle: 'long and two short',
  quick: 'the same twice as quick',
};

/** Chords on two strings for a player of a bowed or plucked instrument: the grips, a rhythm, and the page. */
export function ChordWords({
  work,
  level,
  onFile,
}: {
  readonly work: Work;
  readonly level: Level;
  readonly onFile: (name: string, download: boolean) => void;
}) {
  const [rhythm, setRhythm] = useState<BowRhythm>();
  const recipe = recipesOf(work)[level];
  const instrument = useMemo(() => instrumentOf(recipe), [recipe]);
  const wanted = rhythm ?? usualBowRhythm(level);
  const made = useMemo(
    () =>
      hasGrips(instrument) && work.tune.bars.some(({ chords }) => chords.length > 0)
        ? stringChords(work.tune, instrument, level, wanted, recipe.keyAndTempo?.key ?? work.tune.key)
        : undefined,
    [work.tune, instrument, level, wanted, recipe.keyAndTempo?.key],
  );
  if (!made) return null;
  const names = stringNames(instrument);
  const item =
    'inline-flex min-h-8 items-center gap-1.5 rounded border border-edge bg-paper px-2 font-medium hover:bg-cane-pale';
  return (
    <section aria-label="Chords on two strings" className="mt-4 border-t border-line pt-3">
      <h3 className="font-semibold">Chords on two strings</h3>
      <p className="mt-1 leading-8">
        Under the tune, in{' '}
        <Select<BowRhythm>
          look="word"
          label={`${LEVEL_NAMES[level]}: rhythm of the chords`}
          value={wanted}
          options={BOW_RHYTHMS.map((value) => ({ value, label: RHYTHM_WORDS[value] }))}
          onChange={setRhythm}
        />
        .
      </p>
      <ul className="text-[13px] text-ink-soft">
        {made.grips.map(({ symbol, grip }, index) => (
          <li key={index}>
            <span className="font-semibold text-ink">{signed(symbol)}</span> {signed(describeGrip(grip, names))}
          </li>
        ))}
      </ul>
      {made.missing.length > 0 && (
        <p className="mt-1 text-[13px] text-warn">
          No grip in the first position for {made.missing.map(signed).join(', ')}:{' '}
          {made.missing.length === 1 ? 'it rests' : 'they rest'}.
        </p>
      )}
      <p className="mt-1.5 flex gap-1.5">
        <button
          type="button"
          aria-label="Print it: the chords"
          className={item}
          onClick={() => onFile(`${level}.chords.pdf?rhythm=${wanted}`, false)}
        >
          <Printer size={15} aria-hidden="true" />
          Print it
        </button>
        <button
          type="button"
          aria-label="MusicXML of the chords"
          className={item}
          onClick={() => onFile(`${level}.chords.musicxml?rhythm=${wanted}`, true)}
        >
          <FileMusic size={15} aria-hidden="true" />
          MusicXML
        </button>
      </p>
    </section>
  );
}

/** With real signs instead of # and b. */
function signed(text: string): string {
  return text.replaceAll('#', '♯').replace(/(?<=\b[A-G])b|b(?=\d)/g, '♭');
}
