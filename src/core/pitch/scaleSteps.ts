import { alterInKey, type Key } from './key';
import { naturalAt, pitchOf, semitones, staffPosition, type Pitch, type PitchClass } from './pitch';

/**
 * The note so many letters away, as the key and the chord of the moment spell that letter: over an A7 in G major the
 * step below D is C♯. In minor without a chord the scale is the natural one.
 */
export function scaleStep(from: Pitch, steps: number, key: Key, tones: readonly PitchClass[] = []): Pitch {
  const natural = naturalAt(staffPosition(from) + steps);
  const tone = tones.find(({ step }) => step === natural.step);
  return pitchOf(natural.step, tone?.alter ?? alterInKey(natural.step, key), natural.octave);
}

/**
 * A half step below, spelled a letter below, as a leading note is; `undefined` where that letter would need a double
 * accidental.
 */
export function leadingNoteTo(pitch: Pitch): Pitch | undefined {
  const natural = naturalAt(staffPosition(pitch) - 1);
  const alter = semitones(pitch) - 1 - semitones(natural);
  return Math.abs(alter) <= 1 ? pitchOf(natural.step, alter, natural.octave) : undefined;
}
