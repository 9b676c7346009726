import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { LEVELS, type Level } from '../../instruments/instrument';
import { formedPartOfLevel, soloOfLevel } from '../../levels/levelPart';
import { workSchema } from './recipeSchema';
import { RECIPE_SCHEMA, storedWork } from './upgradeRecipe';

/**
 * Works as they were stored while recipes were of schema 2, each with the parts and solos that it gives, as hashes. The
 * documents were written by the program of that time and are not written anew. The hashes are renewed where the engines
 * are meant to write otherwise, as `npm run hashes` is, and for no other reason: a change of the stored shape gives the
 * same paper.
 */
interface StoredWork {
  readonly name: string;
  readonly document: { readonly recipes: Readonly<Record<string, { readonly schema: number }>> };
  readonly parts: Readonly<Record<Level, { readonly part: string; readonly solo: string; readonly phrases: string }>>;
}

const stored = JSON.parse(
  readFileSync(join(__dirname, '../../../../tests/documents/schema2.json'), 'utf8'),
) as readonly StoredWork[];
/** Whatever the order in which fields were read. */
const inOrder = (_: string, value: unknown): unknown =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
    ? Object.fromEntries(Object.entries(value).toSorted(([a], [b]) => (a < b ? -1 : 1)))
    : value;
const hashOf = (value: unknown) =>
  createHash('sha256').update(JSON.stringify(value, inOrder)).digest('hex').slice(0, 16);

test.each(stored)('$name, as it was stored, gives the parts and solos that it gave', ({ document, parts }) => {
  expect(Object.values(document.recipes).map(({ schema }) => schema)).toEqual([2, 2, 2]);
  const { tune, recipes } = workSchema.parse(document);
  for (const level of LEVELS) {
    const solo = soloOfLevel(tune, level, recipes);
    expect({
      part: hashOf(formedPartOfLevel(tune, level, recipes).part.bars),
      solo: hashOf(solo?.part.bars),
      phrases: solo?.solo.phrases.map(({ kind, of = '' }) => `${kind}${of}`).join(' '),
    }).toEqual(parts[level]);
  }
  const again = storedWork({ tune, recipes });
  expect(Object.values(again.recipes).map((recipe) => 'schema' in recipe && recipe.schema)).toEqual([
    RECIPE_SCHEMA,
    RECIPE_SCHEMA,
    RECIPE_SCHEMA,
  ]);
  expect(workSchema.parse(JSON.parse(JSON.stringify(again)))).toEqual({ tune, recipes });
});
