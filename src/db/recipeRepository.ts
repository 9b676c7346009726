import type { SavedRecipe } from '../core/work';
import { storedSavedRecipe } from '../core/work/stored';
import { intoBin, OUT_OF_BIN } from './binRepository';
import { parsedDocument } from './documents';
import { allRows, rowOf } from './pages';
import type { StudioDatabase } from './studioDatabase';

type RecipeRow = { recipe_id: string; name: string; document: unknown };
const RECIPE_COLUMNS = ['recipe_id', 'name', 'document'] as const;

/** The studio's named recipes by name; documents are not yet checked. */
export async function savedRecipes(
  database: StudioDatabase,
): Promise<readonly { readonly id: string; readonly document: unknown }[]> {
  const rows: RecipeRow[] = [];
  for await (const row of allRows<RecipeRow>(database, 'saved_recipes', RECIPE_COLUMNS)) rows.push(row);
  return rows
    .toSorted((a, b) => a.name.localeCompare(b.name, 'en'))
    .map(({ recipe_id: id, document }) => ({ id, document: parsedDocument(document) }));
}

/** Whether there is a named recipe of this id. */
export async function findRecipe(database: StudioDatabase, id: string): Promise<{ readonly id: string } | undefined> {
  return (await rowOf<RecipeRow>(database, 'saved_recipes', ['recipe_id'], id)) && { id };
}

/** Adds a named recipe or changes the one of its id; one that was taken away is there again. */
export async function saveRecipe(database: StudioDatabase, recipe: SavedRecipe, now: Date): Promise<void> {
  const row = {
    name: recipe.name,
    document: JSON.stringify(storedSavedRecipe(recipe)),
    updated_at: now,
    ...OUT_OF_BIN,
  };
  await database
    .insert('saved_recipes', { recipe_id: recipe.id, ...row })
    .onConflict(['studio_id', 'recipe_id'])
    .merge(Object.keys(row));
}

/** False when it was not there. */
export async function dropRecipe(database: StudioDatabase, id: string, now: Date): Promise<boolean> {
  return (await database.from('saved_recipes').where('recipe_id', id).whereNull('removed_at').update(intoBin(now))) > 0;
}
