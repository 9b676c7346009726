import { z } from 'zod';
import { type Key, parseKey } from '../../pitch';
import { type Meter, parseMeter, TICKS_PER_QUARTER } from '../../time';
import { failure, success, type Result } from '../../result';
import type { ReadOptions } from '../readResult';
import { TEMPO_LIMITS } from '../../score';

const count = z.coerce.number().int().min(1).max(10_000);

/** What the import sheet may choose, by name; `second=0` leaves a second part out. */
const choiceSchema = z.strictObject({
  name: z.string().max(300).optional(),
  tune: count.optional(),
  line: count.optional(),
  second: z.coerce.number().int().min(0).max(10_000).optional(),
  meter: z
    .string()
    .max(12)
    .transform((text, context): Meter => parseMeter(text) ?? refuseValue(context, 'a meter like 4/4 or 6/8'))
    .optional(),
  key: z
    .string()
    .max(24)
    .transform((text, context): Key => {
      const key = parseKey(text);
      return key.ok ? key.value : refuseValue(context, 'a key like D, Bb or Em');
    })
    .optional(),
  tempo: z.coerce.number().min(TEMPO_LIMITS.slowest).max(TEMPO_LIMITS.fastest).optional(),
  swing: z.enum(['yes', 'no']).optional(),
  /** In quarters. */
  pickup: z.coerce.number().min(0).max(32).optional(),
});

function refuseValue(context: z.RefinementCtx, message: string): never {
  context.addIssue({ code: 'custom', message });
  return z.NEVER;
}

/** How a file is to be read, from what was chosen by name; or what is wrong with it. */
export function readOptionsOf(chosen: Readonly<Record<string, string>>): Result<ReadOptions, readonly string[]> {
  const parsed = choiceSchema.safeParse(chosen);
  if (!parsed.success)
    return failure(
      parsed.error.issues.slice(0, 5).map(({ path, message }) => `${path.join('.') || 'the request'}: ${message}`),
    );
  const { tune, line, second, meter, key, tempo, swing, pickup } = parsed.data;
  const midi = {
    ...(meter && { meter }),
    ...(key && { key }),
    ...(tempo !== undefined && { perMinute: tempo }),
    ...(swing && { swing: swing === 'yes' }),
    ...(pickup !== undefined && { pickup: Math.round(pickup * TICKS_PER_QUARTER) }),
  };
  return success({
    ...(tune !== undefined && { tune }),
    ...(line !== undefined && { line }),
    ...(second !== undefined && { second: second === 0 ? ('none' as const) : second }),
    ...(Object.keys(midi).length > 0 && { midi }),
  });
}
