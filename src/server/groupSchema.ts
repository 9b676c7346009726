import { z } from 'zod';
import { customInstrumentSchema } from '../core/formats/json/recipeSchema';
import { pitchSchema } from '../core/formats/json/tuneSchema';
import { upgradedGroup } from '../core/formats/json/upgradeRecipe';
import { instrumentById } from '../core/instruments/catalogue';
import type { CustomInstrument } from '../core/instruments/customInstrument';
import { LEVELS } from '../core/instruments/instrument';
import { limitsProblem } from '../core/instruments/limits';
import { GROUP_LIMITS, WANTED_MARKS, type Group } from '../core/keys/group';
import { AIDS } from '../core/levels/recipe/groups';
import { checked, type Checked } from './checked';

const playerSchema = z
  .strictObject({
    id: z.string().min(1).max(40),
    name: z.string().trim().max(GROUP_LIMITS.name),
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

const groupSchema = z.preprocess(
  upgradedGroup,
  z.strictObject({
    name: z.string().trim().min(1).max(GROUP_LIMITS.name),
    players: z
      .array(playerSchema)
      .max(GROUP_LIMITS.players)
      .refine(
        (players) => new Set(players.map(({ id }) => id)).size === players.length,
        'each player has an id of their own',
      ),
  }),
) satisfies z.ZodType<Group>;

const groupSaveSchema = z.strictObject({ version: z.int().min(1), group: groupSchema });

export const checkGroup = (data: unknown): Checked<Group> => checked(groupSchema, data);
export const checkGroupSave = (data: unknown): Checked<{ readonly version: number; readonly group: Group }> =>
  checked(groupSaveSchema, data);
export const checkCustomInstrument = (data: unknown): Checked<CustomInstrument> =>
  checked(customInstrumentSchema, data);
