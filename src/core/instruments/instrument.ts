import { opposite, type Interval } from '../pitch/interval';
import { semitones, type Pitch } from '../pitch/pitch';
import type { Clef } from '../score/clef';

export const LEVELS = ['beginner', 'intermediate', 'advanced'] as const;
export type Level = (typeof LEVELS)[number];
export type Family = 'woodwind' | 'brass' | 'strings';

/** Lowest and highest note, as the player reads them. */
export interface WrittenRange {
  readonly low: Pitch;
  readonly high: Pitch;
}

/** What the engines need to know of an instrument. All pitches are written ones. */
export interface Instrument {
  readonly id: string;
  readonly name: string;
  /** For a lane's head, where there is little room. */
  readonly shortName: string;
  readonly family: Family;
  readonly clef: Clef;
  /** Added to a concert pitch to get the written one. */
  readonly transposition: Interval;
  /** Nested: beginner within intermediate within advanced within full. */
  readonly range: Readonly<Record<Level | 'full', WrittenRange>>;
  /** Pairs of neighbouring notes that are hard to cross. */
  readonly breaks: readonly (readonly [Pitch, Pitch])[];
  /** Written keys in which first pupils begin. */
  readonly homeKeys: readonly string[];
  /** How long a first-year player may play on before a rest. */
  readonly beginnerMinutes: number;
  /** How long one breath (or bow at a moderate dynamic) comfortably lasts at beginner level. */
  readonly breathSeconds: number;
  readonly source: string;
}

/** Added to a written pitch to get the sounding one. */
export function toSounding(instrument: Instrument): Interval {
  return opposite(instrument.transposition);
}

/** Semitones by which a written pitch lies outside a range: negative below, positive above, 0 within. */
export function outsideBy(pitch: Pitch, range: WrittenRange): number {
  const height = semitones(pitch);
  if (height < semitones(range.low)) return height - semitones(range.low);
  return Math.max(0, height - semitones(range.high));
}
