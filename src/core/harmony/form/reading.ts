import type { Key } from '../../pitch';
import type { Ticks } from '../../time';
import type { TimedChord } from './timedChord';

/** What a chord does in the key of its place. */
export const CHORD_FUNCTIONS = [
  'tonic',
  'predominant',
  'dominant',
  'secondary dominant',
  'related ii',
  'tritone substitute',
  'backdoor',
  'passing',
  'borrowed',
  'modal',
  'outside',
] as const;
export type ChordFunction = (typeof CHORD_FUNCTIONS)[number];

export interface ChordReading {
  readonly chord: TimedChord;
  /** The key of its place; a short excursion stays in the key around it. */
  readonly key: Key;
  /** `ii7`, `V7/ii`, `♭VII7`; empty for N.C. */
  readonly numeral: string;
  readonly function: ChordFunction;
  /** Semitones above the key's tonic of the chord that a secondary dominant, its ii or a substitute leads to. */
  readonly target?: number;
  /** Whether that chord is a minor one. */
  readonly targetIsMinor?: boolean;
  /** Set by hand. */
  readonly corrected?: true;
}

type PatternKind = 'ii–V–I' | 'ii–V' | 'backdoor' | 'turnaround' | 'blues' | 'minor blues' | 'rhythm A' | 'vamp';

/** A run of chords that musicians know as one thing. */
export interface FormPattern {
  readonly kind: PatternKind;
  /** Index of the first chord, and of the one after the last. */
  readonly from: number;
  readonly to: number;
  readonly key: Key;
}

export interface FormReading {
  readonly home: Key;
  readonly chords: readonly ChordReading[];
  readonly patterns: readonly FormPattern[];
  /** Stretches in one key. */
  readonly areas: readonly { readonly from: number; readonly to: number; readonly key: Key }[];
}

/** A reading set by hand for the chord at a place; a key holds until the next chord with a key set by hand. */
export interface ReadingCorrection {
  readonly bar: number;
  readonly at: Ticks;
  readonly key?: Key;
  readonly function?: ChordFunction;
}
