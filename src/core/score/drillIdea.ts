import type { ChordSymbol, ScaleName } from '../harmony';
import type { Key, PitchClass } from '../pitch';
import type { Meter, Ticks } from '../time';

/**
 * Which way the steps of a drill go; the notes inside a group keep their order, but for `alternate`: one group up, the
 * next down. `melodic` goes up and down, the minor raised going up and natural coming down. `nearest` is for the chords
 * of a form.
 */
export const DRILL_DIRECTIONS = ['up-down', 'up', 'down', 'down-up', 'alternate', 'melodic', 'nearest'] as const;
export type DrillDirection = (typeof DRILL_DIRECTIONS)[number];

/** How far a drill goes: five notes, one to three octaves, or from the lowest to the highest note that the level may play. */
export const DRILL_EXTENTS = ['five', 'octave', 'two', 'three', 'full'] as const;
export type DrillExtent = (typeof DRILL_EXTENTS)[number];

export const DRILL_RHYTHMS = [
  'half',
  'quarter',
  'eighth',
  'triplet',
  'sixteenth',
  'offbeat',
  'swing',
  'dotted',
  'borrowed',
] as const;
/** What the notes of a drill are dressed in. `borrowed` is a rhythm of a tune, kept with the idea. */
export type DrillRhythm = (typeof DRILL_RHYTHMS)[number];

/** How a drill is tongued, bowed or picked. */
export const DRILL_ARTICULATIONS = [
  'plain',
  'slurred-2',
  'slurred-4',
  'slurred-8',
  'one-slurred-one',
  'hooked',
  'detached',
  'groups-accented',
  'threes-accented',
  'picked',
] as const;
export type DrillArticulation = (typeof DRILL_ARTICULATIONS)[number];

/**
 * Orders of the twelve keys. `minor-thirds` are three rounds of four; `easiest` is the easiest first for the instrument
 * and level.
 */
export const KEY_ORDERS = ['fourths', 'fifths', 'semitones', 'whole-tones', 'minor-thirds', 'easiest'] as const;
export type KeyOrder = (typeof KEY_ORDERS)[number];

/** A chord at its place from the start of the bar; as a tune has them. */
interface FormChord {
  readonly at: Ticks;
  readonly symbol: ChordSymbol;
}

/** The chords that a drill goes over: a form in one meter, in concert pitch. */
export interface DrillForm {
  readonly title: string;
  readonly key: Key;
  readonly meter: Meter;
  /** Chords in their bars; a bar without goes on with the chord before. `partial` is the length of a pickup. */
  readonly bars: readonly { readonly chords: readonly FormChord[]; readonly partial?: Ticks }[];
}

/** One exercise of a drill: what is played through the keys. */
export interface Exercise {
  readonly set: ScaleName;
  /** As on the command line: `scale`, `thirds`, `cell:1 2 3 5` … */
  readonly pattern: string;
  readonly direction?: DrillDirection;
  /** As the level goes by default. */
  readonly extent?: DrillExtent;
  readonly rhythm?: DrillRhythm;
  /** Whether groups are turned round on the way down, so that they fall; as the pattern has it by default. */
  readonly mirrored?: boolean;
  /** On frets: an octave in one shape of the hand, moved from key to key; wherever it lies best by default. */
  readonly hand?: 'shape';
}

/**
 * When a pupil goes on to the next step of a ladder: once it is mastered at a tempo, so many times running, or after
 * all steps in turn.
 */
interface MovingOn {
  readonly when: 'mastered' | 'in-turn';
  /** Rounds without a mistake, 1–9. */
  readonly rounds: number;
}

/** A key a day or a week, from a date (`2026-01-31`). */
export interface KeyDates {
  readonly every: 'day' | 'week';
  readonly from: string;
}

/**
 * The signature of harmonic and melodic minor: that of minor, with its raised notes as accidentals, or the one that
 * holds most of the set's notes.
 */
export const SET_SIGNATURES = ['minor', 'nearest'] as const;
export type SetSignature = (typeof SET_SIGNATURES)[number];

/** A drill: an idea that is laid out anew for every level and instrument. All pitches are concert. */
export interface DrillIdea {
  /** One exercise, or a ladder of them with rising demand. */
  readonly steps: readonly [Exercise, ...Exercise[]];
  /** Concert tonics in their order, or an order of all twelve; by the level where nothing is said. */
  readonly keys?: KeyOrder | readonly PitchClass[];
  /** The first concert tonic of an order; the level's first key by default. */
  readonly start?: PitchClass;
  readonly articulation?: DrillArticulation;
  /** Lengths that come round again, negative ones as rests: the borrowed rhythm. */
  readonly borrowed?: readonly Ticks[];
  readonly over?: DrillForm;
  /** Minor by default. */
  readonly signature?: SetSignature;
  /** Another path through inversions; 0 by default. */
  readonly seed?: number;
  readonly movingOn?: MovingOn;
  readonly dates?: KeyDates;
  /** Whether the three steps (say, finger, play) are printed before the music. */
  readonly spoken?: boolean;
}

/** More steps than a ladder has, keys than are gone through, and groups in a cell. */
export const DRILL_LIMITS = { steps: 24, keys: 24, cell: 16, borrowed: 64, bars: 2_000 } as const;
