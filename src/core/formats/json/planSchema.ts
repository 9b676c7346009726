import { z } from 'zod';
import { dayNumber, PACES, SCHOOLS, WEEKDAYS } from '../../planning';
import { KEY_ORDERS, MAX_BARS, TEMPO_LIMITS } from '../../score';
import { LEVELS } from '../../instruments';
import { textSchema } from '../../work/stored';

/** What a plan may hold. */
const PLAN_LIMITS = { works: 100, off: 200, minutes: 1_440, text: 200 } as const;

export const dateSchema = z
  .string()
  .refine((text) => dayNumber(text) !== undefined, 'write a date of the calendar like 2027-03-20');
const tempoSchema = z.number().min(TEMPO_LIMITS.slowest).max(TEMPO_LIMITS.fastest);
const idSchema = textSchema(80).trim().min(1);
const wordSchema = textSchema(PLAN_LIMITS.text).trim().min(1);

/** Minutes by weekday. */
export const practiceSchema = z.partialRecord(z.enum(WEEKDAYS), z.int().min(0).max(PLAN_LIMITS.minutes));

const common = {
  id: idSchema,
  title: textSchema(PLAN_LIMITS.text).optional(),
  goal: tempoSchema.optional(),
  start: tempoSchema.optional(),
  by: dateSchema.optional(),
};

const keysSchema = z.union([z.enum(KEY_ORDERS), z.array(wordSchema).min(1).max(24), wordSchema]);

const workSchema = z.discriminatedUnion('kind', [
  z
    .strictObject({
      ...common,
      kind: z.literal('tune'),
      input: wordSchema.optional(),
      bars: z.int().min(1).max(MAX_BARS).optional(),
      difficulty: z.number().min(0).max(10).optional(),
      key: wordSchema.optional(),
    })
    .refine(({ input, bars, difficulty }) => input !== undefined || (bars !== undefined && difficulty !== undefined), {
      message: 'a tune has an input (a path), or bars and difficulty',
    }),
  z.strictObject({
    ...common,
    kind: z.literal('drill'),
    set: wordSchema,
    pattern: wordSchema,
    keys: keysSchema,
    pace: z.enum(PACES),
  }),
  z.strictObject({
    ...common,
    kind: z.literal('rounds'),
    order: z.union([z.array(wordSchema), wordSchema]).optional(),
  }),
  z.strictObject({ ...common, kind: z.literal('memory'), set: wordSchema }),
]);

/** The file that `reed plan` reads. */
export const planFileSchema = z.strictObject({
  schema: z.literal(1),
  pupil: z.strictObject({ name: textSchema(PLAN_LIMITS.text), instrument: wordSchema, level: z.enum(LEVELS) }),
  from: dateSchema,
  to: dateSchema,
  practice: practiceSchema,
  lesson: z.enum(WEEKDAYS).optional(),
  off: z
    .array(
      textSchema(40).refine(
        (text) => text.split('/').length <= 2 && text.split('/').every((date) => dayNumber(date) !== undefined),
        'write a date like 2027-03-20, or two with a stroke between them like 2027-03-20/2027-03-27',
      ),
    )
    .max(PLAN_LIMITS.off)
    .optional(),
  school: z.enum(SCHOOLS).optional(),
  work: z
    .array(workSchema)
    .max(PLAN_LIMITS.works)
    .refine((works) => new Set(works.map(({ id }) => id)).size === works.length, 'each work has an id of its own'),
});
export type PlanFile = z.infer<typeof planFileSchema>;
export type PlanFileWork = PlanFile['work'][number];

/** What is wrong with a file, its first fault, with the place and what would be right. */
export function planFileProblem(data: unknown): string | undefined {
  const parsed = planFileSchema.safeParse(data);
  if (parsed.success) return undefined;
  const [issue] = parsed.error.issues;
  const place = issue && issue.path.length > 0 ? `${issue.path.map(String).join('.')}: ` : '';
  return `${place}${issue?.message ?? 'it cannot be read'}`;
}
