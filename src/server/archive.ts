import { strFromU8, unzipSync } from 'fflate';
import type { z } from 'zod';
import { MOST_BYTES } from '../core/formats/limits';
import { groupSchema } from '../core/formats/json/groupSchema';
import { customInstrumentSchema, recipesSchema, savedRecipeSchema } from '../core/formats/json/recipeSchema';
import { readJson } from '../core/formats/json/readJson';
import { formatProblemText } from '../core/formats/problem';
import { storedRecipes, storedSavedRecipe } from '../core/formats/json/upgradeRecipe';
import type { CustomInstrument } from '../core/instruments/customInstrument';
import type { Group } from '../core/keys/group';
import type { Work } from '../core/levels/recipe/work';
import type { SavedRecipe } from '../core/levels/recipe/savedRecipe';
import { failure, success, type Result } from '../core/result';

/** Everything of a studio as files that other programs read too: see `STUDIO_FILES`. */
export const STUDIO_FILES = {
  /** A tune and, beside it, its levels; read by the usual door for tunes as well. */
  tune: (name: string) => `tunes/${name}.reed.json`,
  musicXml: (name: string) => `tunes/${name}.musicxml`,
  csv: (name: string) => `groups/${name}.csv`,
  groups: 'groups.json',
  recipes: 'recipes.json',
  instruments: 'instruments.json',
} as const;

/** What an archive may hold when opened, and how many files are looked at. */
const MOST_INFLATED = 256 * 1_048_576;
const MOST_FILES = 20_000;
const MOST_PROBLEMS = 20;

/** What was read of an archive; what could not be read of it is told with its file. */
export interface Archive {
  readonly works: readonly Work[];
  readonly groups: readonly Group[];
  readonly recipes: readonly SavedRecipe[];
  readonly instruments: readonly CustomInstrument[];
  readonly problems: readonly string[];
}

/** A tune with its levels as a file of an archive. */
export function workFile({ tune, recipes }: Work): string {
  return `${JSON.stringify({ format: 'reed-hook-tune', tune, recipes: storedRecipes(recipes) }, undefined, 1)}\n`;
}

export function recipesFile(recipes: readonly SavedRecipe[]): string {
  return `${JSON.stringify(recipes.map(storedSavedRecipe), undefined, 1)}\n`;
}

/** Reads an archive that was exported here. Sizes are checked before anything is inflated; nothing is written to disk. */
export function readArchive(bytes: Uint8Array): Result<Archive, readonly string[]> {
  let [total, count] = [0, 0];
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (!/\.json$/.test(name)) return false;
        total += originalSize;
        count += 1;
        return total <= MOST_INFLATED && count <= MOST_FILES;
      },
    });
  } catch (error) {
    // fflate throws an Error of its own for every broken archive.
    return failure([`This archive cannot be opened: ${error instanceof Error ? error.message : 'it is damaged'}.`]);
  }
  if (total > MOST_INFLATED || count > MOST_FILES)
    return failure([
      `The archive is too large: at most ${MOST_FILES} files and ${MOST_INFLATED / 1_048_576} MB are read.`,
    ]);
  const names = Object.keys(files).toSorted();
  const tunes = names.filter((name) => /^tunes\/[^/]+\.reed\.json$/.test(name));
  const problems: string[] = [];
  const works = tunes.flatMap((name): readonly Work[] => {
    const read = readWorkFile(files[name] ?? new Uint8Array());
    if (read.ok) return [read.value];
    problems.push(`${name}: ${read.problem[0] ?? 'it cannot be read'}`);
    return [];
  });
  const list = <Value>(name: string, schema: z.ZodType<Value>): readonly Value[] => {
    const file = files[name];
    if (!file) return [];
    const read = readList(file, schema);
    problems.push(...read.problems.map((problem) => `${name}: ${problem}`));
    return read.values;
  };
  const archive: Archive = {
    works,
    groups: list(STUDIO_FILES.groups, groupSchema),
    recipes: list(STUDIO_FILES.recipes, savedRecipeSchema),
    instruments: list(STUDIO_FILES.instruments, customInstrumentSchema),
    problems: problems.slice(0, MOST_PROBLEMS),
  };
  const isEmpty =
    tunes.length === 0 && [archive.groups, archive.recipes, archive.instruments].every(({ length }) => length === 0);
  return isEmpty
    ? failure([
        'There is nothing of a studio in this archive: it should hold tunes/….reed.json, groups.json or the like.',
      ])
    : success(archive);
}

function readWorkFile(bytes: Uint8Array): Result<Work, readonly string[]> {
  if (bytes.length > 2 * MOST_BYTES) return failure(['it is too large']);
  const text = strFromU8(bytes);
  const read = readJson(text);
  if (!read.ok) return failure(read.problem.map(formatProblemText));
  const data = JSON.parse(text) as { readonly recipes?: unknown };
  const recipes = recipesSchema.safeParse(data.recipes ?? {});
  return recipes.success
    ? success({ tune: read.value.tune, recipes: recipes.data })
    : failure(['its levels cannot be read']);
}

function readList<Value>(
  bytes: Uint8Array,
  schema: z.ZodType<Value>,
): { readonly values: readonly Value[]; readonly problems: readonly string[] } {
  let data: unknown;
  try {
    data = JSON.parse(strFromU8(bytes));
  } catch {
    return { values: [], problems: ['it is no JSON'] };
  }
  if (!Array.isArray(data)) return { values: [], problems: ['it should be a list'] };
  const values: Value[] = [];
  const problems: string[] = [];
  data.forEach((one, index) => {
    const read = schema.safeParse(one);
    if (read.success) values.push(read.data);
    else if (problems.length < MOST_PROBLEMS)
      problems.push(`number ${index + 1}: ${read.error.issues[0]?.message ?? 'it cannot be read'}`);
  });
  return { values, problems };
}
