import type { Level } from '../../core/instruments';
import { type Command, type Recipe, type RecipeChange, recipesOf, type RecipeTable, type Work } from '../../core/work';

/** Entries of one of a recipe's tables; `undefined` takes one out. */
interface RecipeEntries {
  readonly table: RecipeTable;
  readonly entries: Readonly<Record<string, unknown>>;
}

/**
 * What to set of a recipe; worked out of the present one, and the work it belongs to, where it builds on what is there.
 */
export type RecipeStep = RecipeChange | RecipeEntries | ((present: Recipe, work: Work) => RecipeChange | RecipeEntries);

/** A step of a level's recipe as a command on the work as it is now. */
export function recipeCommand(present: Work, level: Level, words: string, step: RecipeStep): Command {
  const change = typeof step === 'function' ? step(recipesOf(present)[level], present) : step;
  return 'table' in change ? { kind: 'entries', level, words, ...change } : { kind: 'recipe', level, words, change };
}

/** Sets some of a level's recipe, under the words that the history shows. */
export type SetRecipe = (what: string, change: RecipeStep) => void;

/** Whether a level may have something: "off-beat notes not yet". */
export const ALLOWED = [
  { value: 'yes', label: 'allowed' },
  { value: 'no', label: 'not yet' },
] as const;

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
