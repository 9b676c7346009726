import { z } from 'zod';
import type { AccountsDatabase } from '../../db/accountsDatabase';
import { personByEmail, type Person } from '../../db/peopleRepository';
import { addSession, endSession } from '../../db/sessionRepository';
import { accounts } from '../database';
import { freshId } from '../freshId';
import { noted } from './audit';
import type { SignedIn } from './asking';
import { comeAgainWords, forgiven, isSpent, overLimit } from './limits';
import { isPassword } from './passwords';
import { takeSecondFactor } from './secondFactor';
import { sessionToken, tokenHash } from './tokens';

/** A session ends after so many days without use, and in any case after a year. */
const IDLE_DAYS = 30;
const MOST_DAYS = 365;
const DAY = 86_400_000;
export const COOKIE_SECONDS = (IDLE_DAYS * DAY) / 1_000;

export const emailSchema = z
  .string()
  .trim()
  .toLowerCase()
  .max(254, 'a mail address has at most 254 characters')
  .regex(/^[^\s@<>"]+@[^\s@<>"]+$/, 'is not a mail address');

export const signInSchema = z.strictObject({
  email: emailSchema,
  password: z.string().max(1_000),
  code: z.string().max(40).optional(),
});

/** When a session ends that was begun and is used now. */
export function endOfSession(madeAt: Date, now: Date): Date {
  return new Date(Math.min(madeAt.getTime() + MOST_DAYS * DAY, now.getTime() + IDLE_DAYS * DAY));
}

export type Proof =
  | { readonly kind: 'proved'; readonly person: Person; readonly byRecovery: boolean }
  /** The password is right; a code is wanted too. */
  | { readonly kind: 'code' }
  | { readonly kind: 'wrong'; readonly message: string }
  | { readonly kind: 'later'; readonly message: string; readonly seconds: number };

/**
 * Whether somebody is who they say. An unknown account answers in the same words and the same time as a wrong password.
 * Each try counts before it is looked at, so that many at once count too; those of who proves to be right are forgotten.
 */
export async function prove(
  { email, password, code }: z.infer<typeof signInSchema>,
  address: string,
  now: Date,
): Promise<Proof> {
  const account = tokenHash(email);
  // Of an address only what goes wrong counts: a whole staff may sign in behind one.
  const seconds = (await isSpent('address', address)) ?? (await overLimit('account', account));
  if (seconds !== undefined) return { kind: 'later', message: comeAgainWords(seconds), seconds };
  const wrong = async (message: string): Promise<Proof> => {
    await overLimit('address', address);
    return { kind: 'wrong', message };
  };
  const person = await personByEmail(accounts(), email);
  const isRight = await isPassword(person?.password, password);
  if (!isRight || !person) return wrong('Mail address and password do not go together.');
  let byRecovery = false;
  if (person.codeSecret !== undefined) {
    if (code === undefined || code.trim() === '') return { kind: 'code' };
    const taken = await takeSecondFactor(person, code, now);
    if (!taken) return wrong('This code does not hold, or was used before. Wait for the next one.');
    byRecovery = taken === 'recovery';
  }
  await forgiven('account', account);
  return { kind: 'proved', person, byRecovery };
}

/**
 * Begins a session with a secret of its own, whatever the browser brought along. @returns the secret; nothing where the
 * person is in no studio any more
 * @param wanted the studio that is opened, where the person is in it
 */
export async function beginSession(
  inside: AccountsDatabase,
  person: string,
  {
    device,
    wanted,
    note,
  }: { readonly device: string; readonly wanted?: string; readonly note?: 'signed-in' | 'recovery-code' },
  now: Date,
): Promise<string | undefined> {
  const memberships = await inside.memberships(person);
  const studio = memberships.find(({ studio: id }) => id === wanted) ?? memberships[0];
  if (!studio) return undefined;
  const token = sessionToken();
  await addSession(
    inside,
    {
      tokenHash: tokenHash(token),
      id: freshId(),
      person,
      studio: studio.studio,
      device,
      endsAt: endOfSession(now, now),
    },
    now,
  );
  if (note) await noted(inside.studio(studio.studio), person, note, device, now);
  return token;
}

/** Opens another studio of the same person: a new session takes the place of the present one. */
export async function changeStudio(
  person: SignedIn,
  studio: string,
  device: string,
  now: Date,
): Promise<string | undefined> {
  return accounts().transaction(async (inside) => {
    const memberships = await inside.memberships(person.person);
    if (!memberships.some(({ studio: id }) => id === studio)) return undefined;
    await endSession(inside, person.person, person.session);
    return beginSession(inside, person.person, { device, wanted: studio, note: 'signed-in' }, now);
  });
}

const BROWSERS: readonly (readonly [RegExp, string])[] = [
  [/Edg\//, 'Edge'],
  [/OPR\//, 'Opera'],
  [/Firefox\//, 'Firefox'],
  [/Chrom(e|ium)\//, 'Chrome or Chromium'],
  [/Safari\//, 'Safari'],
];
const SYSTEMS: readonly (readonly [RegExp, string])[] = [
  [/iPhone/, 'iPhone'],
  [/iPad/, 'iPad'],
  [/Android/, 'Android'],
  [/Windows/, 'Windows'],
  [/Mac OS X/, 'Mac'],
  [/Linux|X11/, 'Linux'],
];

/** A device as its owner knows it: browser and system, as far as the browser tells. */
export function deviceWords(agent: string | null): string {
  const found = (table: typeof BROWSERS) => table.find(([sign]) => sign.test(agent ?? ''))?.[1];
  const [browser, system] = [found(BROWSERS), found(SYSTEMS)];
  if (!browser && !system) return 'an unknown device';
  return [browser ?? 'a browser', system && `on ${system}`].filter(Boolean).join(' ');
}
