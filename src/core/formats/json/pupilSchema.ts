import { z } from 'zod';
import { ALL_SCALE_NAMES } from '../../harmony';
import {
  LOG_SOURCES,
  type LogEntry,
  PACES,
  type Pupil,
  PUPIL_LIMITS,
  type PupilWork,
  SCHOOLS,
  WEEKDAYS,
} from '../../planning';
import { MAX_BARS, TEMPO_LIMITS } from '../../score';
import { keySchema, pitchClassSchema, textSchema } from '../../work/stored';
import { LOG_LIMITS } from '../csv/logCsv';
import { checkPlaying, playingShape } from './groupSchema';
import { packSchema } from './packSchema';
import { dateSchema, practiceSchema } from './planSchema';

const idSchema = z.string().regex(/^[\w-]{1,40}$/, 'letters, digits and dashes, 40 at most');
const titleSchema = textSchema(200).trim().min(1);
const tempoSchema = z.number().min(TEMPO_LIMITS.slowest).max(TEMPO_LIMITS.fastest);
const barSchema = z.int().min(0).max(MAX_BARS);

const common = {
  id: idSchema,
  title: titleSchema,
  playing: z.string().min(1).max(40),
  tune: idSchema.optional(),
  state: z.enum(['going', 'aside', 'removed']),
  goal: tempoSchema.optional(),
  start: tempoSchema.optional(),
  by: dateSchema.optional(),
  school: z.enum(SCHOOLS).optional(),
  byHeart: z.boolean().optional(),
};
const chunkSchema = z.strictObject({ fromBar: barSchema, toBar: barSchema, difficulty: z.number().min(0).max(10) });
const tonicsSchema = z.array(pitchClassSchema).min(1).max(24);

/** A work on a pupil's stand. */
const pupilWorkSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    ...common,
    kind: z.enum(['tune', 'ear']),
    chunks: z.array(chunkSchema).min(1).max(200),
    key: keySchema.optional(),
  }),
  z.strictObject({
    ...common,
    kind: z.literal('drill'),
    set: z.enum(ALL_SCALE_NAMES as [PupilSet, ...PupilSet[]]),
    patternName: titleSchema,
    groupSize: z.int().min(1).max(64),
    keys: tonicsSchema,
    pace: z.enum(PACES),
  }),
  z.strictObject({ ...common, kind: z.literal('rounds'), order: tonicsSchema.length(12) }),
  z.strictObject({
    ...common,
    kind: z.enum(['memory', 'pool']),
    tonic: pitchClassSchema,
    set: z.enum(ALL_SCALE_NAMES as [PupilSet, ...PupilSet[]]),
  }),
]) satisfies z.ZodType<PupilWork>;
type PupilSet = (typeof ALL_SCALE_NAMES)[number];

const each = (ids: readonly { readonly id: string }[]) => new Set(ids.map(({ id }) => id)).size === ids.length;

/** A pupil at the boundary: network, database, archive. */
export const pupilSchema = z.strictObject({
  name: textSchema(PUPIL_LIMITS.name).trim().min(1, 'a pupil has a first name'),
  playing: z
    .array(z.strictObject(playingShape).superRefine(checkPlaying))
    .min(1, 'a pupil plays something')
    .max(PUPIL_LIMITS.playing)
    .refine(each, 'each instrument has an id of its own'),
  lesson: z
    .strictObject({
      weekday: z.enum(WEEKDAYS),
      time: z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'write an hour like 16:30'),
      minutes: z.int().min(5).max(240),
    })
    .optional(),
  practice: practiceSchema,
  off: z
    .array(
      z
        .strictObject({ from: dateSchema, to: dateSchema })
        .refine(({ from, to }) => from <= to, 'days off end before they begin: the first date comes first'),
    )
    .max(PUPIL_LIMITS.off),
  school: z.enum(SCHOOLS),
  until: dateSchema.optional(),
  work: z.array(pupilWorkSchema).max(PUPIL_LIMITS.work).refine(each, 'each work has an id of its own'),
  pins: z
    .array(
      z.strictObject({
        date: dateSchema,
        work: idSchema,
        step: textSchema(80).optional(),
        minutes: z.int().min(0).max(PUPIL_LIMITS.dayMinutes),
      }),
    )
    .max(PUPIL_LIMITS.pins),
  lessons: z.array(z.strictObject({ date: dateSchema, note: textSchema(PUPIL_LIMITS.note) })).max(PUPIL_LIMITS.lessons),
  notThese: z.array(idSchema).max(200).optional(),
  pack: packSchema.optional(),
}) satisfies z.ZodType<Pupil>;

/** An entry as it is sent: with the id that its sender gave it, so that what arrives twice is written once. */
const sentEntrySchema = z.strictObject({
  id: idSchema,
  date: dateSchema,
  work: idSchema,
  step: textSchema(80),
  minutes: z.int().min(0).max(LOG_LIMITS.minutes),
  tempo: tempoSchema.optional(),
  good: z.int().min(0).max(LOG_LIMITS.rounds),
  again: z.int().min(0).max(LOG_LIMITS.rounds),
  by: z.enum(LOG_SOURCES),
  note: textSchema(LOG_LIMITS.note),
}) satisfies z.ZodType<SentEntry>;
export type SentEntry = LogEntry & { readonly id: string };

/** A pupil whole, as a file: who it is, and all of the log. */
export const pupilFileSchema = z.strictObject({
  format: z.literal('reed-hook-pupil'),
  id: idSchema,
  pupil: pupilSchema,
  log: z.array(sentEntrySchema).max(LOG_LIMITS.entries),
}) satisfies z.ZodType<PupilFile>;
export interface PupilFile {
  readonly format: 'reed-hook-pupil';
  readonly id: string;
  readonly pupil: Pupil;
  readonly log: readonly SentEntry[];
}

/** Entries that are sent at once. */
export const MAX_SENT_ENTRIES = 500;
export const sentEntriesSchema = z.strictObject({ entries: z.array(sentEntrySchema).min(1).max(MAX_SENT_ENTRIES) });
