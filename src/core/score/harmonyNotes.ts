import type { ChordFunction } from '../harmony';
import type { Key } from '../pitch';
import type { Ticks } from '../time';

export const STYLES = ['song', 'hymn', 'dance', 'modal', 'blues', 'jazz', 'rock'] as const;
/**
 * How a tune is played, and what may be added to it: half steps and blue notes belong to some of these and not to
 * others.
 */
export type Style = (typeof STYLES)[number];

/** A chord's reading set by hand. */
export interface ReadingNote {
  /** Id of the bar, and the place in it. */
  readonly bar: string;
  readonly at: Ticks;
  /** Concert key from here to the next chord with one. */
  readonly key?: Key;
  readonly function?: ChordFunction;
}

/** What a teacher says of a tune's harmony, where it is not as the program reads it. */
export interface HarmonyNotes {
  readonly style?: Style;
  readonly readings?: readonly ReadingNote[];
}
