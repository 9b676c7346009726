import { z } from 'zod';
import { customInstrumentSchema, pitchSchema, textSchema, upgradedGroup } from '../../work/stored';
import { instrumentById, LEVELS, limitsProblem } from '../../instruments';
import { type Group, GROUP_LIMITS, type GroupPlayer, WANTED_MARKS } from '../../keys';
import { AIDS } from '../../work';
import { packSchema } from './packSchema';

/** What somebody plays, and what holds for them on it. */
export const playingShape = {
  id: z.string().min(1).max(40),
  instrument: z.string().max(60),
  custom: customInstrumentSchema.optional(),
  level: z.enum(LEVELS),
  low: pitchSchema.optional(),
  high: pitchSchema.optional(),
  known: z.array(pitchSchema).max(GROUP_LIMITS.knownNotes).optional(),
  marks: z.enum(WANTED_MARKS).optional(),
  aids: z.array(z.enum(AIDS)).max(AIDS.length).optional(),
};

/** Faults of an instrument or its limits, told at their field. */
export function checkPlaying(
  player: Pick<GroupPlayer, 'custom' | 'instrument' | 'low' | 'high'>,
  context: Pick<z.RefinementCtx, 'addIssue'>,
): void {
  if (!player.custom && !instrumentById(player.instrument))
    context.addIssue({
      code: 'custom',
      path: ['instrument'],
      message: `"${player.instrument}" is not in the catalogue`,
    });
  const problem = limitsProblem(player);
  if (problem) context.addIssue({ code: 'custom', path: ['low'], message: problem });
}

const playerSchema = z
  .strictObject({
    ...playingShape,
    name: textSchema(GROUP_LIMITS.name).trim(),
    pupil: z.string().max(40).optional(),
    playing: z.string().max(40).optional(),
  })
  .superRefine(checkPlaying);

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
    pack: packSchema.optional(),
  }),
) satisfies z.ZodType<Group>;
