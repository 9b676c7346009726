import type { z } from 'zod';

/** What came in from outside, checked; what is wrong with it in words, each with its path. */
export type Checked<Value> =
  { readonly ok: true; readonly value: Value } | { readonly ok: false; readonly messages: readonly string[] };

const MOST_MESSAGES = 10;

export function checked<Value>(schema: z.ZodType<Value>, data: unknown): Checked<Value> {
  const parsed = schema.safeParse(data);
  return parsed.success ? { ok: true, value: parsed.data } : { ok: false, messages: issueTexts(parsed.error) };
}

export function issueTexts({ issues }: z.ZodError): readonly string[] {
  return issues.slice(0, MOST_MESSAGES).map(({ path, message }) => `${path.join('.') || 'the request'}: ${message}`);
}
