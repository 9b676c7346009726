import type { Level } from '../../core/instruments/instrument';
import type { Recipe } from '../../core/work/recipe';
import { recipesOf, withRecipe, type RecipeChange, type Work } from '../../core/work/work';

/** What to set of a recipe; worked out of the present one, and the work it belongs to, where it builds on what is there. */
export type RecipeStep = RecipeChange | ((present: Recipe, work: Work) => RecipeChange);

/** The work with a step of a level's recipe made on top of what it is now. */
export function withStep(present: Work, level: Level, step: RecipeStep): Work {
  return withRecipe(present, level, typeof step === 'function' ? step(recipesOf(present)[level], present) : step);
}

/** Sets some of a level's recipe, under the words that the history shows. */
export type SetRecipe = (what: string, change: RecipeStep) => void;

/** Whether a level may have something: "off-beat notes not yet". */
export const ALLOWED = [
  { value: 'yes', label: 'allowed' },
  { value: 'no', label: 'not yet' },
] as const;

/** A table with one entry set, or taken out where there is no value. */
export function withEntry<Value>(
  table: Readonly<Record<string, Value>> | undefined,
  name: string,
  value: Value | undefined,
): Readonly<Record<string, Value>> {
  const { [name]: _, ...rest } = table ?? {};
  return value === undefined ? rest : { ...rest, [name]: value };
}

/**
 * A list to which one press of a menu of ticks is applied, where the list may be further than what the menu showed.
 * @param shown what was ticked on screen
 * @param ticked what is ticked after the press
 */
export function withTicks<Value>(
  present: readonly Value[],
  shown: readonly Value[],
  ticked: readonly Value[],
): readonly Value[] {
  const kept = present.filter((one) => ticked.includes(one) || !shown.includes(one));
  return [...kept, ...ticked.filter((one) => !shown.includes(one) && !kept.includes(one))];
}
