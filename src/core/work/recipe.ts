import { customInstrument, type CustomInstrument, type Instrument, instrumentById, type Level } from '../instruments';
import type { DrillWishes } from '../drills';
import type { SoloWishes } from '../solos';
import type { ImprovisingWishes } from '../pools';
import { type Tempo, TEMPO_LIMITS, type Tune } from '../score';
import {
  type ArticulationWishes,
  type BarWishes,
  type Device,
  DEVICES,
  type Embellishing,
  type FormWishes,
  type KeyAndTempo,
  type LineLimits,
  type PageWishes,
  type RhythmLimits,
} from './groups';
import type { Shortest } from './beatRhythms';

/** The tune in fewer notes, as it is, or with more. */
export const MELODIES = ['simplified', 'as written', 'embellished'] as const;
export type Melody = (typeof MELODIES)[number];

/** What a teacher decided for a level of one tune. Absent means: as the level's default says. */
export interface Recipe {
  readonly instrument: string;
  /** The facts of `instrument` where it is a custom one of the studio. */
  readonly custom?: CustomInstrument;
  readonly melody?: Melody;
  readonly keyAndTempo?: KeyAndTempo;
  readonly rhythm?: RhythmLimits;
  readonly embellish?: Embellishing;
  readonly limits?: LineLimits;
  readonly articulation?: ArticulationWishes;
  readonly form?: FormWishes;
  readonly bars?: BarWishes;
  readonly page?: PageWishes;
  /** Notes to improvise with. */
  readonly improvise?: ImprovisingWishes;
  /** The example solo. */
  readonly solo?: SoloWishes;
  /** How far the level goes in a drill. */
  readonly drill?: DrillWishes;
}

export type Recipes = Readonly<Record<Level, Recipe>>;

/** What each level does to a tune when nobody says otherwise. */
export interface LevelDefaults {
  readonly melody: Melody;
  /** Part of the tune's tempo. Slow first: common practice of tutor books. */
  readonly tempoRatio: number;
  /** Of a simplified melody, and of what is added to an embellished one. */
  readonly shortest: Shortest;
  /** Notes a second beyond which a bar is eased; none for a level that takes everything. */
  readonly fastest?: number;
  readonly devices: readonly Device[];
  /** Figures to a hundred beats of an embellished melody. */
  readonly density: number;
}

/**
 * Beginners get no slides, turns or bends, and grace notes wait for the last level: ornaments come when the plain tune
 * is secure.
 */
export const LEVEL_DEFAULTS: Readonly<Record<Level, LevelDefaults>> = {
  beginner: {
    melody: 'simplified',
    tempoRatio: 0.65,
    shortest: 'quarter',
    devices: ['passing', 'neighbour', 'fill'],
    density: 0,
  },
  intermediate: {
    melody: 'embellished',
    tempoRatio: 0.85,
    shortest: 'eighth',
    fastest: 6.5,
    devices: ['passing', 'neighbour', 'fill', 'run-in', 'chord-tone'],
    density: 8,
  },
  advanced: { melody: 'embellished', tempoRatio: 1, shortest: '16th', devices: DEVICES, density: 20 },
};

/** How densely a melody may be embellished, in figures to a hundred beats, with a word for it. */
export const DENSITIES = [
  { value: 8, name: 'here and there' },
  { value: 20, name: 'in most bars' },
  { value: 35, name: 'in every bar' },
  { value: 60, name: 'wherever it can' },
] as const;

/** The seeds that a teacher can turn through. */
export const MAX_SEED = 9_999;

/** The instruments a new tune's levels start with: three transpositions that teachers meet in one room. */
export const FIRST_RECIPES: Recipes = {
  beginner: { instrument: 'flute' },
  intermediate: { instrument: 'clarinet-bb' },
  advanced: { instrument: 'alto-sax' },
};

/** Beats a minute below which a tune dies for want of motion, unless it is that slow itself. Rule of thumb of ours. */
const SLOWEST_ALIVE = 54;

/** The level's tempo: as set, else the tune's own share, on the steps of a metronome dial (by 2 to 60, by 4 above). */
export function levelTempo(tune: Pick<Tune, 'tempo'>, level: Level, perMinute: number | undefined): Tempo {
  if (perMinute !== undefined) return { ...tune.tempo, perMinute };
  const { tempoRatio } = LEVEL_DEFAULTS[level];
  if (tempoRatio === 1) return tune.tempo;
  const own = tune.tempo.perMinute;
  const wanted = own * tempoRatio;
  const step = wanted > 60 ? 4 : 2;
  const least = Math.max(TEMPO_LIMITS.slowest, Math.min(own, SLOWEST_ALIVE));
  return { ...tune.tempo, perMinute: Math.max(least, Math.round(wanted / step) * step) };
}

/**
 * The instrument a recipe is for. @throws RangeError for an id that is not in the catalogue; documents are checked for
 * that where they come in
 */
export function instrumentOf({ instrument, custom }: Pick<Recipe, 'instrument' | 'custom'>): Instrument {
  const found = custom ? customInstrument(custom) : instrumentById(instrument);
  if (!found) throw new RangeError(`no instrument ${instrument}`);
  return found;
}
