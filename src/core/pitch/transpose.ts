import type { Interval } from './interval';
import { naturalSemitones, pitchOf, semitones, staffPosition, LETTERS, type Pitch, type PitchClass } from './pitch';

/**
 * The pitch an interval away, spelled by the interval: a major third above B3 is D♯4, never E♭4.
 * Rule (hard): written = concert + the instrument's interval, by step and by semitone; the leading note becomes the
 * leading note again, never its flat twin.
 * @param interval steps and semitones, both negative when it falls
 * @returns `alter` is kept however large; making it readable is the task of `respell`
 */
export function transpose(pitch: Pitch, interval: Interval): Pitch {
  const position = staffPosition(pitch) + interval.diatonic;
  const octave = Math.floor(position / 7);
  const step = LETTERS[position - 7 * octave];
  if (step === undefined) throw new RangeError(`an interval has whole steps, not ${interval.diatonic}`);
  return pitchOf(step, semitones(pitch) + interval.chromatic - 12 * octave - naturalSemitones(step), octave);
}

/** As `transpose`, for a note name without octave. */
export function transposeClass({ step, alter }: PitchClass, interval: Interval): PitchClass {
  const moved = transpose(pitchOf(step, alter, 4), interval);
  return { step: moved.step, alter: moved.alter };
}
