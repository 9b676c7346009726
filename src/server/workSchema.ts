import { z } from 'zod';
import { eventSchema, keySchema, pitchSchema, swingSchema, tuneSchema } from '../core/formats/json/tuneSchema';
import { readTuneDocument } from '../core/formats/json/readJson';
import { formatProblemText } from '../core/formats/problem';
import { instrumentById } from '../core/instruments/catalogue';
import { LEVELS } from '../core/instruments/instrument';
import { MARK_SCHOOLS } from '../core/fingering/marks';
import { FINGER_SCHOOLS } from '../core/fingering/travel';
import { limitsProblem } from '../core/instruments/limits';
import { MOST_KNOWN_NOTES } from '../core/pitch/noteList';
import { AIDS, FADES } from '../core/levels/page/aids';
import { MANNERS } from '../core/levels/line/articulate';
import { FORMS } from '../core/levels/form/form';
import { LEAPS } from '../core/levels/fit/leaps';
import { LEAVE_OUTS } from '../core/levels/bars/leaveOut';
import { DEVICES } from '../core/levels/embellish/devices';
import {
  ALTERNATES_AS,
  BAR_CHOICES,
  MELODIES,
  MOST_OWN_EVENTS,
  MOST_SEED,
  REMEDIES,
  TEMPO_LIMITS,
  type BarChoice,
} from '../core/levels/recipe/recipe';
import { KEPT_FIELDS, LONGEST_RECIPE_NAME, type KeptRecipe } from '../core/levels/recipe/savedRecipe';
import { SHORTEST } from '../core/levels/simplify/slots';
import { SYLLABLE_SCHOOLS } from '../core/levels/page/syllables';
import { ownInstrumentSchema } from './groupSchema';
import type { Work } from '../core/levels/recipe/work';
import type { StoredWork } from '../db/tuneRepository';

/** Decisions about single notes in one part; more than any tune has that is arranged by hand. */
const MOST_PINS = 2_000;

const seedSchema = z.int().min(0).max(MOST_SEED);
const plainChoices = BAR_CHOICES.filter((kind) => kind !== 'dressed' && kind !== 'own');
const barChoiceSchema: z.ZodType<BarChoice> = z.union([
  z.strictObject({ kind: z.enum(plainChoices) }),
  z.strictObject({ kind: z.literal('dressed'), seed: seedSchema }),
  z.strictObject({
    kind: z.literal('own'),
    events: z.array(eventSchema).min(1).max(MOST_OWN_EVENTS),
    key: keySchema,
    octaves: z.int().min(-6).max(6),
  }),
]) as unknown as z.ZodType<BarChoice>;
const barChoicesSchema = z
  .record(z.string().max(40), barChoiceSchema)
  .refine((bars) => Object.keys(bars).length <= MOST_PINS, `at most ${MOST_PINS} bars`);

const recipeFields = {
  instrument: z.string().max(60),
  key: keySchema.optional(),
  perMinute: z.int().min(TEMPO_LIMITS.slowest).max(TEMPO_LIMITS.fastest).optional(),
  own: ownInstrumentSchema.optional(),
  marks: z.enum(MARK_SCHOOLS).optional(),
  school: z.enum(FINGER_SCHOOLS).optional(),
  pins: z
    .record(z.string().max(40), z.string().min(1).max(60))
    .refine((pins) => Object.keys(pins).length <= MOST_PINS, `at most ${MOST_PINS} pins`)
    .optional(),
  remedies: z
    .record(z.string().max(40), z.enum(REMEDIES))
    .refine((remedies) => Object.keys(remedies).length <= MOST_PINS, `at most ${MOST_PINS} remedies`)
    .optional(),
  melody: z.enum(MELODIES).optional(),
  form: z.enum(FORMS).optional(),
  shortest: z.enum(SHORTEST).optional(),
  syncopation: z.boolean().optional(),
  ties: z.boolean().optional(),
  dotted: z.boolean().optional(),
  leap: z.union(LEAPS.map((steps) => z.literal(steps))).optional(),
  range: z
    .strictObject({ low: pitchSchema.optional(), high: pitchSchema.optional() })
    .refine(
      (range) => limitsProblem(range as Parameters<typeof limitsProblem>[0]) === undefined,
      'the lowest note below the highest',
    )
    .optional(),
  known: z.array(pitchSchema).max(MOST_KNOWN_NOTES).optional(),
  manner: z.enum(MANNERS).optional(),
  swing: z.union([z.literal('straight'), swingSchema]).optional(),
  density: z.int().min(0).max(100).optional(),
  devices: z.array(z.enum(DEVICES)).max(DEVICES.length).optional(),
  seed: seedSchema.optional(),
  aids: z.partialRecord(z.enum(AIDS), z.enum(FADES)).optional(),
  syllables: z.enum(SYLLABLE_SCHOOLS).optional(),
  bars: barChoicesSchema.optional(),
  alternates: barChoicesSchema.optional(),
  alternatesAs: z.enum(ALTERNATES_AS).optional(),
  leaveOut: z.enum(LEAVE_OUTS).optional(),
};

const recipeSchema = z
  .strictObject(recipeFields)
  .refine(({ instrument, own }) => own !== undefined || instrumentById(instrument) !== undefined, {
    path: ['instrument'],
    message: 'an instrument of the catalogue',
  });
/** What a studio keeps of a recipe under a name. */
const keptRecipeSchema = z.strictObject({
  id: z.string().regex(/^recipe-[a-zA-Z0-9]{1,30}$/),
  name: z.string().trim().min(1).max(LONGEST_RECIPE_NAME),
  level: z.enum(LEVELS),
  wishes: z.strictObject(Object.fromEntries(KEPT_FIELDS.map((field) => [field, recipeFields[field]]))),
}) as unknown as z.ZodType<KeptRecipe>;

export function checkKeptRecipe(data: unknown): Checked<KeptRecipe> {
  const parsed = keptRecipeSchema.safeParse(data);
  return parsed.success
    ? { ok: true, value: parsed.data }
    : { ok: false, messages: parsed.error.issues.slice(0, 10).map(issueText) };
}

const recipesSchema = z.partialRecord(z.enum(LEVELS), recipeSchema);

const workSchema = z.strictObject({ tune: tuneSchema, recipes: recipesSchema });

/** What the bench sends to be saved. */
const saveSchema = z.strictObject({ version: z.int().min(1), work: workSchema });

export type Checked<Value> =
  { readonly ok: true; readonly value: Value } | { readonly ok: false; readonly messages: readonly string[] };

/** Checks what the bench sent: its shape, that bars add up, and that each level's key is of the tune's mode. */
export function checkSave(data: unknown): Checked<{ readonly version: number; readonly work: Work }> {
  const parsed = saveSchema.safeParse(data);
  if (!parsed.success) return { ok: false, messages: parsed.error.issues.slice(0, 10).map(issueText) };
  const work = checkWork(parsed.data.work);
  return work.ok ? { ok: true, value: { version: parsed.data.version, work: work.value } } : work;
}

/** Checks a work that is to become a tune of its own. */
export function checkNewWork(data: unknown): Checked<Work> {
  const parsed = workSchema.safeParse(data);
  return parsed.success
    ? checkWork(parsed.data)
    : { ok: false, messages: parsed.error.issues.slice(0, 10).map(issueText) };
}

/** Checks a work from the database or the network. */
export function checkWork({ tune, recipes }: Pick<StoredWork, 'tune' | 'recipes'>): Checked<Work> {
  const read = readTuneDocument(tune);
  if (!read.ok) return { ok: false, messages: read.problems.map(formatProblemText) };
  const levels = recipesSchema.safeParse(recipes);
  if (!levels.success) return { ok: false, messages: levels.error.issues.slice(0, 10).map(issueText) };
  const wrong = LEVELS.filter((level) => (levels.data[level]?.key?.mode ?? read.tune.key.mode) !== read.tune.key.mode);
  if (wrong.length > 0)
    return {
      ok: false,
      messages: wrong.map((level) => `${level}: its key must be ${read.tune.key.mode}, like the tune's`),
    };
  return { ok: true, value: { tune: read.tune, recipes: levels.data as Work['recipes'] } };
}

function issueText(issue: z.core.$ZodIssue): string {
  return `${issue.path.join('.') || 'the request'}: ${issue.message}`;
}
