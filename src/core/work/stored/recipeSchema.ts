import { z } from 'zod';
import { FINGER_SCHOOLS, HIGHEST_HAND, MARK_SCHOOLS, MARK_STYLES } from '../../fingering';
import {
  type CustomInstrument,
  customInstrumentProblems,
  HOLE_CHARTS,
  instrumentById,
  LEVELS,
  limitsProblem,
} from '../../instruments';
import {
  AIDS,
  ALTERNATES_AS,
  ARTICULATION_STYLES,
  PHRASINGS,
  DEVICES,
  FADES,
  FORMS,
  LEAPS,
  LEAVE_OUTS,
  MAX_OWN_EVENTS,
  PAGE_SIZES,
  PLAIN_BAR_CHOICES,
  REMEDIES,
  SYLLABLE_SCHOOLS,
  type BarChoice,
} from '../groups';
import { ALL_BEAT_RHYTHMS, SHORTEST } from '../beatRhythms';
import { MELODIES, MAX_SEED, type Recipe, type Recipes } from '../recipe';
import { MAX_RECIPE_NAME, type SavedRecipe } from '../savedRecipe';
import type { Work } from '../work';
import { ALL_SCALE_NAMES } from '../../harmony';
import { DRILL_EXTENTS, DRILL_LIMITS, DRILL_RHYTHMS, MAX_STORED_BARS, MAX_TEXT, TEMPO_LIMITS } from '../../score';
import { MAX_KNOWN_NOTES } from '../../pitch';
import { type ImprovisingWishes, MAX_ADVICE, POOL_KINDS, POOL_SCHOOLS } from '../../pools';
import { AMOUNTS, DEVICES as SOLO_DEVICES, PHRASE_KINDS, SOLO_LIMITS, SOLO_TOOLS, TARGET_DEGREES } from '../../solos';

import { eventSchema, keySchema, pitchSchema, swingSchema, tuneSchema } from './tuneSchema';
import { textSchema } from './textSchema';
import { RECIPE_SCHEMA, upgradedRecipe, upgradedSavedRecipe } from './upgradeRecipe';

/** Decisions about single notes or bars in one part; more than any tune has that is arranged by hand. */
const MAX_PINS = 2_000;
const MAX_INSTRUMENT_NAME = 80;

const rangeSchema = z.strictObject({ low: pitchSchema, high: pitchSchema });

/** A custom instrument of a studio, with its facts in order. */
export const customInstrumentSchema = z
  .strictObject({
    id: z.string().regex(/^own-[a-zA-Z0-9]{1,30}$/),
    name: textSchema(MAX_INSTRUMENT_NAME).trim().min(1),
    base: z.string().max(60),
    transposition: z
      .strictObject({ diatonic: z.int().min(-28).max(28), chromatic: z.int().min(-48).max(48) })
      .optional(),
    strings: z.array(pitchSchema).min(1).max(12).optional(),
    chart: z.enum(HOLE_CHARTS).optional(),
    range: z
      .strictObject({ beginner: rangeSchema, intermediate: rangeSchema, advanced: rangeSchema, full: rangeSchema })
      .optional(),
  })
  .superRefine((custom, context) => {
    for (const message of customInstrumentProblems(custom)) context.addIssue({ code: 'custom', message });
  }) satisfies z.ZodType<CustomInstrument>;

const intervalSchema = z.strictObject({ diatonic: z.int().min(-14).max(14), chromatic: z.int().min(-24).max(24) });
const setNameSchema = z.enum(ALL_SCALE_NAMES);

/** What was decided about notes to improvise with. */
const improviseSchema = z.strictObject({
  pools: z.array(z.enum(POOL_KINDS)).max(POOL_KINDS.length).optional(),
  school: z.enum(POOL_SCHOOLS).optional(),
  towardsChords: z.int().min(0).max(100).optional(),
  whole: z.strictObject({ name: setNameSchema, above: intervalSchema }).optional(),
  stage: z.int().min(0).max(3).optional(),
  chords: byId(
    z.strictObject({
      set: setNameSchema.optional(),
      added: z.array(intervalSchema).max(12).optional(),
      struck: z.array(intervalSchema).max(12).optional(),
    }),
    'chords',
  ).optional(),
  advice: textSchema(MAX_ADVICE).optional(),
}) satisfies z.ZodType<ImprovisingWishes>;

const seedSchema = z.int().min(0).max(MAX_SEED);
/** Farther than any note of a phrase lies from its start, and longer than any is. */
const MAX_TICKS = SOLO_LIMITS.bars * 128 * 10_080;
const ticksSchema = z.int().min(-MAX_TICKS).max(MAX_TICKS);
const phraseId = z.string().regex(/^p[1-9]\d{0,3}$/);
const soloSchema = z.strictObject({
  seed: seedSchema.optional(),
  plan: z
    .array(
      z.strictObject({
        id: phraseId,
        bars: z.int().min(1).max(SOLO_LIMITS.bars),
        kind: z.enum(PHRASE_KINDS),
        of: phraseId.optional(),
        height: z.number().min(0).max(1).optional(),
        rhythm: z
          .strictObject({
            lengths: z
              .array(ticksSchema)
              .min(1)
              .max(SOLO_LIMITS.rhythm)
              .refine(
                (lengths) => lengths.every((length) => length !== 0) && lengths.some((length) => length > 0),
                'lengths, with a note',
              ),
            from: z.string().max(MAX_TEXT),
          })
          .optional(),
      }),
    )
    .min(1)
    .max(SOLO_LIMITS.phrases)
    .refine((plan) => new Set(plan.map(({ id }) => id)).size === plan.length, 'each phrase with a name of its own')
    .optional(),
  given: z
    .record(
      phraseId,
      z.strictObject({
        notes: z
          .array(
            z.strictObject({
              at: ticksSchema,
              length: z.int().min(1).max(MAX_TICKS),
              pitch: pitchSchema,
              device: z.enum(SOLO_DEVICES).optional(),
              isTriplet: z.literal(true).optional(),
              isEarly: z.literal(true).optional(),
            }),
          )
          .max(SOLO_LIMITS.notes)
          .refine(
            (notes) =>
              notes.every(({ at }, k) => k === 0 || at >= (notes[k - 1]?.at ?? 0) + (notes[k - 1]?.length ?? 0)),
            'notes one after the other',
          ),
        isOwn: z.literal(true).optional(),
        lick: z.string().max(80).optional(),
        isTake: z.literal(true).optional(),
      }),
    )
    .refine((given) => Object.keys(given).length <= SOLO_LIMITS.phrases, 'no more phrases than a solo has')
    .optional(),
  isPlanOfTake: z.literal(true).optional(),
  tools: z.partialRecord(z.enum(SOLO_TOOLS), z.literal(AMOUNTS)).optional(),
  targets: z
    .array(z.strictObject({ bar: z.int().min(1).max(MAX_STORED_BARS), degree: z.literal(TARGET_DEGREES) }))
    .max(SOLO_LIMITS.targets)
    .optional(),
});
const barChoiceSchema = z.union([
  z.strictObject({ kind: z.enum(PLAIN_BAR_CHOICES) }),
  z.strictObject({ kind: z.literal('embellished'), seed: seedSchema }),
  z.strictObject({
    kind: z.literal('own'),
    events: z.array(eventSchema).min(1).max(MAX_OWN_EVENTS),
    key: keySchema,
    octaves: z.int().min(-6).max(6),
  }),
]) satisfies z.ZodType<BarChoice>;

/** Decisions by the id of an event or bar. */
function byId<Value extends z.ZodType>(value: Value, what: string) {
  return z
    .record(z.string().max(40), value)
    .refine((decisions) => Object.keys(decisions).length <= MAX_PINS, `at most ${MAX_PINS} ${what}`);
}

const barChoicesSchema = byId(barChoiceSchema, 'bars');

const groupFields = {
  solo: soloSchema.optional(),
  melody: z.enum(MELODIES).optional(),
  rhythm: z
    .strictObject({
      shortest: z.enum(SHORTEST).optional(),
      offBeat: z.boolean().optional(),
      dotted: z.boolean().optional(),
      ties: z.boolean().optional(),
      words: z.array(z.enum(ALL_BEAT_RHYTHMS)).max(ALL_BEAT_RHYTHMS.length).optional(),
    })
    .optional(),
  embellish: z
    .strictObject({
      density: z.int().min(0).max(100).optional(),
      devices: z.array(z.enum(DEVICES)).max(DEVICES.length).optional(),
      seed: seedSchema.optional(),
    })
    .optional(),
  limits: z
    .strictObject({
      leap: z.union(LEAPS.map((steps) => z.literal(steps))).optional(),
      range: z
        .strictObject({ low: pitchSchema.optional(), high: pitchSchema.optional() })
        .refine((range) => limitsProblem(range) === undefined, 'the lowest note below the highest')
        .optional(),
      known: z.array(pitchSchema).max(MAX_KNOWN_NOTES).optional(),
      remedies: byId(z.enum(REMEDIES), 'remedies').optional(),
    })
    .optional(),
  articulation: z
    .strictObject({
      style: z.enum(ARTICULATION_STYLES).optional(),
      phrasing: z.enum(PHRASINGS).optional(),
      swing: z.union([z.literal('straight'), swingSchema]).optional(),
    })
    .optional(),
  form: z.strictObject({ plays: z.enum(FORMS).optional(), leaveOut: z.enum(LEAVE_OUTS).optional() }).optional(),
  page: z
    .strictObject({
      aids: z.partialRecord(z.enum(AIDS), z.enum(FADES)).optional(),
      barAids: byId(z.array(z.enum(AIDS)).max(AIDS.length), 'bars').optional(),
      syllables: z.enum(SYLLABLE_SCHOOLS).optional(),
      marks: z.enum(MARK_SCHOOLS).optional(),
      school: z.enum(FINGER_SCHOOLS).optional(),
      size: z.enum(PAGE_SIZES).optional(),
      markStyle: z.enum(MARK_STYLES).optional(),
      tab: z.literal(true).optional(),
      pins: byId(z.string().min(1).max(60), 'pins').optional(),
    })
    .optional(),
};

/** A recipe at the boundary: file, network, database. Older shapes are upgraded first; the number does not come in. */
export const recipeSchema = z.preprocess(
  upgradedRecipe,
  z
    .strictObject({
      schema: z.literal(RECIPE_SCHEMA),
      instrument: z.string().max(60),
      custom: customInstrumentSchema.optional(),
      keyAndTempo: z
        .strictObject({
          key: keySchema.optional(),
          perMinute: z.int().min(TEMPO_LIMITS.slowest).max(TEMPO_LIMITS.fastest).optional(),
          moved: z.enum(['range', 'signature']).optional(),
        })
        .optional(),
      ...groupFields,
      improvise: improviseSchema.optional(),
      drill: z
        .strictObject({
          extent: z.union([z.enum(DRILL_EXTENTS), rangeSchema]).optional(),
          rhythm: z.enum(DRILL_RHYTHMS).optional(),
          hand: z.int().min(1).max(HIGHEST_HAND).optional(),
          keys: z.int().min(1).max(DRILL_LIMITS.keys).optional(),
        })
        .optional(),
      bars: z
        .strictObject({
          chosen: barChoicesSchema.optional(),
          alternates: barChoicesSchema.optional(),
          alternatesAs: z.enum(ALTERNATES_AS).optional(),
        })
        .optional(),
    })
    .refine(({ instrument, custom }) => custom !== undefined || instrumentById(instrument) !== undefined, {
      path: ['instrument'],
      message: 'an instrument of the catalogue',
    })
    .transform(({ schema: _, ...recipe }) => recipe),
) satisfies z.ZodType<Recipe>;

export const recipesSchema = z.partialRecord(z.enum(LEVELS), recipeSchema) satisfies z.ZodType<Partial<Recipes>>;

/** A work as it is sent and kept in the browser. Whether bars add up is looked at by `readTuneDocument`. */
export const workSchema = z.strictObject({ tune: tuneSchema, recipes: recipesSchema }) satisfies z.ZodType<Work>;

/** What a studio saves of a recipe under a name. */
export const savedRecipeSchema = z.preprocess(
  upgradedSavedRecipe,
  z
    .strictObject({
      schema: z.literal(RECIPE_SCHEMA),
      id: z.string().regex(/^recipe-[a-zA-Z0-9]{1,30}$/),
      name: textSchema(MAX_RECIPE_NAME).trim().min(1),
      level: z.enum(LEVELS),
      wishes: z.strictObject(groupFields),
    })
    .transform(({ schema: _, ...saved }) => saved),
) satisfies z.ZodType<SavedRecipe>;
