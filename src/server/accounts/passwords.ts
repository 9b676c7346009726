import { hash, verify } from '@node-rs/argon2';
import { z } from 'zod';

/** Letters of a password: long is what makes it hard to guess. */
const SHORTEST = 10;
const LONGEST = 200;

/**
 * Argon2id with 19 MiB, two passes and one lane. Source: OWASP, Password Storage Cheat Sheet; they are the package's own
 * defaults, and stand here so that they do not change unseen.
 */
const COST = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

export const passwordSchema = z
  .string()
  .min(SHORTEST, `a password has at least ${SHORTEST} characters; three or four words do well`)
  .max(LONGEST, `a password has at most ${LONGEST} characters`);

export function hashedPassword(password: string): Promise<string> {
  return hash(password, COST);
}

/** What a password is held against where there is no such account, so that the answer takes as long. */
const nobodys = hash('the password of nobody at all', COST);

/** @param stored the hash; `undefined` where there is no account, which takes as long */
export async function isPassword(stored: string | undefined, password: string): Promise<boolean> {
  const isRight = await verify(stored ?? (await nobodys), password);
  return isRight && stored !== undefined;
}
