import type { Interval } from './interval';
import { naturalAt, semitones, staffPosition, type Pitch, type PitchClass } from './pitch';

/**
 * The pitch an interval away, spelled by the interval: a major third above B3 is D♯4, never E♭4.
 * @param interval steps and semitones, both negative when it falls
 * @returns `alter` is kept however large; making it readable is the task of `respell`
 */
export function transpose(pitch: Pitch, interval: Interval): Pitch {
  const natural = naturalAt(staffPosition(pitch) + interval.diatonic);
  return { step: natural.step, alter: semitones(pitch) + interval.chromatic - semitones(natural), octave: natural.octave };
}

/** As `transpose`, for a note name without octave. */
export function transposeClass({ step, alter }: PitchClass, interval: Interval): PitchClass {
  const moved = transpose({ step, alter, octave: 4 }, interval);
  return { step: moved.step, alter: moved.alter };
}
