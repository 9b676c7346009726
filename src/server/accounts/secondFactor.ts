import { randomBytes } from 'node:crypto';
import { Secret, TOTP } from 'otpauth';
import { z } from 'zod';
import { setCodeSecret, takeCode, takeRecoveryCode, type Person } from '../../db/peopleRepository';
import { accounts } from '../database';
import { noted } from './audit';
import type { SignedIn } from './asking';
import { tokenHash } from './tokens';
import { squareOf } from '../scanSquare';

/** Seconds for which a code holds; one before and one after it is taken too, since clocks differ. */
const PERIOD = 30;
const RECOVERY_CODES = 8;

const codes = (secret: string, email: string) =>
  new TOTP({ issuer: 'Reed Hook', label: email, secret: Secret.fromBase32(secret), period: PERIOD });

/** A secret that is to be set up, as letters, as an address for the telephone, and as a square to scan (SVG). */
export async function newSecret(email: string): Promise<{ readonly secret: string; readonly square: string }> {
  const secret = new Secret({ size: 20 }).base32;
  return { secret, square: await squareOf(codes(secret, email).toString()) };
}

export const secretSchema = z.string().regex(/^[A-Z2-7]{32}$/, 'is not a secret that was given here');
export const codeSchema = z.string().max(40);

/** The step of time in which this code holds; nothing where it does not. @param now milliseconds since 1970 */
function stepOf(secret: string, code: string, now: number): number | undefined {
  const digits = code.replace(/\s/g, '');
  if (!/^\d{6}$/.test(digits)) return undefined;
  const delta = codes(secret, '').validate({ token: digits, window: 1, timestamp: now });
  return delta === null ? undefined : Math.floor(now / 1_000 / PERIOD) + delta;
}

/** Takes a code of somebody's second factor, once: from their telephone, or one of those on their paper. */
export async function takeSecondFactor(
  person: Person,
  code: string,
  now: Date,
): Promise<'code' | 'recovery' | undefined> {
  if (person.codeSecret === undefined) return undefined;
  const step = stepOf(person.codeSecret, code, now.getTime());
  if (step !== undefined) return (await takeCode(accounts(), person.id, step)) ? 'code' : undefined;
  const plain = code.replace(/[\s-]/g, '').toLowerCase();
  return (await takeRecoveryCode(accounts(), person.id, tokenHash(`${person.id}/${plain}`))) ? 'recovery' : undefined;
}

/**
 * Sets up a second factor, once a code shows that the telephone has its secret.
 * @returns the recovery codes, which are shown this once; nothing where the code is wrong
 */
export async function setUpSecondFactor(
  person: SignedIn,
  secret: string,
  code: string,
  now: Date,
): Promise<readonly string[] | undefined> {
  const step = stepOf(secret, code, now.getTime());
  if (step === undefined) return undefined;
  const recovery = Array.from({ length: RECOVERY_CODES }, recoveryCode);
  await accounts().transaction(async (inside) => {
    await setCodeSecret(
      inside,
      person.person,
      secret,
      recovery.map((one) => tokenHash(`${person.person}/${one.replace('-', '')}`)),
    );
    await takeCode(inside, person.person, step);
    await noted(inside.studio(person.studio), person.person, 'second-factor-on', '', now);
  });
  return recovery;
}

export async function removeSecondFactor(person: SignedIn, now: Date): Promise<void> {
  await accounts().transaction(async (inside) => {
    await setCodeSecret(inside, person.person, null, []);
    await noted(inside.studio(person.studio), person.person, 'second-factor-off', '', now);
  });
}

/** 50 random bits as ten letters and digits that are not mistaken for one another. */
function recoveryCode(): string {
  const signs = 'abcdefghjkmnpqrstuvwxyz23456789x';
  const text = [...randomBytes(10)].map((byte) => signs[byte % 32]).join('');
  return `${text.slice(0, 5)}-${text.slice(5)}`;
}
