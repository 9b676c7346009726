import type { FingerSchool, MarkSchool, MarkStyle } from '../fingering';
import type { PlayerLimits } from '../instruments';
import type { Key, Pitch } from '../pitch';
import type { BarId, EventId, ScoreEvent, Swing } from '../score';
import type { BeatRhythm, Shortest } from './beatRhythms';

/**
 * What a teacher can decide for a level, in groups that belong together. A group goes whole from the recipe to the room
 * that obeys it, and is the key of what that room caches: a new field is added here and where it is obeyed. Absent
 * means: as the level's default says.
 */

/** Where and how fast the level plays. */
export interface KeyAndTempo {
  /** Concert key. Its mode is the tune's. */
  readonly key?: Key;
  /** Beats a minute, counted in the tune's own beat. */
  readonly perMinute?: number;
  /**
   * Nobody chose the key: the level began in it because the tune's own leaves notes out of reach, or is read in too
   * many sharps or flats.
   */
  readonly moved?: 'range' | 'signature';
}

/** Which rhythms may stand in the line. */
export interface RhythmLimits {
  readonly shortest?: Shortest;
  /**
   * Whether notes may begin off the beat and last over the next; by default those of the tune, and none in a simplified
   * melody.
   */
  readonly offBeat?: boolean;
  /** Whether a simplified melody may have dotted rhythms; it may by default. */
  readonly dotted?: boolean;
  /** Whether notes may be held over a barline; the tune's own by default. */
  readonly ties?: boolean;
  /** What one beat of a simplified melody may have, word by word; all that `shortest` and `dotted` allow by default. */
  readonly words?: readonly BeatRhythm[];
}

/**
 * The ways in which a melody is embellished. The words are those of texts on embellishment and melodic variation
 * (passing and neighbour notes, anticipation, approach, enclosure: e.g. S. Kostka and D. Payne, Tonal Harmony, ch.
 * 11–12).
 */
export const DEVICES = [
  'passing',
  'neighbour',
  'fill',
  'chord-tone',
  'run-in',
  'again',
  'approach',
  'enclosure',
  'anticipation',
  'double-time',
  'triplet',
  'grace',
  'turn',
] as const;
export type Device = (typeof DEVICES)[number];

/** How much is added to an embellished melody, and by which means. */
export interface Embellishing {
  /** Figures to a hundred beats. */
  readonly density?: number;
  readonly devices?: readonly Device[];
  /** Which variation; 0 by default. */
  readonly seed?: number;
}

/** Largest leaps that a teacher can allow, in steps: a third is two. */
export const LEAPS = [1, 2, 3, 4, 5, 7] as const;
export const LEAP_NAMES: Readonly<Record<(typeof LEAPS)[number], string>> = {
  1: 'a step',
  2: 'a third',
  3: 'a fourth',
  4: 'a fifth',
  5: 'a sixth',
  7: 'an octave',
};

/**
 * For a note out of a level's range: its phrase an octave up or down, the nearest chord tone in its place, or a rest.
 */
export const REMEDIES = ['phrase-up', 'phrase-down', 'chord-tone', 'leave-out'] as const;
export type Remedy = (typeof REMEDIES)[number];

/** What the line may not go beyond. */
export interface LineLimits {
  /** Largest leap inside a phrase, in steps; as the tune leaps by default. */
  readonly leap?: number;
  /** Lowest and highest written note, where they are not the level's usual ones. */
  readonly range?: PlayerLimits;
  /** Written notes that the player knows; all of the range by default. */
  readonly known?: readonly Pitch[];
  /** What is done about notes that the level does not have: event → remedy. */
  readonly remedies?: Readonly<Record<EventId, Remedy>>;
}

/**
 * How a line is spoken, by common teaching of wind and bow: as it is written; every note by itself; tongued, except pairs; slurred by the
 * half bar; short notes detached; off-beats slurred into the beat, as swing is tongued; two slurred and the rest
 * tongued, as dances are.
 */
export const ARTICULATION_STYLES = ['as-written', 'each', 'tongued', 'smooth', 'crisp', 'swung', 'lilting'] as const;
export type ArticulationStyle = (typeof ARTICULATION_STYLES)[number];

/**
 * What a player would pencil in, by the kind of tune: slurs, dots, accents and dynamics. `none` leaves a part with the
 * tune's own marks.
 */
export const PHRASINGS = ['song', 'hymn', 'air', 'dance', 'march', 'swing', 'tango', 'older', 'none'] as const;
export type Phrasing = (typeof PHRASINGS)[number];
export type PhrasingStyle = Exclude<Phrasing, 'none'>;

export interface ArticulationWishes {
  /** Slurs and dots; as written, with what the phrasing adds, by default. */
  readonly style?: ArticulationStyle;
  /** By the tune's style, tempo and rhythm where nothing is said. */
  readonly phrasing?: Phrasing;
  /** Eighths otherwise than the tune's. */
  readonly swing?: Swing | 'straight';
}

/**
 * The melody once; twice, the second time embellished; melody, room for a solo, melody again; or the tune's second
 * part.
 */
export const FORMS = ['once', 'twice', 'solo', 'second'] as const;
export type Form = (typeof FORMS)[number];

/**
 * How a passage that may be left out is printed: in a dashed bracket, or as rests with the tune in small notes before
 * the player comes in again.
 */
export const LEAVE_OUTS = ['bracket', 'rests'] as const;
export type LeaveOut = (typeof LEAVE_OUTS)[number];

export interface FormWishes {
  /** How often and what is played; the melody once by default. */
  readonly plays?: Form;
  /** In a bracket by default. */
  readonly leaveOut?: LeaveOut;
}

/** What stands at a bar instead of what the level made of it; pinned by a teacher, whatever else changes. */
export type BarChoice =
  | { readonly kind: 'as-written' }
  | { readonly kind: 'simpler' }
  | { readonly kind: 'simplest' }
  | { readonly kind: 'octave-up' }
  | { readonly kind: 'octave-down' }
  | { readonly kind: 'embellished'; readonly seed: number }
  | { readonly kind: 'optional' }
  | { readonly kind: 'rest' }
  | OwnBar;

/** A bar that the teacher wrote, in concert pitch as it stood then; it follows the part into other keys and octaves. */
export interface OwnBar {
  readonly kind: 'own';
  readonly events: readonly ScoreEvent[];
  /** Concert key of the part, and octaves it lay above the tune, when it was written. */
  readonly key: Key;
  readonly octaves: number;
}

/** More events than a bar of any meter has. */
export const MAX_OWN_EVENTS = 256;

/** The choices that need no more than their name. */
export const PLAIN_BAR_CHOICES = [
  'as-written',
  'simpler',
  'simplest',
  'octave-up',
  'octave-down',
  'optional',
  'rest',
] as const satisfies readonly BarChoice['kind'][];

/** Where other versions go: on a small staff over their bars, or into the second time through. */
export const ALTERNATES_AS = ['over', 'second-time'] as const;
export type AlternatesAs = (typeof ALTERNATES_AS)[number];

export type BarChoices = Readonly<Record<BarId, BarChoice>>;

/** What was decided for single bars. */
export interface BarWishes {
  /** Bars set by hand. */
  readonly chosen?: BarChoices;
  /** Other versions of bars, beside the ones that stand there. */
  readonly alternates?: BarChoices;
  /** Over the bars by default. */
  readonly alternatesAs?: AlternatesAs;
}

/**
 * What can be printed to help, beside finger marks. The first three stand under the notes, one at a time; counts may go
 * with names and degrees.
 */
export const AIDS = ['names', 'degrees', 'syllables', 'counts', 'breaths', 'bowing'] as const;
export type Aid = (typeof AIDS)[number];
/** The line below holds one of these. */
export const LINE_AIDS = ['names', 'degrees', 'syllables'] as const satisfies readonly Aid[];

/**
 * How an aid fades: it stays; it stands where something comes for the first time; it stands in the first half alone.
 */
export const FADES = ['stays', 'first-time', 'first-half'] as const;
export type Fade = (typeof FADES)[number];

export type AidWishes = Readonly<Partial<Record<Aid, Fade>>>;

/** What is printed to help in single bars, whatever the part has elsewhere. */
export type BarAids = Readonly<Record<BarId, readonly Aid[]>>;

/** Schools of rhythm syllables: counting numbers, ta-type syllables by length, sung syllables for swing. */
export const SYLLABLE_SCHOOLS = ['counting', 'ta', 'sung'] as const;
export type SyllableSchool = (typeof SYLLABLE_SCHOOLS)[number];

/** How large a part is printed, against what is usual for its level. */
export const PAGE_SIZE_TABLE = {
  small: { times: 0.87, words: 'small notes' },
  usual: { times: 1, words: 'notes of the usual size' },
  large: { times: 1.18, words: 'large notes' },
  'very-large': { times: 1.4, words: 'very large notes' },
} as const satisfies Readonly<Record<string, { readonly times: number; readonly words: string }>>;
export type PageSize = keyof typeof PAGE_SIZE_TABLE;
export const PAGE_SIZES = Object.keys(PAGE_SIZE_TABLE) as unknown as readonly [PageSize, ...PageSize[]];

/** What is printed over and under the notes. */
export interface PageWishes {
  /** Usual by default. */
  readonly size?: PageSize;
  /** Aids beside finger marks; as usual for level and instrument by default. */
  readonly aids?: AidWishes;
  /** Bars whose aids were chosen by hand: these are printed there, and no others. */
  readonly barAids?: BarAids;
  /** Counting by default. */
  readonly syllables?: SyllableSchool;
  /** How many of the fingerings are printed. */
  readonly marks?: MarkSchool;
  readonly school?: FingerSchool;
  /** How marks on strings are written; by the finger or fret by default. */
  readonly markStyle?: MarkStyle;
  /** A tablature under the notes, where the instrument has frets. */
  readonly tab?: true;
  /** Fingerings set by hand: event → id or mark of the fingering. */
  readonly pins?: Readonly<Record<EventId, string>>;
}
