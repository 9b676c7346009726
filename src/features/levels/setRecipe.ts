import type { RecipeChange } from '../../core/levels/recipe/work';

/** Sets some of a level's recipe, under the words that the history shows. */
export type SetRecipe = (what: string, change: RecipeChange) => void;
