import type { Level } from '../instruments/instrument';
import type { Key } from '../pitch/key';
import type { Tempo, Tune } from '../score/tune';

/** What a teacher decided for a level of one tune. Absent means: as the level's default says. */
export interface Recipe {
  readonly instrument: string;
  /** Concert key. Its mode is the tune's. */
  readonly key?: Key;
  /** Beats a minute, counted in the tune's own beat. */
  readonly perMinute?: number;
}

export type Recipes = Readonly<Record<Level, Recipe>>;

/** What each level does to a tune when nobody says otherwise. */
export interface LevelDefaults {
  readonly melody: 'thinned' | 'as written';
  /** Part of the tune's tempo. Slow first: common practice of tutor books. */
  readonly tempoRatio: number;
}

export const LEVEL_DEFAULTS: Readonly<Record<Level, LevelDefaults>> = {
  beginner: { melody: 'thinned', tempoRatio: 0.65 },
  intermediate: { melody: 'as written', tempoRatio: 0.85 },
  advanced: { melody: 'as written', tempoRatio: 1 },
};

/** The instruments a new tune's levels start with: three transpositions that teachers meet in one room. */
export const FIRST_RECIPES: Recipes = {
  beginner: { instrument: 'flute' },
  intermediate: { instrument: 'clarinet-bb' },
  advanced: { instrument: 'alto-sax' },
};

/** Slowest and fastest beat that a level can be set to. */
export const TEMPO_LIMITS = { slowest: 20, fastest: 400 } as const;

/** The level's tempo: as set, else the tune's own share, on the steps of a metronome dial (by 2 to 60, by 4 above). */
export function levelTempo(tune: Tune, level: Level, perMinute: number | undefined): Tempo {
  if (perMinute !== undefined) return { ...tune.tempo, perMinute };
  const { tempoRatio } = LEVEL_DEFAULTS[level];
  if (tempoRatio === 1) return tune.tempo;
  const wanted = tune.tempo.perMinute * tempoRatio;
  const step = wanted > 60 ? 4 : 2;
  return { ...tune.tempo, perMinute: Math.max(TEMPO_LIMITS.slowest, Math.round(wanted / step) * step) };
}
