import { z } from 'zod';
import { recipesSchema, savedRecipeSchema, textSchema, workSchema } from '../core/work/stored';
import { formatProblemText, parseJson, readTuneDocument, readTuneFile, tuneSizeProblems } from '../core/formats';
import { failure, success } from '../core/result';
import { LEVELS } from '../core/instruments';
import type { SavedRecipe, Work } from '../core/work';
import { checked, issueTexts, type Checked } from './checked';
import { documentsOf, type StoredTexts, type WorkDocuments } from '../db/tuneRepository';

/** The largest version number that the database can hold. */
export const MAX_VERSION = 4_294_967_295;

/** What the bench sends to be saved. */
const saveSchema = z.strictObject({
  version: z.int().min(1).max(MAX_VERSION),
  work: workSchema,
  what: textSchema(1_000).optional(),
  saveId: z
    .string()
    .regex(/^[\w-]{8,40}$/, '8 to 40 letters or digits')
    .optional(),
});

/**
 * A save as it was sent: the version it started from, the work, the words of its edits, and the id by which it is known
 * again.
 */
export interface SentSave {
  readonly version: number;
  readonly work: WorkDocuments;
  readonly what?: string | undefined;
  readonly saveId?: string | undefined;
}

export const checkSavedRecipe = (data: unknown): Checked<SavedRecipe> => checked(savedRecipeSchema, data);

/** Checks what the bench sent: its shape, that bars add up, and that each level's key is of the tune's mode. */
export function checkSave(data: unknown): Checked<SentSave> {
  const parsed = checked(saveSchema, data);
  if (!parsed.ok) return parsed;
  const work = drawableWork(parsed.value.work);
  return work.ok ? success({ ...parsed.value, work: documentsOf(work.value) }) : work;
}

/** Checks a work that is to become a tune of its own. */
export function checkNewWork(data: unknown): Checked<WorkDocuments> {
  const parsed = checked(workSchema, data);
  if (!parsed.ok) return parsed;
  const work = drawableWork(parsed.value);
  return work.ok ? success(documentsOf(work.value)) : work;
}

/** Checks a tune with its levels as a file of an archive: the same that is asked of a tune at every other door. */
export function checkWorkFile(text: string): Checked<WorkDocuments> {
  const data = parseJson(text);
  if (!data.ok) return failure([`it is not JSON: ${data.problem}`]);
  const read = readTuneFile(data.value);
  if (!read.ok) return failure(read.problem.map(formatProblemText));
  const found = data.value as { readonly recipes?: unknown };
  const recipes = recipesSchema.safeParse(found.recipes ?? {});
  if (!recipes.success) return failure(issueTexts(recipes.error).map((issue) => `its levels cannot be read: ${issue}`));
  const work = drawableWork({ tune: read.value.tune, recipes: recipes.data });
  return work.ok ? success(documentsOf(work.value)) : work;
}

/** Checks a work from the database: older documents are upgraded. */
export function checkStoredTexts({ tune, recipes }: StoredTexts): Checked<Work> {
  const read = readTuneDocument(JSON.parse(tune) as unknown);
  if (!read.ok) return failure(read.problem.map(formatProblemText));
  const levels = recipesSchema.safeParse(
    Object.fromEntries(Object.entries(recipes).map(([level, text]) => [level, JSON.parse(text) as unknown])),
  );
  return levels.success
    ? wholeWork({ tune: read.value.tune, recipes: levels.data })
    : failure(issueTexts(levels.error));
}

/**
 * What comes in at any door must be whole and small enough to be drawn; what lies in the database has come in.
 */
function drawableWork(work: Work): Checked<Work> {
  const large = tuneSizeProblems(work.tune);
  return large.length > 0 ? failure(large.map(formatProblemText)) : wholeWork(work);
}

/** What no schema of a part can tell: whether bars add up, and whether tune and recipes fit together. */
function wholeWork({ tune, recipes }: Work): Checked<Work> {
  const read = readTuneDocument(tune);
  if (!read.ok) return failure(read.problem.map(formatProblemText));
  const wrong = LEVELS.filter((level) => (recipes[level]?.keyAndTempo?.key?.mode ?? tune.key.mode) !== tune.key.mode);
  return wrong.length > 0
    ? failure(wrong.map((level) => `${level}: its key must be ${tune.key.mode}, like the tune's`))
    : success({ tune: read.value.tune, recipes });
}
