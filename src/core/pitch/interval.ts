import { semitones, staffPosition, type Pitch } from './pitch';

/**
 * A directed interval: letters and semitones, both negative when it falls.
 * A rising major third is {2, 4}, a falling perfect fifth {−4, −7}.
 */
export interface Interval {
  readonly diatonic: number;
  readonly chromatic: number;
}

export const UNISON: Interval = { diatonic: 0, chromatic: 0 };

export function octaves(count: number): Interval {
  return { diatonic: 7 * count, chromatic: 12 * count };
}

/** The same interval the other way. (Not the inversion: a fifth's inversion is a fourth.) */
export function opposite(interval: Interval): Interval {
  return { diatonic: 0 - interval.diatonic, chromatic: 0 - interval.chromatic };
}

export function addIntervals(a: Interval, b: Interval): Interval {
  return { diatonic: a.diatonic + b.diatonic, chromatic: a.chromatic + b.chromatic };
}

export function intervalBetween(from: Pitch, to: Pitch): Interval {
  return { diatonic: staffPosition(to) - staffPosition(from), chromatic: semitones(to) - semitones(from) };
}

/**
 * The twelve notes of an octave as they are spelled above a note, flat where two names are in use but for the raised
 * fourth.
 */
export const TWELVE_ABOVE: readonly Interval[] = [
  [0, 0],
  [1, 1],
  [1, 2],
  [2, 3],
  [2, 4],
  [3, 5],
  [3, 6],
  [4, 7],
  [5, 8],
  [5, 9],
  [6, 10],
  [6, 11],
].map(([diatonic = 0, chromatic = 0]) => ({ diatonic, chromatic }));
