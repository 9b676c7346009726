import type { PitchClass, Letter } from './pitch';

/** The letters as they follow one another on the line of fifths; F stands at −1, C at 0, B at 5. */
const LETTERS_BY_FIFTHS: readonly Letter[] = ['F', 'C', 'G', 'D', 'A', 'E', 'B'];

/** Place on the line of fifths: C 0, G 1, F −1, F♯ 6, B♭ −2. Unlike a semitone number it tells twins apart. */
export function fifthsOf({ step, alter }: PitchClass): number {
  return LETTERS_BY_FIFTHS.indexOf(step) - 1 + 7 * alter;
}

/** The note name at a place on the line of fifths (the inverse of `fifthsOf`). */
export function pitchClassAtFifths(place: number): PitchClass {
  const alter = Math.floor((place + 1) / 7);
  const step = LETTERS_BY_FIFTHS[place + 1 - 7 * alter];
  if (step === undefined) throw new RangeError(`place ${place} on the line of fifths is not an integer`);
  return { step, alter };
}
