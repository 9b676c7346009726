import { z } from 'zod';
import { PACK_FILES, PACK_LIMITS, PACK_SHEETS, type PackChoice } from '../../keys';
import { textSchema } from '../../work/stored';

const idSchema = z.string().min(1).max(40);
const once = <Value>(values: readonly Value[]) => [...new Set(values)];

/** What a pack holds, at the boundary: network, database, archive. */
export const packSchema = z.strictObject({
  sheets: z.array(z.enum(PACK_SHEETS)).max(PACK_SHEETS.length).transform(once),
  files: z.array(z.enum(PACK_FILES)).max(PACK_FILES.length).transform(once),
  paper: z.enum(['a4', 'letter']),
  tunes: z
    .array(idSchema)
    .max(PACK_LIMITS.tunes, `a pack holds at most ${PACK_LIMITS.tunes} tunes`)
    .transform(once)
    .optional(),
  without: z.array(idSchema).max(PACK_LIMITS.without).transform(once).optional(),
  note: textSchema(PACK_LIMITS.note).trim().optional(),
}) satisfies z.ZodType<PackChoice>;
