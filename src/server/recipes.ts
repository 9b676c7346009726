import type { KeptRecipe } from '../core/levels/recipe/savedRecipe';
import { dropRecipe, keepRecipe, keptRecipes } from '../db/recipeRepository';
import type { StudioDatabase } from '../db/studioDatabase';
import { checkKeptRecipe } from './workSchema';

/** The studio's named recipes. */
export async function listKeptRecipes(studio: StudioDatabase): Promise<readonly KeptRecipe[]> {
  return (await keptRecipes(studio)).map((document) => {
    const checked = checkKeptRecipe(document);
    if (!checked.ok) throw new Error(`a stored recipe is damaged: ${checked.messages.join('; ')}`);
    return checked.value;
  });
}

export function putRecipe(studio: StudioDatabase, recipe: KeptRecipe, now = new Date()): Promise<void> {
  return keepRecipe(studio, recipe, now);
}

export function takeRecipeAway(studio: StudioDatabase, id: string, now = new Date()): Promise<boolean> {
  return dropRecipe(studio, id, now);
}
