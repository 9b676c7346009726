import type { SavedRecipe } from '../core/levels/recipe/savedRecipe';
import { dropRecipe, saveRecipe, savedRecipes } from '../db/recipeRepository';
import type { StudioDatabase } from '../db/studioDatabase';
import { checkSavedRecipe } from './workSchema';

/** The studio's named recipes. */
export async function listSavedRecipes(studio: StudioDatabase): Promise<readonly SavedRecipe[]> {
  return (await savedRecipes(studio)).map((document) => {
    const checked = checkSavedRecipe(document);
    if (!checked.ok) throw new Error(`a stored recipe is damaged: ${checked.problem.join('; ')}`);
    return checked.value;
  });
}

export function putRecipe(studio: StudioDatabase, recipe: SavedRecipe, now = new Date()): Promise<void> {
  return saveRecipe(studio, recipe, now);
}

export function takeRecipeAway(studio: StudioDatabase, id: string, now = new Date()): Promise<boolean> {
  return dropRecipe(studio, id, now);
}
