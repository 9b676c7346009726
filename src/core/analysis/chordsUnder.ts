import { derived } from '../derived';
import { chordTones } from '../harmony';
import type { PitchClass } from '../pitch';
import { barSpans, type SoundingNote, type Tune } from '../score';
import type { Ticks } from '../time';

/** The chord tones in force where each note is struck; `undefined` before the first chord, empty under N.C. */
export const chordTonesUnder = derived(freshTones, { by: ({ bars, meter }, notes) => [bars, meter, notes] });

function freshTones(
  tune: Pick<Tune, 'bars' | 'meter'>,
  notes: readonly SoundingNote[],
): readonly (readonly PitchClass[] | undefined)[] {
  const spans = barSpans(tune);
  const placed = tune.bars.flatMap((bar, index) =>
    bar.chords.map(({ at, symbol }) => ({ at: (spans[index]?.start ?? 0) + at, symbol })),
  );
  let next = 0;
  let current: readonly PitchClass[] | undefined;
  return notes.map((note) => {
    for (let chord = placed[next]; chord && chord.at <= note.start; chord = placed[next]) {
      current = chordTones(chord.symbol).map(({ pitchClass }) => pitchClass);
      next += 1;
    }
    return current;
  });
}

/** The chord tones in force at a place, in ticks from the start of the tune; `undefined` before the first chord. */
export const chordTonesAt = derived(
  (tune: Pick<Tune, 'bars' | 'meter'>): ((at: Ticks) => readonly PitchClass[] | undefined) => {
    const spans = barSpans(tune);
    const placed = tune.bars.flatMap((bar, index) =>
      bar.chords.map(({ at, symbol }) => ({
        at: (spans[index]?.start ?? 0) + at,
        tones: chordTones(symbol).map(({ pitchClass }) => pitchClass),
      })),
    );
    return (at) => {
      let [low, high] = [0, placed.length];
      while (low < high) {
        const middle = (low + high) >> 1;
        if ((placed[middle]?.at ?? Infinity) <= at) low = middle + 1;
        else high = middle;
      }
      return placed[low - 1]?.tones;
    };
  },
  { by: ({ bars, meter }) => [bars, meter] },
);
