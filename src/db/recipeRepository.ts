import type { SavedRecipe } from '../core/levels/recipe/savedRecipe';
import { storedSavedRecipe } from '../core/formats/json/upgradeRecipe';
import { parsedDocument } from './documents';
import type { StudioDatabase } from './studioDatabase';

/** The studio's named recipes by name; documents are not yet checked. */
export async function savedRecipes(database: StudioDatabase): Promise<readonly unknown[]> {
  const rows = (await database
    .from('saved_recipes')
    .whereNull('removed_at')
    .orderBy('name')
    .limit(200)
    .select('document')) as { document: unknown }[];
  return rows.map(({ document }) => parsedDocument(document));
}

/** Adds a named recipe or changes the one of its id; one that was taken away is there again. */
export async function saveRecipe(database: StudioDatabase, recipe: SavedRecipe, now: Date): Promise<void> {
  const row = {
    name: recipe.name,
    document: JSON.stringify(storedSavedRecipe(recipe)),
    updated_at: now,
    removed_at: null,
  };
  await database
    .insert('saved_recipes', { recipe_id: recipe.id, ...row })
    .onConflict(['studio_id', 'recipe_id'])
    .merge(Object.keys(row));
}

/** False when it was not there. */
export async function dropRecipe(database: StudioDatabase, id: string, now: Date): Promise<boolean> {
  return (
    (await database.from('saved_recipes').where('recipe_id', id).whereNull('removed_at').update({ removed_at: now })) >
    0
  );
}
