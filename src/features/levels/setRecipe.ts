import type { RecipeChange } from '../../core/levels/recipe/work';

/** Sets some of a level's recipe, under the words that the history shows. */
export type SetRecipe = (what: string, change: RecipeChange) => void;

/** Whether a level may have something: "off-beat notes not yet". */
export const ALLOWED = [
  { value: 'yes', label: 'allowed' },
  { value: 'no', label: 'not yet' },
] as const;
