import { ALL_SCALE_NAMES, CHORD_FUNCTIONS } from '../../harmony';
import { parsePattern } from '../../drills';
import {
  ARTICULATIONS,
  CLOSINGS,
  DRILL_ARTICULATIONS,
  DRILL_DIRECTIONS,
  DRILL_EXTENTS,
  DRILL_LIMITS,
  DRILL_RHYTHMS,
  DYNAMICS,
  HAIRPINS,
  HANDINGS,
  INTRODUCTIONS,
  JUMPS,
  KEY_ORDERS,
  SET_SIGNATURES,
  MAX_CHORDS_IN_BAR,
  MAX_LICK_PUPILS,
  MAX_STORED_BARS,
  MAX_TEXT,
  MAX_VERSES,
  ORNAMENTS,
  PART_ROLES,
  PHRASE_MARKS,
  RIGHTS,
  STYLES,
  SWING_UNITS,
  type Tune,
  TUNE_SCHEMA,
} from '../../score';
import { z } from 'zod';
import { LEVELS } from '../../instruments';
import { LETTERS, MODES } from '../../pitch';
import { NOTE_TYPES, type Tuplet } from '../../time';
import { textSchema } from './textSchema';

const idSchema = z.string().regex(/^[A-Za-z0-9._-]{1,40}$/, 'an id of letters, digits, dots, dashes');
const ticks = z
  .int()
  .min(1)
  .max(128 * 10_080);
const classShape = { step: z.enum(LETTERS), alter: z.int().min(-3).max(3) };
export const pitchClassSchema = z.strictObject(classShape);
export const swingSchema = z.strictObject({ unit: z.enum(SWING_UNITS), ratio: z.number().min(1).max(4) });
export const pitchSchema = z.strictObject({ ...classShape, octave: z.int().min(0).max(9) });
export const keySchema = z.strictObject({ tonic: pitchClassSchema, mode: z.enum(MODES) });
const meterSchema = z.strictObject({
  count: z.int().min(1).max(32),
  unit: z.union([z.literal(1), z.literal(2), z.literal(4), z.literal(8), z.literal(16), z.literal(32)]),
  sign: z.enum(['common', 'cut']).optional(),
});
const dotsSchema = z.union([z.literal(0), z.literal(1), z.literal(2), z.literal(3)]);
const tempoSchema = z.strictObject({
  beat: z.strictObject({ type: z.enum(NOTE_TYPES), dots: dotsSchema }),
  perMinute: z.int().min(1).max(999),
  words: textSchema(60).optional(),
});
const tupletShape = { id: idSchema, actual: z.int().min(1).max(64), normal: z.int().min(1).max(64) };
/** Three deep at most, like the notation that can be read; a schema that named itself would follow any depth. */
const tupletSchema: z.ZodType<Tuplet> = z.strictObject({
  ...tupletShape,
  outer: z.strictObject({ ...tupletShape, outer: z.strictObject(tupletShape).optional() }).optional(),
});
const timed = { id: idSchema, length: ticks, tuplet: tupletSchema.optional(), optional: z.literal(true).optional() };
const noteSchema = z.strictObject({
  kind: z.literal('note'),
  ...timed,
  pitch: pitchSchema,
  tied: z.literal(true).optional(),
  graces: z
    .array(z.strictObject({ pitch: pitchSchema, slashed: z.literal(true).optional() }))
    .max(16)
    .optional(),
  articulations: z.array(z.enum(ARTICULATIONS)).max(8).optional(),
  ornaments: z.array(z.enum(ORNAMENTS)).max(4).optional(),
  fermata: z.literal(true).optional(),
  dynamic: z.enum(DYNAMICS).optional(),
  slurStarts: z.int().min(1).max(4).optional(),
  slurEnds: z.int().min(1).max(4).optional(),
  hairpin: z.enum(HAIRPINS).optional(),
  hairpinEnds: z.literal(true).optional(),
  lyrics: z
    .array(
      z.strictObject({
        verse: z.int().min(1).max(MAX_VERSES),
        text: textSchema(80),
        hyphen: z.literal(true).optional(),
        extend: z.literal(true).optional(),
      }),
    )
    .min(1)
    .max(MAX_VERSES)
    .optional(),
  phrase: z.enum(PHRASE_MARKS).optional(),
});
const restSchema = z.strictObject({ kind: z.literal('rest'), ...timed, fermata: z.literal(true).optional() });
const alteration = z.strictObject({
  degree: z.union([z.literal(5), z.literal(9), z.literal(11), z.literal(13)]),
  alter: z.union([z.literal(-1), z.literal(1)]),
});
const chordKindSchema = z.strictObject({
  triad: z.enum(['major', 'minor', 'diminished', 'augmented', 'sus2', 'sus4', 'power']),
  sixth: z.literal(true).optional(),
  seventh: z.enum(['minor', 'major', 'diminished']).optional(),
  extension: z.union([z.literal(9), z.literal(11), z.literal(13)]).optional(),
  alterations: z.array(alteration).max(8),
  added: z.array(z.union([z.literal(2), z.literal(4), z.literal(9), z.literal(11), z.literal(13)])).max(5),
  omitted: z.array(z.union([z.literal(3), z.literal(5)])).max(2),
  altered: z.literal(true).optional(),
});
const chordSymbolSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('chord'),
    root: pitchClassSchema,
    quality: chordKindSchema,
    bass: pitchClassSchema.optional(),
  }),
  z.strictObject({ kind: z.literal('no chord') }),
]);
const placedChordSchema = z.strictObject({
  at: z
    .int()
    .min(0)
    .max(128 * 10_080),
  symbol: chordSymbolSchema,
});
const patternSchema = z
  .string()
  .max(80)
  .refine((text) => parsePattern(text).ok, 'a pattern of the list, or cell: or group: with degrees');
const drillStepSchema = z.strictObject({
  set: z.enum(ALL_SCALE_NAMES),
  pattern: patternSchema,
  direction: z.enum(DRILL_DIRECTIONS).optional(),
  extent: z.enum(DRILL_EXTENTS).optional(),
  rhythm: z.enum(DRILL_RHYTHMS).optional(),
  mirrored: z.boolean().optional(),
  hand: z.literal('shape').optional(),
});
const drillSchema = z.strictObject({
  steps: z.array(drillStepSchema).min(1).max(DRILL_LIMITS.steps),
  keys: z.union([z.enum(KEY_ORDERS), z.array(pitchClassSchema).min(1).max(DRILL_LIMITS.keys)]).optional(),
  start: pitchClassSchema.optional(),
  articulation: z.enum(DRILL_ARTICULATIONS).optional(),
  borrowed: z
    .array(z.int().min(-40_320).max(40_320).multipleOf(2_520))
    .min(1)
    .max(DRILL_LIMITS.borrowed)
    .refine(
      (lengths) => lengths.every((length) => length !== 0) && lengths.some((length) => length > 0),
      'lengths, with a note',
    )
    .optional(),
  over: z
    .strictObject({
      title: textSchema(MAX_TEXT),
      key: keySchema,
      meter: meterSchema,
      bars: z
        .array(z.strictObject({ chords: z.array(placedChordSchema).max(MAX_CHORDS_IN_BAR), partial: ticks.optional() }))
        .min(1)
        .max(MAX_STORED_BARS),
    })
    .optional(),
  signature: z.enum(SET_SIGNATURES).optional(),
  seed: z.int().min(0).max(999_999_999).optional(),
  movingOn: z.strictObject({ when: z.enum(['mastered', 'in-turn']), rounds: z.int().min(1).max(9) }).optional(),
  dates: z
    .strictObject({
      every: z.enum(['day', 'week']),
      from: z
        .string()
        .regex(/^\d{4}-\d{2}-\d{2}$/)
        .refine((text) => !Number.isNaN(Date.parse(text)), 'a date like 2026-01-31'),
    })
    .optional(),
  spoken: z.boolean().optional(),
});
export const eventSchema = z.discriminatedUnion('kind', [noteSchema, restSchema]);
const eventsSchema = z.array(eventSchema).min(1).max(512);
const barSchema = z.strictObject({
  id: idSchema,
  events: eventsSchema,
  second: eventsSchema.optional(),
  tempos: z
    .array(
      z.strictObject({
        at: z
          .int()
          .min(0)
          .max(128 * 10_080),
        tempo: tempoSchema,
      }),
    )
    .min(1)
    .max(16)
    .optional(),
  chords: z.array(placedChordSchema).max(MAX_CHORDS_IN_BAR),
  meter: meterSchema.optional(),
  key: keySchema.optional(),
  partial: ticks.optional(),
  repeatStart: z.literal(true).optional(),
  repeatEnd: z.int().min(2).max(16).optional(),
  ending: z.array(z.int().min(1).max(16)).min(1).max(16).optional(),
  endingStops: z.literal(true).optional(),
  barline: z.enum(['double', 'final']).optional(),
  section: textSchema(40).optional(),
  jumps: z.array(z.enum(JUMPS)).max(6).optional(),
});

/** More players than are in all groups of a studio that plays a tune. */
const MAX_TOGETHER_PLAYERS = 600;
const seedSchema = z.int().min(0).max(9_999);
const playerIdSchema = z.string().regex(/^[A-Za-z0-9._-]{1,60}$/, 'an id of letters, digits, dots, dashes');
const playersRecord = <Value extends z.ZodType>(value: Value) =>
  z.record(playerIdSchema, value).refine((all) => Object.keys(all).length <= MAX_TOGETHER_PLAYERS, 'fewer players');
const togetherBarSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('simpler') }),
  z.strictObject({ kind: z.literal('other'), seed: seedSchema }),
  z.strictObject({ kind: z.literal('octave-up') }),
  z.strictObject({ kind: z.literal('octave-down') }),
  z.strictObject({ kind: z.literal('rest') }),
  z.strictObject({ kind: z.literal('own'), events: eventsSchema, key: keySchema }),
]);
const togetherSchema = z.strictObject({
  cells: z.record(idSchema, playersRecord(z.enum([...PART_ROLES, 'out']))).optional(),
  handing: z.enum(HANDINGS).optional(),
  bars: playersRecord(z.record(idSchema, togetherBarSchema)).optional(),
  levels: playersRecord(z.enum(LEVELS)).optional(),
  absent: z.array(playerIdSchema).max(MAX_TOGETHER_PLAYERS).optional(),
  key: keySchema.optional(),
  perMinute: z.int().min(20).max(400).optional(),
  intro: z.enum(INTRODUCTIONS).optional(),
  closing: z.enum(CLOSINGS).optional(),
  thinFirst: z.literal(true).optional(),
  solos: z.literal(true).optional(),
  seed: seedSchema.optional(),
});

/** The tune document at the boundary: file, network, database. Inside, the plain types of `score/tune` are trusted. */
export const tuneSchema = z.strictObject({
  schema: z.literal(TUNE_SCHEMA),
  title: textSchema(MAX_TEXT),
  composer: textSchema(MAX_TEXT).optional(),
  source: textSchema(MAX_TEXT).optional(),
  rights: z.enum(RIGHTS),
  key: keySchema,
  meter: meterSchema,
  tempo: tempoSchema,
  swing: swingSchema.optional(),
  recordingKey: keySchema.optional(),
  harmony: z
    .strictObject({
      style: z.enum(STYLES).optional(),
      readings: z
        .array(
          z.strictObject({
            bar: z.string().max(60),
            at: z
              .int()
              .min(0)
              .max(128 * 10_080),
            key: keySchema.optional(),
            function: z.enum(CHORD_FUNCTIONS).optional(),
          }),
        )
        .max(MAX_STORED_BARS)
        .optional(),
    })
    .optional(),
  together: togetherSchema.optional(),
  drill: drillSchema.optional(),
  lick: z.strictObject({ pupils: z.array(textSchema(80)).max(MAX_LICK_PUPILS).optional() }).optional(),
  bars: z.array(barSchema).min(1).max(MAX_STORED_BARS),
}) as z.ZodType<Tune>;
