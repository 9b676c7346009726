import type { SavedRecipe } from '../core/work';
import { countRows } from '../db/pages';
import { dropRecipe, findRecipe, saveRecipe, savedRecipes } from '../db/recipeRepository';
import type { StudioDatabase } from '../db/studioDatabase';
import { soundEntry } from './groups';
import { ensureRoom } from './quota';
import { checkSavedRecipe } from './workSchema';

/** The studio's named recipes. One that is damaged is left out and told in the log. */
export async function listSavedRecipes(studio: StudioDatabase): Promise<readonly SavedRecipe[]> {
  return (await savedRecipes(studio)).flatMap((stored) => soundEntry('recipe', stored, checkSavedRecipe) ?? []);
}

/** Saves a named recipe: new, changed, or put back. @throws QuotaReached */
export async function putRecipe(studio: StudioDatabase, recipe: SavedRecipe, now = new Date()): Promise<void> {
  if (!(await findRecipe(studio, recipe.id))) ensureRoom('saved recipes', await countRows(studio, 'saved_recipes'));
  return saveRecipe(studio, recipe, now);
}

export function takeRecipeAway(studio: StudioDatabase, id: string, now = new Date()): Promise<boolean> {
  return dropRecipe(studio, id, now);
}
