import type { Pitch } from '../pitch';
import type { Ticks, Tuplet } from '../time';

export const ARTICULATIONS = [
  'staccato',
  'staccatissimo',
  'accent',
  'strong-accent',
  'tenuto',
  'breath',
  'up-bow',
  'down-bow',
] as const;
export type Articulation = (typeof ARTICULATIONS)[number];
export const ORNAMENTS = ['trill', 'turn', 'mordent', 'inverted-mordent', 'roll'] as const;
export type Ornament = (typeof ORNAMENTS)[number];
export const DYNAMICS = ['ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff', 'sfz', 'fp'] as const;
export type Dynamic = (typeof DYNAMICS)[number];

/** Names an event through edits, overrides and playback. Unique within its tune. */
export type EventId = string;
export type BarId = string;

export interface GraceNote {
  readonly pitch: Pitch;
  /** A stroke through the flag: played before the beat. */
  readonly slashed?: true;
}

export interface Lyric {
  /** Counted from 1. */
  readonly verse: number;
  readonly text: string;
  /** The word goes on with the next note's syllable. */
  readonly hyphen?: true;
  /** The syllable is held over the following notes. */
  readonly extend?: true;
}

interface Timed {
  readonly id: EventId;
  /** Sounding length; always one printed value once the tuplet is undone. */
  readonly length: Ticks;
  readonly tuplet?: Tuplet;
  /** Stands in a bracket: a passage that may be left out. Neighbours with the mark are one passage. */
  readonly optional?: true;
}

export const HAIRPINS = ['crescendo', 'diminuendo'] as const;
export type Hairpin = (typeof HAIRPINS)[number];
export const PHRASE_MARKS = ['begins', 'goes-on'] as const;
/** The teacher's word on a phrase boundary: one is before this note, or none is. */
export type PhraseMark = (typeof PHRASE_MARKS)[number];

export interface Note extends Timed {
  readonly kind: 'note';
  /** Concert pitch in a tune, written pitch in a part. */
  readonly pitch: Pitch;
  /** Joined to the next note of the same pitch and not struck again there. */
  readonly tied?: true;
  readonly graces?: readonly GraceNote[];
  readonly articulations?: readonly Articulation[];
  readonly ornaments?: readonly Ornament[];
  readonly fermata?: true;
  readonly dynamic?: Dynamic;
  /** Begins with this note. */
  readonly hairpin?: Hairpin;
  /** The open hairpin ends with this note. */
  readonly hairpinEnds?: true;
  /** Slurs that begin or end here; at most a few, hence counts. */
  readonly slurStarts?: number;
  readonly slurEnds?: number;
  /** At most one a verse, in their order. */
  readonly lyrics?: readonly Lyric[];
  readonly phrase?: PhraseMark;
  /** In a part alone: a small note that somebody else plays. It does not sound here. */
  readonly cue?: true;
  /** In a part alone: what is sounded together with `pitch`, upwards. */
  readonly chord?: readonly Pitch[];
}

export interface Rest extends Timed {
  readonly kind: 'rest';
  readonly fermata?: true;
}

export type ScoreEvent = Note | Rest;
