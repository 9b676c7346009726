import { z } from 'zod';
import { customInstrumentSchema, pitchSchema, textSchema, upgradedGroup } from '../../work/stored';
import { instrumentById, LEVELS, limitsProblem } from '../../instruments';
import { type Group, GROUP_LIMITS, WANTED_MARKS } from '../../keys';
import { AIDS } from '../../work';

const playerSchema = z
  .strictObject({
    id: z.string().min(1).max(40),
    name: textSchema(GROUP_LIMITS.name).trim(),
    instrument: z.string().max(60),
    custom: customInstrumentSchema.optional(),
    level: z.enum(LEVELS),
    low: pitchSchema.optional(),
    high: pitchSchema.optional(),
    known: z.array(pitchSchema).max(GROUP_LIMITS.knownNotes).optional(),
    marks: z.enum(WANTED_MARKS).optional(),
    aids: z.array(z.enum(AIDS)).max(AIDS.length).optional(),
  })
  .superRefine((player, context) => {
    if (!player.custom && !instrumentById(player.instrument))
      context.addIssue({
        code: 'custom',
        path: ['instrument'],
        message: `"${player.instrument}" is not in the catalogue`,
      });
    const problem = limitsProblem(player);
    if (problem) context.addIssue({ code: 'custom', path: ['low'], message: problem });
  });

/** A group at the boundary: file, network, database. */
export const groupSchema = z.preprocess(
  upgradedGroup,
  z.strictObject({
    name: textSchema(GROUP_LIMITS.name).trim().min(1),
    players: z
      .array(playerSchema)
      .max(GROUP_LIMITS.players)
      .refine(
        (players) => new Set(players.map(({ id }) => id)).size === players.length,
        'each player has an id of their own',
      ),
  }),
) satisfies z.ZodType<Group>;
