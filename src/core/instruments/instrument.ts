import { type Interval, opposite, type Pitch, semitones } from '../pitch';
import type { Clef } from '../score';
import { LEVELS, type Level } from './levelProfile';

export { LEVELS, type Level };
export const FAMILIES = ['woodwind', 'brass', 'strings', 'fretted', 'percussion', 'free-reed', 'voice'] as const;
/** `strings` are bowed, `fretted` are plucked, `percussion` has pitched bars. */
export type Family = (typeof FAMILIES)[number];

/** Which chart of hole and key fingerings an instrument follows; charts are in written pitch. */
export const HOLE_CHARTS = [
  'flute',
  'recorder-c',
  'recorder-c-german',
  'recorder-f',
  'recorder-f-german',
  'whistle-d',
  'clarinet',
  'saxophone',
  'oboe',
  'bassoon',
] as const;
export type HoleChart = (typeof HOLE_CHARTS)[number];

/** How notes are made: what a fingering is worked out from. All pitches are written ones. */
export type Mechanism =
  | {
      readonly kind: 'holes';
      readonly charts: readonly [HoleChart, ...HoleChart[]];
      /** Written semitones by which the instrument reads above its chart. */ readonly above?: number;
    }
  /** `open` is the first partial of the open tube; `second` that of the other side of a double horn. */
  | { readonly kind: 'valves'; readonly valves: 3 | 4; readonly open: Pitch; readonly second?: Pitch }
  | { readonly kind: 'slide'; readonly open: Pitch }
  | { readonly kind: 'bowed'; readonly hand: BowedHand; readonly strings: readonly Pitch[] }
  | { readonly kind: 'fretted'; readonly strings: readonly Pitch[]; readonly frets: number }
  | { readonly kind: 'bars' }
  | { readonly kind: 'harmonica' }
  | { readonly kind: 'keys' }
  | { readonly kind: 'voice' };

/**
 * Which steps the fingers of the left hand lie on: letters (violin, viola), half steps (cello), half steps with two
 * fingers paired (double bass).
 */
export type BowedHand = 'violin' | 'cello' | 'double-bass';

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
  readonly mechanism: Mechanism;
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
