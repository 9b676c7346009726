import type { CustomInstrument, Level } from '../instruments';
import type { Key } from '../pitch';
import { plainText } from '../plainText';
import { success, type Result } from '../result';
import { rebar, type RebarProblem, type Swing, type Tempo, type Tune } from '../score';
import type { Meter } from '../time';
import { FIRST_RECIPES, type Melody, type Recipe, type Recipes } from './recipe';

/** Everything on the bench that a person decided: the tune, and the levels that somebody set. */
export interface Work {
  readonly tune: Tune;
  readonly recipes: Readonly<Partial<Record<Level, Recipe>>>;
}

/** Every level's recipe; those not set yet are as a new tune starts. */
export function recipesOf({ recipes }: Pick<Work, 'recipes'>): Recipes {
  return { ...FIRST_RECIPES, ...recipes };
}

/** The fields at a tune's head. An empty text takes the field away. */
export type TuneDetails = Partial<Pick<Tune, 'title' | 'composer' | 'source' | 'rights'>> & {
  readonly tempo?: Tempo;
  readonly swing?: Swing | undefined;
  readonly recordingKey?: Key | undefined;
};

export function withDetails(work: Work, details: TuneDetails): Work {
  const { title, composer: by, source: from, swing, recordingKey, ...plain } = { ...work.tune, ...details };
  const [composer, source] = [plainText(by ?? '').trim(), plainText(from ?? '').trim()];
  return {
    ...work,
    tune: {
      ...plain,
      // A title of blanks would be a line that nobody can press.
      title: plainText(title).trim(),
      ...(composer && { composer }),
      ...(source && { source }),
      ...(swing && { swing }),
      ...(recordingKey && { recordingKey }),
    },
  };
}

/**
 * Says that the tune stands in another key than it was read in. Its notes stay as they sound; only signature and
 * accidentals change. Levels that had a key of their own keep their tonic and take the new mode.
 */
export function withKey(work: Work, key: Key): Work {
  const entries = Object.entries(work.recipes).map(([level, recipe]) => [
    level,
    recipe?.keyAndTempo?.key
      ? { ...recipe, keyAndTempo: { ...recipe.keyAndTempo, key: { ...recipe.keyAndTempo.key, mode: key.mode } } }
      : recipe,
  ]);
  return { tune: { ...work.tune, key }, recipes: Object.fromEntries(entries) as Work['recipes'] };
}

/** Bars the tune anew; refused where repeats or tuplets would be cut. */
export function withMeter(work: Work, meter: Meter): Result<Work, RebarProblem> {
  const barred = rebar(work.tune, meter);
  return barred.ok ? success({ ...work, tune: barred.value }) : barred;
}

/** The groups of a recipe; instrument and melody stand for themselves. */
type RecipeGroup = Exclude<keyof Recipe, 'instrument' | 'custom' | 'melody'>;

/**
 * What of a recipe is to be set. Inside a group, fields that are not named stay; `undefined` puts one back to the
 * level's default.
 */
export type RecipeChange = {
  readonly [Group in RecipeGroup]?: {
    readonly [Field in keyof NonNullable<Recipe[Group]>]?: NonNullable<Recipe[Group]>[Field] | undefined;
  };
} & {
  readonly instrument?: string;
  readonly custom?: CustomInstrument | undefined;
  readonly melody?: Melody | undefined;
};

/** Sets some of a level's recipe. */
export function withRecipe(work: Work, level: Level, change: RecipeChange): Work {
  const before = recipesOf(work)[level];
  // A key that is set is somebody's choice, unless it is said not to be.
  const isKeySet = change.keyAndTempo !== undefined && 'key' in change.keyAndTempo && !('moved' in change.keyAndTempo);
  const asked = isKeySet ? { ...change, keyAndTempo: { ...change.keyAndTempo, moved: undefined } } : change;
  const { instrument, custom, ...groups } = { ...before, ...merged(before, asked) };
  const recipe: Recipe = {
    ...withoutEmpty(Object.entries(groups).map(([name, value]) => [name, isRecord(value) ? saying(value) : value])),
    instrument,
    // A custom instrument stands beside the id it was chosen by and goes with it.
    ...(custom && (change.instrument === undefined || change.custom) && { custom }),
  };
  return { ...work, recipes: { ...work.recipes, [level]: recipe } };
}

/** The change with the groups it touches as they will be. */
function merged(before: Recipe, change: RecipeChange): Partial<Recipe> {
  return Object.fromEntries(
    Object.entries(change).map(([name, value]) => {
      const old: unknown = Object.entries(before).find(([known]) => known === name)?.[1];
      return [name, name !== 'custom' && isRecord(value) && isRecord(old) ? { ...old, ...value } : value];
    }),
  );
}

/** A group without what says nothing (nothing pinned, the first variation), so that equal wishes are equal recipes. */
function saying(group: Readonly<Record<string, unknown>>): Readonly<Record<string, unknown>> {
  return withoutEmpty(Object.entries(group).filter(([name, value]) => !(name === 'seed' && value === 0)));
}

function withoutEmpty(entries: readonly (readonly [string, unknown])[]): Readonly<Record<string, unknown>> {
  return Object.fromEntries(
    entries.filter(([, value]) => value !== undefined && !(isRecord(value) && Object.keys(value).length === 0)),
  );
}

/** Lists may be empty and mean it; they are set whole. */
function isRecord(value: unknown): value is Readonly<Record<string, unknown>> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}
