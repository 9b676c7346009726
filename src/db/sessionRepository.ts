import type { AccountsDatabase } from './accountsDatabase';

/** A device on which somebody is signed in. */
export interface Device {
  readonly id: string;
  readonly device: string;
  readonly madeAt: Date;
  readonly seenAt: Date;
}

export async function addSession(
  accounts: AccountsDatabase,
  session: {
    readonly tokenHash: string;
    readonly id: string;
    readonly person: string;
    readonly studio: string;
    readonly device: string;
    readonly endsAt: Date;
  },
  now: Date,
): Promise<void> {
  await accounts.insert('sessions', {
    token_hash: session.tokenHash,
    session_id: session.id,
    person_id: session.person,
    studio_id: session.studio,
    device: session.device,
    made_at: now,
    seen_at: now,
    ends_at: session.endsAt,
  });
}

/** The session was used: it lasts longer. */
export async function touchSession(
  accounts: AccountsDatabase,
  session: string,
  endsAt: Date,
  now: Date,
): Promise<void> {
  await accounts.from('sessions').where('session_id', session).update({ seen_at: now, ends_at: endsAt });
}

/** Where somebody is signed in, the last used first. */
export async function devicesOf(accounts: AccountsDatabase, person: string, now: Date): Promise<readonly Device[]> {
  return (await accounts
    .from('sessions')
    .where('person_id', person)
    .where('ends_at', '>', now)
    .orderBy('seen_at', 'desc')
    .select({ id: 'session_id', device: 'device', madeAt: 'made_at', seenAt: 'seen_at' })) as Device[];
}

/** Signs a device of this person out. */
export async function endSession(accounts: AccountsDatabase, person: string, session: string): Promise<boolean> {
  return Number(await accounts.from('sessions').where({ person_id: person, session_id: session }).delete()) > 0;
}

/** Signs a person out everywhere. @param but a session that stays @param studio only where this studio is open */
export async function endSessions(
  accounts: AccountsDatabase,
  person: string,
  { but, studio }: { readonly but?: string; readonly studio?: string } = {},
): Promise<void> {
  const query = accounts.from('sessions').where('person_id', person);
  if (but !== undefined) query.whereNot('session_id', but);
  if (studio !== undefined) query.where('studio_id', studio);
  await query.delete();
}

/** Everybody who has a studio open is signed out, and its invitations end. */
export async function endSessionsOfStudio(accounts: AccountsDatabase, studio: string): Promise<void> {
  await accounts.from('sessions').where('studio_id', studio).delete();
  await accounts.from('one_time_links').where('studio_id', studio).whereNot('kind', 'reset').delete();
}

export async function deleteEndedSessions(accounts: AccountsDatabase, now: Date): Promise<void> {
  await accounts.from('sessions').where('ends_at', '<', now).delete();
}
