import { z } from 'zod';
import { groupSchema } from '../core/formats';
import { customInstrumentSchema } from '../core/work/stored';
import type { CustomInstrument } from '../core/instruments';
import type { Group } from '../core/keys';
import { MAX_VERSION } from './workSchema';
import { checked, type Checked } from './checked';

const groupSaveSchema = z.strictObject({ version: z.int().min(1).max(MAX_VERSION), group: groupSchema });

export const checkGroup = (data: unknown): Checked<Group> => checked(groupSchema, data);
export const checkGroupSave = (data: unknown): Checked<{ readonly version: number; readonly group: Group }> =>
  checked(groupSaveSchema, data);
export const checkCustomInstrument = (data: unknown): Checked<CustomInstrument> =>
  checked(customInstrumentSchema, data);
