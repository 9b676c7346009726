import type { BarId, ScoreEvent } from './event';
import type { Key } from '../pitch';

/**
 * What somebody plays while another has the tune: the tune; a second voice that moves with it; a counter-melody that
 * moves where it rests; a pad of long notes; the bass; one or two notes in the rhythm of the style.
 */
export const PART_ROLES = ['tune', 'second', 'counter', 'pad', 'bass', 'rhythm'] as const;
export type PartRole = (typeof PART_ROLES)[number];

/** Who gets the tune: one player for the whole of it; those who play it well in turn; everybody in turn. */
export const HANDINGS = ['one', 'in-turn', 'everybody'] as const;
export type Handing = (typeof HANDINGS)[number];

/** What is played before the tune: bars made of its last phrase, or bars of counting. */
export const INTRODUCTIONS = ['count', 'two', 'four'] as const;
export type Introduction = (typeof INTRODUCTIONS)[number];

/** How it ends: the last two bars again; the last chord held a bar longer; broader, held. */
export const CLOSINGS = ['tag', 'held', 'slowed'] as const;
export type Closing = (typeof CLOSINGS)[number];

/** What stands in a bar of a player's part instead of what the program made. */
export type TogetherBar =
  | { readonly kind: 'simpler' }
  | { readonly kind: 'other'; readonly seed: number }
  | { readonly kind: 'octave-up' }
  | { readonly kind: 'octave-down' }
  | { readonly kind: 'rest' }
  /** Written by hand, in concert pitch as it stood in `key`. */
  | { readonly kind: 'own'; readonly events: readonly ScoreEvent[]; readonly key: Key };

/** A cell of the table of players and sections: what somebody does there, or that they sit out. */
export type TogetherCell = PartRole | 'out';

/** What a teacher decided about playing a tune together. Sections are named by the bar that they begin with. */
export interface TogetherNotes {
  /** By section, then by player. */
  readonly cells?: Readonly<Record<BarId, Readonly<Record<string, TogetherCell>>>>;
  /** Handed round in turn by default. */
  readonly handing?: Handing;
  /** By player, then by bar. */
  readonly bars?: Readonly<Record<string, Readonly<Record<BarId, TogetherBar>>>>;
  /** Levels that players have for this tune, where they are not the group's; ids of levels. */
  readonly levels?: Readonly<Record<string, string>>;
  /** Players who are not there today. */
  readonly absent?: readonly string[];
  /** Concert key and beats a minute for all; the tune's own key and the slowest level's tempo by default. */
  readonly key?: Key;
  readonly perMinute?: number;
  readonly intro?: Introduction;
  readonly closing?: Closing;
  /** Only the leader and the bass play the first time through; then all do. */
  readonly thinFirst?: true;
  /** A chorus of solos over pads and bass between two times through. */
  readonly solos?: true;
  /** Which arrangement; 0 by default. */
  readonly seed?: number;
}
