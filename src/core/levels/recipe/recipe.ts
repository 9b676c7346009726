import { MARK_SCHOOLS, type MarkSchool } from '../../fingering/marks';
import { FINGER_SCHOOLS, type FingerSchool } from '../../fingering/travel';
import { instrumentById } from '../../instruments/catalogue';
import type { Instrument, Level } from '../../instruments/instrument';
import type { FingerWishes } from '../page/fingerPart';
import { ownInstrument, type OwnInstrument } from '../../instruments/customInstrument';
import type { PlayerLimits } from '../../instruments/limits';
import type { Key } from '../../pitch/key';
import type { Pitch } from '../../pitch/pitch';
import type { Shortest } from '../simplify/slots';
import type { BarId, EventId, ScoreEvent, Swing, Tempo, Tune } from '../../score/tune';
import { usualAids, type AidWishes } from '../page/aids';
import type { Manner } from '../line/articulate';
import { DEVICES, type Device } from '../embellish/devices';
import type { Form } from '../form/form';
import type { LeaveOut } from '../bars/leaveOut';
import type { SyllableSchool } from '../page/syllables';

/** What a teacher decided for a level of one tune. Absent means: as the level's default says. */
export interface Recipe {
  readonly instrument: string;
  /** Concert key. Its mode is the tune's. */
  readonly key?: Key;
  /** Beats a minute, counted in the tune's own beat. */
  readonly perMinute?: number;
  /** The facts of `instrument` where it is the studio's own. */
  readonly own?: OwnInstrument;
  /** How much is written over the notes. */
  readonly marks?: MarkSchool;
  readonly school?: FingerSchool;
  /** Fingerings set by hand: event → id or mark of the fingering. */
  readonly pins?: Readonly<Record<EventId, string>>;
  /** What is done about notes that the level does not have: event → remedy. */
  readonly remedies?: Readonly<Record<EventId, Remedy>>;
  readonly melody?: Melody;
  /** How often and what is played; the melody once by default. */
  readonly form?: Form;
  readonly shortest?: Shortest;
  /** Whether notes may begin off the beat and last over the next; by default those of the tune, and none in a thinned melody. */
  readonly syncopation?: boolean;
  /** Whether a thinned melody may have dotted rhythms; it may by default. */
  readonly dotted?: boolean;
  /** Whether notes may be held over a barline; the tune's own by default. */
  readonly ties?: boolean;
  /** Largest leap inside a phrase, in steps; as the tune leaps by default. */
  readonly leap?: number;
  /** Lowest and highest written note, where they are not the level's usual ones. */
  readonly range?: PlayerLimits;
  /** Written notes that are known; all of the range by default. */
  readonly known?: readonly Pitch[];
  /** Slurs and dots; as written by default. */
  readonly manner?: Manner;
  /** Eighths otherwise than the tune's. */
  readonly swing?: Swing | 'straight';
  /** Figures to a hundred beats. */
  readonly density?: number;
  readonly devices?: readonly Device[];
  /** 0 by default. */
  readonly seed?: number;
  /** What is printed to help beside finger marks; as usual for level and instrument by default. */
  readonly aids?: AidWishes;
  /** Counting by default. */
  readonly syllables?: SyllableSchool;
  /** Bars set by hand. */
  readonly bars?: Readonly<Record<BarId, BarChoice>>;
  /** Other versions of bars, kept beside the ones that stand there. */
  readonly alternates?: Readonly<Record<BarId, BarChoice>>;
  /** Over the bars by default. */
  readonly alternatesAs?: AlternatesAs;
  /** In a bracket by default. */
  readonly leaveOut?: LeaveOut;
}

/** Where other versions go: on a small staff over their bars, or into the second time through. */
export const ALTERNATES_AS = ['over', 'second-time'] as const;
export type AlternatesAs = (typeof ALTERNATES_AS)[number];

/** For a note out of a level's range: its phrase an octave up or down, the nearest chord tone in its place, or a rest. */
export const REMEDIES = ['phrase-up', 'phrase-down', 'chord-tone', 'leave-out'] as const;
export type Remedy = (typeof REMEDIES)[number];

export type Recipes = Readonly<Record<Level, Recipe>>;

/** The tune in fewer notes, as it is, or with more. */
export const MELODIES = ['thinned', 'as written', 'dressed'] as const;
export type Melody = (typeof MELODIES)[number];

/** What each level does to a tune when nobody says otherwise. */
export interface LevelDefaults {
  readonly melody: Melody;
  /** Part of the tune's tempo. Slow first: common practice of tutor books. */
  readonly tempoRatio: number;
  /** Of a thinned melody, and of what is added to a dressed one. */
  readonly shortest: Shortest;
  /** Notes a second beyond which a bar is eased; none for a level that takes everything. */
  readonly fastest?: number;
  readonly devices: readonly Device[];
  /** Figures to a hundred beats of a dressed melody. */
  readonly density: number;
}

/** Beginners get no slides, turns or bends, and grace notes wait for the last level: ornaments come when the plain tune is secure. */
export const LEVEL_DEFAULTS: Readonly<Record<Level, LevelDefaults>> = {
  beginner: {
    melody: 'thinned',
    tempoRatio: 0.65,
    shortest: 'quarter',
    devices: ['passing', 'neighbour', 'fill'],
    density: 0,
  },
  intermediate: {
    melody: 'dressed',
    tempoRatio: 0.85,
    shortest: 'eighth',
    fastest: 6.5,
    devices: ['passing', 'neighbour', 'fill', 'run-in', 'chord-tone', 'again'],
    density: 8,
  },
  advanced: { melody: 'dressed', tempoRatio: 1, shortest: '16th', devices: DEVICES, density: 35 },
};

/** How dense a dress may be wished, in figures to a hundred beats, with a word for it. */
export const DENSITIES = [
  { value: 8, name: 'here and there' },
  { value: 20, name: 'in most bars' },
  { value: 35, name: 'in every bar' },
  { value: 60, name: 'wherever it can' },
] as const;

/** The seeds that a teacher can turn through. */
export const MOST_SEED = 9_999;

/** What stands at a bar instead of what the level made of it; pinned by a teacher, whatever else changes. */
export type BarChoice =
  | { readonly kind: 'as-written' }
  | { readonly kind: 'thinner' }
  | { readonly kind: 'thinner-still' }
  | { readonly kind: 'octave-up' }
  | { readonly kind: 'octave-down' }
  | { readonly kind: 'dressed'; readonly seed: number }
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
export const MOST_OWN_EVENTS = 256;

export const BAR_CHOICES = [
  'as-written',
  'thinner',
  'thinner-still',
  'octave-up',
  'octave-down',
  'dressed',
  'optional',
  'rest',
  'own',
] as const satisfies readonly BarChoice['kind'][];

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

/** The instrument a recipe is for. @throws RangeError for an id that is not in the catalogue; documents are checked for that where they come in */
export function instrumentOf({ instrument, own }: Pick<Recipe, 'instrument' | 'own'>): Instrument {
  const found = own ? ownInstrument(own) : instrumentById(instrument);
  if (!found) throw new RangeError(`no instrument ${instrument}`);
  return found;
}

/** Marks fade with the levels where a figure or two over the note say it; keys of a woodwind are shown on a page of their own. */
export function usualMarks({ mechanism }: Pick<Instrument, 'mechanism'>, level: Level): MarkSchool {
  if (
    mechanism.kind === 'holes' ||
    mechanism.kind === 'bars' ||
    mechanism.kind === 'keys' ||
    mechanism.kind === 'voice'
  )
    return 'none';
  return MARK_SCHOOLS[level === 'beginner' ? 0 : level === 'intermediate' ? 1 : 2] ?? 'none';
}

/** How a level's part is fingered: as its recipe says, else as usual for the instrument. */
export function fingerWishes(recipe: Recipe, level: Level): FingerWishes {
  return {
    marks: recipe.marks ?? usualMarks(instrumentOf(recipe), level),
    school: recipe.school ?? FINGER_SCHOOLS[0],
    pins: new Map(Object.entries(recipe.pins ?? {})),
  };
}

/** What a level does to the melody where a teacher says otherwise than the level's default. */
export type MelodyWishes = Pick<
  Recipe,
  'melody' | 'shortest' | 'density' | 'devices' | 'seed' | 'bars' | 'syncopation' | 'ties' | 'dotted' | 'leap'
> & {
  /** Figures to a hundred beats that are put in on top of all that, as for a second time through. */
  readonly more?: number;
};

export function melodyWishes({
  melody,
  shortest,
  density,
  devices,
  seed,
  bars,
  syncopation,
  ties,
  dotted,
  leap,
}: Recipe): MelodyWishes {
  return {
    ...(dotted !== undefined && { dotted }),
    ...(syncopation !== undefined && { syncopation }),
    ...(ties !== undefined && { ties }),
    ...(leap !== undefined && { leap }),
    ...(melody && { melody }),
    ...(shortest && { shortest }),
    ...(density !== undefined && { density }),
    ...(devices && { devices }),
    ...(seed && { seed }),
    ...(bars && { bars }),
  };
}

/** What is printed to help: as the recipe says, else as usual for the instrument at the level. */
export function aidWishes({ aids, ...recipe }: Recipe, level: Level): AidWishes {
  return aids ?? usualAids(instrumentOf(recipe), level);
}
