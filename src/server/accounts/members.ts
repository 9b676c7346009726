import { z } from 'zod';
import { auditOf } from '../../db/auditRepository';
import {
  addMember,
  handPupilOver,
  lockMembers,
  memberOf,
  membersOf,
  removeMember,
  setRole,
} from '../../db/memberRepository';
import { openInvitations } from '../../db/oneTimeLinkRepository';
import { peopleNamed } from '../../db/peopleRepository';
import { endSessions, endSessionsOfStudio } from '../../db/sessionRepository';
import { deleteStudio } from '../../db/studioRepository';
import { accounts } from '../database';
import { freshId } from '../freshId';
import { isRole, type Role } from './access';
import { AUDIT_WORDS, noted, type AuditKind } from './audit';
import type { SignedIn, StudioSettings } from './asking';
import { beginSession } from './signIn';

/** A member as the owner's page shows them. */
export interface MemberRow {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly role: Role;
  readonly since: string;
  readonly hasSecondFactor: boolean;
}

export interface InvitationRow {
  readonly id: string;
  readonly email: string;
  readonly role: string;
  readonly endsAt: string;
}

export interface AuditRow {
  readonly id: string;
  readonly at: string;
  /** A sentence: who did what to whom. */
  readonly text: string;
}

/** All that the owner's page shows of the people of their studio. */
export async function peopleOf(owner: SignedIn, now: Date) {
  const studio = accounts().studio(owner.studio);
  const [members, invitations, audit] = await Promise.all([
    membersOf(studio),
    openInvitations(accounts(), owner.studio, now),
    auditOf(studio),
  ]);
  const named = await peopleNamed(accounts(), [
    ...members.map(({ person }) => person),
    ...audit.flatMap(({ person, about }) => [...(person === undefined ? [] : [person]), about]),
  ]);
  const nameOf = (id: string | undefined) => (id === undefined ? 'The program' : (named.get(id)?.name ?? 'somebody'));
  return {
    members: members.flatMap(({ person, role, since }): MemberRow[] => {
      const known = named.get(person);
      return known && isRole(role) ? [{ id: person, ...known, role, since: since.toISOString() }] : [];
    }),
    invitations: invitations.map(({ id, email, role, endsAt }): InvitationRow => ({
      id,
      email,
      role,
      endsAt: endsAt.toISOString(),
    })),
    audit: audit.map(({ id, at, person, what, about }): AuditRow => {
      const words = what in AUDIT_WORDS ? AUDIT_WORDS[what as AuditKind] : what;
      const detail = named.get(about)?.name ?? about;
      return { id, at: at.toISOString(), text: `${nameOf(person)} ${words}${detail ? ` ${detail}` : ''}` };
    }),
  };
}

/** Teachers and owners to whom a pupil can be handed over. */
export async function teachersOf(studio: string): Promise<readonly { readonly id: string; readonly name: string }[]> {
  const members = (await membersOf(accounts().studio(studio))).filter(({ role }) => role !== 'guest');
  const named = await peopleNamed(
    accounts(),
    members.map(({ person }) => person),
  );
  return members.map(({ person }) => ({ id: person, name: named.get(person)?.name ?? '' }));
}

export type MemberOutcome = 'done' | 'missing' | 'last owner';

/** A member is something else from now on, and signs in anew. A studio keeps an owner. */
export async function changeRole(owner: SignedIn, person: string, role: Role, now: Date): Promise<MemberOutcome> {
  return accounts().transaction(async (inside): Promise<MemberOutcome> => {
    const studio = inside.studio(owner.studio);
    const members = await lockMembers(studio);
    const member = members.find((one) => one.person === person);
    if (!member) return 'missing';
    if (member.role === role) return 'done';
    if (isLastOwner(members, person)) return 'last owner';
    await setRole(studio, person, role);
    await endSessions(inside, person, { studio: owner.studio });
    await noted(studio, owner.person, 'role-changed', person, now);
    return 'done';
  });
}

/** A member leaves; what they made in the studio is the owner's from now on. */
export async function takeMemberOut(owner: SignedIn, person: string, now: Date): Promise<MemberOutcome> {
  return accounts().transaction(async (inside): Promise<MemberOutcome> => {
    const studio = inside.studio(owner.studio);
    const members = await lockMembers(studio);
    if (!members.some((one) => one.person === person)) return 'missing';
    if (isLastOwner(members, person)) return 'last owner';
    await noted(studio, owner.person, 'member-removed', person, now);
    await removeMember(studio, person, owner.person);
    await endSessions(inside, person, { studio: owner.studio });
    return 'done';
  });
}

function isLastOwner(members: readonly { readonly person: string; readonly role: string }[], person: string): boolean {
  const owners = members.filter(({ role }) => role === 'owner');
  return owners.length === 1 && owners[0]?.person === person;
}

export async function changeSettings(owner: SignedIn, settings: StudioSettings, now: Date): Promise<void> {
  await accounts().transaction(async (inside) => {
    const studio = inside.studio(owner.studio);
    await studio.from('studios').update({ settings: JSON.stringify(settings) });
    const words = [
      settings.secondFactor ? 'owners need a second factor' : 'a second factor is free',
      settings.ownWorksOnly ? 'teachers see their own tunes' : 'teachers see all tunes',
    ];
    await noted(studio, owner.person, 'settings-changed', words.join('; '), now);
  });
}

export const studioSchema = z.union([
  z.strictObject({ open: z.string().max(40) }),
  z.strictObject({ name: z.string().trim().min(1, 'a studio has a name').max(200) }),
]);

/** So many studios one person may own. */
const MOST_STUDIOS = 10;

/** A new studio of a person who owns one already. @returns its id; nothing where they may not make another */
export async function makeStudio(person: SignedIn, name: string, now: Date): Promise<string | undefined> {
  return accounts().transaction(async (inside) => {
    const owned = (await inside.memberships(person.person)).filter(({ role }) => role === 'owner').length;
    if (owned === 0 || owned >= MOST_STUDIOS) return undefined;
    const id = freshId();
    await inside.addStudio(id, name, now);
    await addMember(inside.studio(id), person.person, 'owner', now);
    await noted(inside.studio(id), person.person, 'studio-made', name, now);
    return id;
  });
}

export const studioEndSchema = z.strictObject({ name: z.string().max(200), password: z.string().max(1_000) });

/**
 * Deletes the studio that its owner has open, with all that it has. They go on in another of theirs: without one nobody could
 * come in any more.
 * @returns the secret of their session there
 */
export async function endStudio(
  owner: SignedIn,
  device: string,
  now: Date,
): Promise<{ readonly token: string; readonly studio: string } | undefined> {
  return accounts().transaction(async (inside) => {
    const others = (await inside.memberships(owner.person)).filter(({ studio }) => studio !== owner.studio);
    const [next] = others;
    if (!next) return undefined;
    await endSessionsOfStudio(inside, owner.studio);
    await deleteStudio(inside.studio(owner.studio));
    const token = await beginSession(inside, owner.person, { device, wanted: next.studio, note: 'signed-in' }, now);
    return token === undefined ? undefined : { token, studio: next.studio };
  });
}

/** A pupil has another teacher from now on. */
export async function handOver(owner: SignedIn, pupil: string, teacher: string, now: Date): Promise<MemberOutcome> {
  return accounts().transaction(async (inside): Promise<MemberOutcome> => {
    const studio = inside.studio(owner.studio);
    const member = await memberOf(studio, teacher);
    if (!member || member.role === 'guest') return 'missing';
    if (!(await handPupilOver(studio, pupil, teacher))) return 'missing';
    await noted(studio, owner.person, 'pupil-handed-over', teacher, now);
    return 'done';
  });
}
