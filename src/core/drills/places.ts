import type { Instrument, WrittenRange } from '../instruments/instrument';
import { namePitchClass, semitones, type Pitch } from '../pitch/pitch';
import { withoutDoubleAccidental } from '../pitch/respell';
import { transpose } from '../pitch/transpose';

/** A stretch of a fingerboard that a drill may keep to. */
export interface Place {
  readonly name: string;
  readonly range: WrittenRange;
}

/** Semitones that the fingers reach on a string without a shift: a fifth on bowed strings (with the fourth finger), four frets on plucked ones. */
const REACH = { bowed: 7, fretted: 4 } as const;

/** Pairs of neighbouring strings in the lowest position; none on other instruments. */
export function stringPairs({ mechanism }: Instrument): readonly Place[] {
  if (mechanism.kind !== 'bowed' && mechanism.kind !== 'fretted') return [];
  const strings = mechanism.strings.toSorted((a, b) => semitones(a) - semitones(b));
  return strings.slice(1).flatMap((upper, index): readonly Place[] => {
    const lower = strings[index];
    return lower
      ? [
          {
            name: `on the ${namePitchClass(lower)} and ${namePitchClass(upper)} strings`,
            range: { low: lower, high: reached(upper, REACH[mechanism.kind]) },
          },
        ]
      : [];
  });
}

function reached(open: Pitch, semis: number): Pitch {
  const diatonic = semis === 7 ? 4 : 2;
  return withoutDoubleAccidental(transpose(open, { diatonic, chromatic: semis }));
}
