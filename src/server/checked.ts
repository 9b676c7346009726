import type { z } from 'zod';
import { cutText } from '../core/plainText';
import { failure, success, type Result } from '../core/result';

/** What came in from outside, checked; or what is wrong with it in words, each with its path. */
export type Checked<Value> = Result<Value, readonly string[]>;

const MAX_MESSAGES = 10;

export function checked<Value>(schema: z.ZodType<Value>, data: unknown): Checked<Value> {
  const parsed = schema.safeParse(data);
  return parsed.success ? success(parsed.data) : failure(issueTexts(parsed.error));
}

/** What is wrong, each with its path. What was sent is not echoed at length: a key may be a megabyte long. */
export function issueTexts({ issues }: z.ZodError): readonly string[] {
  return issues
    .slice(0, MAX_MESSAGES)
    .map(({ path, message }) => `${clipped(path.join('.')) || 'the request'}: ${clipped(message)}`);
}

const MAX_ECHO = 160;

function clipped(text: string): string {
  return text.length <= MAX_ECHO ? text : `${cutText(text, MAX_ECHO)} …`;
}
