import type { AccountsDatabase } from './accountsDatabase';

/** What a link that is used once is for: the first account, a new member, a new password. */
export type OneTimeKind = 'owner' | 'invite' | 'reset';

export interface OneTimeLink {
  readonly id: string;
  readonly kind: OneTimeKind;
  readonly studio: string;
  readonly role: string;
  readonly email: string;
  readonly person?: string;
  readonly madeAt: Date;
  readonly endsAt: Date;
}

interface LinkRow {
  link_id: string;
  kind: OneTimeKind;
  studio_id: string;
  role: string;
  email: string;
  person_id: string | null;
  made_at: Date;
  ends_at: Date;
}

function linkOf(row: LinkRow): OneTimeLink {
  return {
    id: row.link_id,
    kind: row.kind,
    studio: row.studio_id,
    role: row.role,
    email: row.email,
    ...(row.person_id !== null && { person: row.person_id }),
    madeAt: row.made_at,
    endsAt: row.ends_at,
  };
}

export async function addOneTimeLink(
  accounts: AccountsDatabase,
  hash: string,
  { id, kind, studio, role, email, person, madeAt, endsAt }: OneTimeLink,
): Promise<void> {
  await accounts.insert('one_time_links', {
    link_hash: hash,
    link_id: id,
    kind,
    studio_id: studio,
    role,
    email,
    person_id: person ?? null,
    made_at: madeAt,
    ends_at: endsAt,
    used_at: null,
  });
}

/** A link that can still be used. */
export async function openOneTimeLink(
  accounts: AccountsDatabase,
  hash: string,
  now: Date,
): Promise<OneTimeLink | undefined> {
  const row = (await accounts
    .from('one_time_links')
    .where('link_hash', hash)
    .whereNull('used_at')
    .where('ends_at', '>', now)
    .first()) as LinkRow | undefined;
  return row && linkOf(row);
}

/** Uses a link up. False where it was used meanwhile, or has ended. */
export async function useUpOneTimeLink(accounts: AccountsDatabase, hash: string, now: Date): Promise<boolean> {
  const used = await accounts
    .from('one_time_links')
    .where('link_hash', hash)
    .whereNull('used_at')
    .where('ends_at', '>', now)
    .update({ used_at: now });
  return Number(used) > 0;
}

/** Invitations of a studio that wait to be taken. */
export async function openInvitations(
  accounts: AccountsDatabase,
  studio: string,
  now: Date,
): Promise<readonly OneTimeLink[]> {
  const rows = (await accounts
    .from('one_time_links')
    .where({ studio_id: studio, kind: 'invite' })
    .whereNull('used_at')
    .where('ends_at', '>', now)
    .orderBy('made_at', 'desc')) as LinkRow[];
  return rows.map(linkOf);
}

/** Ends links of one kind to one address, or of one person, or one by its id. */
export async function endOneTimeLinks(
  accounts: AccountsDatabase,
  which: {
    readonly kind: OneTimeKind;
    readonly studio?: string;
    readonly email?: string;
    readonly person?: string;
    readonly id?: string;
  },
): Promise<number> {
  return Number(
    await accounts
      .from('one_time_links')
      .where('kind', which.kind)
      .where({
        ...(which.studio !== undefined && { studio_id: which.studio }),
        ...(which.email !== undefined && { email: which.email }),
        ...(which.person !== undefined && { person_id: which.person }),
        ...(which.id !== undefined && { link_id: which.id }),
      })
      .whereNull('used_at')
      .delete(),
  );
}
