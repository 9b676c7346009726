import { z } from 'zod';
import { pitchSchema } from '../core/formats/json/tuneSchema';
import { instrumentById } from '../core/instruments/catalogue';
import { HOLE_CHARTS, LEVELS } from '../core/instruments/instrument';
import { ownInstrumentProblems, type OwnInstrument } from '../core/instruments/customInstrument';
import { AIDS } from '../core/levels/page/aids';
import { limitsProblem } from '../core/instruments/limits';
import { GROUP_LIMITS, WANTED_MARKS, type Group } from '../core/keys/group';
import type { Checked } from './workSchema';

const rangeSchema = z.strictObject({ low: pitchSchema, high: pitchSchema });

/** An instrument of a studio's own, with its facts in order. */
export const ownInstrumentSchema = (
  z.strictObject({
    id: z.string().regex(/^own-[a-zA-Z0-9]{1,30}$/),
    name: z.string().trim().min(1).max(GROUP_LIMITS.name),
    base: z.string().max(60),
    transposition: z
      .strictObject({ diatonic: z.int().min(-28).max(28), chromatic: z.int().min(-48).max(48) })
      .optional(),
    strings: z.array(pitchSchema).min(1).max(12).optional(),
    chart: z.enum(HOLE_CHARTS).optional(),
    range: z
      .strictObject({ beginner: rangeSchema, intermediate: rangeSchema, advanced: rangeSchema, full: rangeSchema })
      .optional(),
  }) as z.ZodType<OwnInstrument>
).superRefine((own, context) => {
  for (const message of ownInstrumentProblems(own)) context.addIssue({ code: 'custom', message });
});

const playerSchema = z
  .strictObject({
    id: z.string().min(1).max(40),
    name: z.string().trim().max(GROUP_LIMITS.name),
    instrument: z.string().max(60),
    own: ownInstrumentSchema.optional(),
    level: z.enum(LEVELS),
    low: pitchSchema.optional(),
    high: pitchSchema.optional(),
    known: z.array(pitchSchema).max(GROUP_LIMITS.knownNotes).optional(),
    marks: z.enum(WANTED_MARKS).optional(),
    aids: z.array(z.enum(AIDS)).max(AIDS.length).optional(),
  })
  .superRefine((player, context) => {
    if (!player.own && !instrumentById(player.instrument))
      context.addIssue({
        code: 'custom',
        path: ['instrument'],
        message: `"${player.instrument}" is not in the catalogue`,
      });
    const problem = limitsProblem(player as Parameters<typeof limitsProblem>[0]);
    if (problem) context.addIssue({ code: 'custom', path: ['low'], message: problem });
  });

const groupSchema = z.strictObject({
  name: z.string().trim().min(1).max(GROUP_LIMITS.name),
  players: z
    .array(playerSchema)
    .max(GROUP_LIMITS.players)
    .refine(
      (players) => new Set(players.map(({ id }) => id)).size === players.length,
      'each player has an id of their own',
    ),
}) as unknown as z.ZodType<Group>;

const groupSaveSchema = z.strictObject({ version: z.int().min(1), group: groupSchema });

function checked<Value>(schema: z.ZodType<Value>, data: unknown): Checked<Value> {
  const parsed = schema.safeParse(data);
  return parsed.success
    ? { ok: true, value: parsed.data }
    : {
        ok: false,
        messages: parsed.error.issues
          .slice(0, 10)
          .map(({ path, message }) => `${path.join('.') || 'the request'}: ${message}`),
      };
}

export const checkGroup = (data: unknown): Checked<Group> => checked(groupSchema, data);
export const checkGroupSave = (data: unknown): Checked<{ readonly version: number; readonly group: Group }> =>
  checked(groupSaveSchema, data);
export const checkOwnInstrument = (data: unknown): Checked<OwnInstrument> => checked(ownInstrumentSchema, data);
