import type { Level } from '../../instruments/instrument';
import type { Key } from '../../pitch/key';
import { success, type Result } from '../../result';
import { rebar, type RebarProblem } from '../../score/rebar';
import type { Swing, Tempo, Tune } from '../../score/tune';
import type { Meter } from '../../time/meter';
import { FIRST_RECIPES, type Recipe, type Recipes } from './recipe';

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
  const { composer, source, swing, recordingKey, ...plain } = { ...work.tune, ...details };
  return {
    ...work,
    tune: {
      ...plain,
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
    recipe?.key ? { ...recipe, key: { ...recipe.key, mode: key.mode } } : recipe,
  ]);
  return { tune: { ...work.tune, key }, recipes: Object.fromEntries(entries) as Work['recipes'] };
}

/** Bars the tune anew; refused where repeats or tuplets would be cut. */
export function withMeter(work: Work, meter: Meter): Result<Work, RebarProblem> {
  const barred = rebar(work.tune, meter);
  return barred.ok ? success({ ...work, tune: barred.value }) : barred;
}

/** Fields of a recipe to be set; `undefined` puts one back to the level's default. */
export type RecipeChange = { readonly [Field in keyof Recipe]?: Recipe[Field] | undefined };

/** Sets some of a level's recipe; `undefined` puts a field back to the level's default. */
export function withRecipe(work: Work, level: Level, change: RecipeChange): Work {
  const { own, ...rest } = { ...recipesOf(work)[level], ...change };
  // A field that says nothing (nothing pinned, the first throw) is left out, so that equal wishes are equal recipes.
  const said = Object.entries(rest).filter(
    ([name, value]) => value !== undefined && !isEmpty(value) && !(name === 'seed' && value === 0),
  );
  const recipe: Recipe = {
    ...Object.fromEntries(said),
    instrument: rest.instrument ?? FIRST_RECIPES[level].instrument,
    // An own instrument stands beside the id it was chosen by and goes with it.
    ...(own && (change.instrument === undefined || change.own) && { own }),
  };
  return { ...work, recipes: { ...work.recipes, [level]: recipe } };
}

/** A record without entries. Lists may be empty and mean it. */
function isEmpty(value: unknown): boolean {
  return typeof value === 'object' && value !== null && !Array.isArray(value) && Object.keys(value).length === 0;
}
