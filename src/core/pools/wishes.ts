import type { ScaleName } from '../harmony';
import type { Level } from '../instruments';
import type { Interval } from '../pitch';

/** Kinds of pools, from one set over everything to a scale for each chord. */
export const POOL_KINDS = [
  'whole',
  'bent',
  'pentatonic',
  'chord-tones',
  'guide-tones',
  'colour',
  'chord-scale',
] as const;
export type PoolKind = (typeof POOL_KINDS)[number];

export const POOL_NAMES: Readonly<Record<PoolKind, string>> = {
  whole: 'one set over everything',
  bent: 'the set, bent to each chord',
  pentatonic: 'a pentatonic for each chord',
  'chord-tones': 'chord tones',
  'guide-tones': 'guide tones',
  colour: 'added colour',
  'chord-scale': 'chord scales',
};

/** What a beginner improvises with: one scale over the whole form, or chord tones from the start. */
export const POOL_SCHOOLS = ['one-set', 'chord-tones'] as const;
export type PoolSchool = (typeof POOL_SCHOOLS)[number];

/**
 * Decided for the chord at one place. Notes are intervals above the chord's root, so that they follow it into other
 * keys.
 */
export interface ChordWish {
  /** Another scale on the chord's root. */
  readonly set?: ScaleName;
  readonly added?: readonly Interval[];
  readonly struck?: readonly Interval[];
}

/** What a teacher can decide about a level's notes to improvise with. Absent means: as the level's preset says. */
export interface ImprovisingWishes {
  readonly pools?: readonly PoolKind[];
  readonly school?: PoolSchool;
  /** 0 for lines along the key, 100 for lines down the chords. */
  readonly towardsChords?: number;
  /** The set over the whole form: its name, and its tonic above the home note. */
  readonly whole?: { readonly name: ScaleName; readonly above: Interval };
  /** How many notes of the set are open so far: the stage of the growing set, from 0; all by default. */
  readonly stage?: number;
  /** By place, `barId/ticks`. */
  readonly chords?: Readonly<Record<string, ChordWish>>;
  /** A word of advice to the player, printed with the pool. */
  readonly advice?: string;
}

export const MAX_ADVICE = 300;

/** Where a chord stands, as wishes name it. */
export function chordPlace(bar: string, at: number): string {
  return `${bar}/${at}`;
}

interface Preset {
  readonly pools: readonly PoolKind[];
  readonly towardsChords: number;
  /** How the level begins. */
  readonly words: string;
}

/** Beginners start with one set and without a backing: common practice of teaching improvisation. */
const PRESETS: Readonly<Record<PoolSchool, Readonly<Record<Level, Preset>>>> = {
  'one-set': {
    beginner: {
      pools: ['whole'],
      towardsChords: 0,
      words: 'One set over the whole form: alone at first, then with a backing.',
    },
    intermediate: {
      pools: ['bent', 'chord-tones'],
      towardsChords: 40,
      words: 'The set, bent where a chord asks for it; chord tones where the chords change.',
    },
    advanced: {
      pools: ['chord-scale', 'guide-tones'],
      towardsChords: 75,
      words: 'A scale for each chord; half steps and enclosures into chord tones; guide tones through the changes.',
    },
  },
  'chord-tones': {
    beginner: {
      pools: ['chord-tones'],
      towardsChords: 100,
      words: 'Chord tones from the start: the root first, then 1 and 3, then 1 3 5 7.',
    },
    intermediate: {
      pools: ['chord-tones', 'colour'],
      towardsChords: 80,
      words: 'Chord tones joined by the nearest step, with the usual colours.',
    },
    advanced: {
      pools: ['chord-scale', 'guide-tones'],
      towardsChords: 75,
      words: 'A scale for each chord; half steps and enclosures into chord tones; guide tones through the changes.',
    },
  },
};

export function presetFor(level: Level, school: PoolSchool = 'one-set'): Preset {
  return PRESETS[school][level];
}
