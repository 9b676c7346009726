import { z } from 'zod';
import { plainText } from '../../core/plainText';
import type { AccountsDatabase } from '../../db/accountsDatabase';
import { addMember, adoptWorks, memberOf } from '../../db/memberRepository';
import {
  addOneTimeLink,
  endOneTimeLinks,
  openOneTimeLink,
  useUpOneTimeLink,
  type OneTimeKind,
  type OneTimeLink,
} from '../../db/oneTimeLinkRepository';
import { addPerson, personByEmail, personById, setPassword } from '../../db/peopleRepository';
import { endSessions } from '../../db/sessionRepository';
import { studioName } from '../../db/studioRepository';
import { accounts } from '../database';
import { freshId } from '../freshId';
import { ROLES, type Role } from './access';
import { noted } from './audit';
import { FIRST_STUDIO, publicOrigin, type SignedIn } from './asking';
import { comeAgainWords, overLimit } from './limits';
import { sendMessage } from './mail';
import { hashedPassword, passwordSchema } from './passwords';
import { beginSession, emailSchema, prove } from './signIn';
import { linkToken, tokenHash } from './tokens';

const HOUR = 3_600_000;
/** How long a link can be used. */
const LASTS: Readonly<Record<OneTimeKind, number>> = { owner: 24 * HOUR, invite: 7 * 24 * HOUR, reset: 2 * HOUR };
const PAGES: Readonly<Record<OneTimeKind, string>> = { owner: 'welcome', invite: 'welcome', reset: 'reset' };

const addressOf = (kind: OneTimeKind, token: string) => `${publicOrigin() ?? ''}/${PAGES[kind]}/${token}`;

async function newLink(
  inside: AccountsDatabase,
  link: Pick<OneTimeLink, 'kind' | 'studio' | 'role' | 'email' | 'person'>,
  now: Date,
): Promise<string> {
  const token = linkToken();
  await addOneTimeLink(inside, tokenHash(token), {
    ...link,
    id: freshId(),
    madeAt: now,
    endsAt: new Date(now.getTime() + LASTS[link.kind]),
  });
  return addressOf(link.kind, token);
}

/** The address at which the first account is made; nothing once there is an owner. Each start gives a new one. */
export async function firstOwnersLink(now: Date): Promise<string | undefined> {
  return accounts().transaction(async (inside) => {
    if (await inside.hasOwner()) return undefined;
    await endOneTimeLinks(inside, { kind: 'owner' });
    return newLink(inside, { kind: 'owner', studio: FIRST_STUDIO, role: 'owner', email: '' }, now);
  });
}

export const invitationSchema = z.strictObject({ email: emailSchema, role: z.enum(ROLES) });

export type Invited =
  | { readonly kind: 'invited'; readonly address: string }
  | { readonly kind: 'member' }
  | { readonly kind: 'later'; readonly message: string; readonly seconds: number };

/** Invites somebody; a new invitation ends the one before. */
export async function invite(
  owner: SignedIn,
  { email, role }: z.infer<typeof invitationSchema>,
  now: Date,
): Promise<Invited> {
  const seconds = await overLimit('message', tokenHash(email));
  if (seconds !== undefined) return { kind: 'later', message: comeAgainWords(seconds), seconds };
  const address = await accounts().transaction(async (inside) => {
    const studio = inside.studio(owner.studio);
    const person = await personByEmail(inside, email);
    if (person && (await memberOf(studio, person.id))) return undefined;
    await endOneTimeLinks(inside, { kind: 'invite', studio: owner.studio, email });
    await noted(studio, owner.person, 'invited', `${email} as ${role}`, now);
    return newLink(inside, { kind: 'invite', studio: owner.studio, role, email }, now);
  });
  if (address === undefined) return { kind: 'member' };
  await sendMessage(
    {
      studio: owner.studio,
      to: email,
      subject: `${owner.name} invites you to ${owner.studioName}`,
      text: `${owner.name} invites you to the studio ${owner.studioName} in Reed Hook, as ${role}.\n\nOpen this address within a week; it can be used once:\n${address}\n`,
    },
    now,
  );
  return { kind: 'invited', address };
}

export async function endInvitation(owner: SignedIn, id: string, now: Date): Promise<boolean> {
  return accounts().transaction(async (inside) => {
    if ((await endOneTimeLinks(inside, { kind: 'invite', studio: owner.studio, id })) === 0) return false;
    await noted(inside.studio(owner.studio), owner.person, 'invitation-ended', id, now);
    return true;
  });
}

/** What a link is for, as its page shows it; nothing where it was used, has ended or never was. */
export async function describedLink(token: string, now: Date) {
  const link = await openOneTimeLink(accounts(), tokenHash(token), now);
  if (!link) return undefined;
  const known = link.kind === 'invite' ? await personByEmail(accounts(), link.email) : undefined;
  return {
    kind: link.kind,
    studio: await studioName(accounts().studio(link.studio)),
    role: link.role as Role,
    email: link.email,
    /** Whoever has an account joins with it. */
    isKnown: known !== undefined,
  };
}

export const acceptSchema = z.strictObject({
  token: z.string().max(64),
  email: emailSchema.optional(),
  name: z.string().trim().max(100).optional(),
  password: z.string().max(1_000),
  code: z.string().max(40).optional(),
});

export type Accepted =
  | { readonly kind: 'in'; readonly session: string }
  | { readonly kind: 'code' }
  | { readonly kind: 'refused'; readonly messages: readonly string[] }
  | { readonly kind: 'later'; readonly message: string; readonly seconds: number };

const GONE: Accepted = {
  kind: 'refused',
  messages: ['This link was used already, or has ended. Ask for a new one.'],
};

/**
 * Uses a link up: the first account is made, a new member comes in, or a new password is set. Of two who use it at once
 * one comes in.
 */
export async function accept(
  wish: z.infer<typeof acceptSchema>,
  { address, device }: { readonly address: string; readonly device: string },
  now: Date,
): Promise<Accepted> {
  const hash = tokenHash(wish.token);
  const link = await openOneTimeLink(accounts(), hash, now);
  if (!link) return GONE;
  if (link.kind === 'reset') return acceptReset(hash, link, wish.password, device, now);
  const email = link.kind === 'owner' ? wish.email : link.email;
  if (email === undefined) return { kind: 'refused', messages: ['email: a mail address is wanted'] };
  const known = await personByEmail(accounts(), email);
  if (known) {
    const proof = await prove({ email, password: wish.password, ...(wish.code && { code: wish.code }) }, address, now);
    if (proof.kind === 'wrong') return { kind: 'refused', messages: [proof.message] };
    if (proof.kind !== 'proved') return proof;
  }
  const name = plainText(wish.name ?? '').trim();
  if (!known && name === '') return { kind: 'refused', messages: ['name: your name is wanted'] };
  const checkedPassword = passwordSchema.safeParse(wish.password);
  if (!known && !checkedPassword.success)
    return { kind: 'refused', messages: checkedPassword.error.issues.map(({ message }) => `password: ${message}`) };
  const password = known ? '' : await hashedPassword(wish.password);
  return accounts().transaction(async (inside): Promise<Accepted> => {
    if (!(await useUpOneTimeLink(inside, hash, now))) return GONE;
    const person = known?.id ?? freshId();
    if (!known) await addPerson(inside, { id: person, email, name, password }, now);
    const studio = inside.studio(link.studio);
    await addMember(studio, person, link.role, now);
    if (link.kind === 'owner') await adoptWorks(studio, person);
    await noted(studio, person, 'joined', link.role, now);
    const session = await beginSession(inside, person, { device, wanted: link.studio, note: 'signed-in' }, now);
    return session === undefined ? GONE : { kind: 'in', session };
  });
}

/** A new password ends every session; the second factor stays. */
async function acceptReset(
  hash: string,
  link: OneTimeLink,
  wanted: string,
  device: string,
  now: Date,
): Promise<Accepted> {
  const checkedPassword = passwordSchema.safeParse(wanted);
  if (!checkedPassword.success)
    return { kind: 'refused', messages: checkedPassword.error.issues.map(({ message }) => `password: ${message}`) };
  const person = link.person === undefined ? undefined : await personById(accounts(), link.person);
  if (!person) return GONE;
  const password = await hashedPassword(checkedPassword.data);
  return accounts().transaction(async (inside): Promise<Accepted> => {
    if (!(await useUpOneTimeLink(inside, hash, now))) return GONE;
    await setPassword(inside, person.id, password);
    await endSessions(inside, person.id);
    await endOneTimeLinks(inside, { kind: 'reset', person: person.id });
    await noted(inside.studio(link.studio), person.id, 'password-set', 'by a link', now);
    // With a second factor the person signs in anew: a mailbox alone opens no account.
    if (person.codeSecret !== undefined) return { kind: 'code' };
    const session = await beginSession(inside, person.id, { device, wanted: link.studio, note: 'signed-in' }, now);
    return session === undefined ? GONE : { kind: 'in', session };
  });
}

async function resetLink(inside: AccountsDatabase, person: string, studio: string, now: Date): Promise<string> {
  await endOneTimeLinks(inside, { kind: 'reset', person });
  return newLink(inside, { kind: 'reset', studio, role: 'guest', email: '', person }, now);
}

const resetMessage = (studio: string, to: string, address: string) => ({
  studio,
  to,
  subject: 'A new password for Reed Hook',
  text: `With this address you can set a new password, once and within two hours:\n${address}\n\nIf you did not ask for it, nothing has to be done: the password stays as it is.\n`,
});

/** Sends a link for a new password to an account. Whether there is one is not told. */
export async function sendReset(email: string, now: Date): Promise<void> {
  const made = await accounts().transaction(async (inside) => {
    const person = await personByEmail(inside, email);
    const [studio] = person ? await inside.memberships(person.id) : [];
    if (!person || !studio) return undefined;
    return { studio: studio.studio, address: await resetLink(inside, person.id, studio.studio, now) };
  });
  if (made) await sendMessage(resetMessage(made.studio, email, made.address), now);
}

export type ResetMade =
  | { readonly kind: 'made'; readonly address: string }
  | { readonly kind: 'missing' }
  /** They are in other studios too: no owner of one may open the others. */
  | { readonly kind: 'elsewhere' };

/** A link for a new password, which an owner hands to a member. */
export async function resetForMember(owner: SignedIn, person: string, now: Date): Promise<ResetMade> {
  return accounts().transaction(async (inside): Promise<ResetMade> => {
    const studio = inside.studio(owner.studio);
    if (!(await memberOf(studio, person))) return { kind: 'missing' };
    if ((await inside.memberships(person)).length > 1) return { kind: 'elsewhere' };
    await noted(studio, owner.person, 'reset-made', person, now);
    return { kind: 'made', address: await resetLink(inside, person, owner.studio, now) };
  });
}
