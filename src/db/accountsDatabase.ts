import type { Knex } from 'knex';
import { studioDatabase, type StudioDatabase } from './studioDatabase';

type AccountsTable = 'people' | 'recovery_codes' | 'sessions' | 'one_time_links';

/**
 * The door to what belongs to no studio: people, who may be of several, their sessions, and links that lead to an account. Only
 * what deals with accounts gets this.
 */
export interface AccountsDatabase {
  readonly from: (table: AccountsTable) => Knex.QueryBuilder;
  readonly insert: (
    table: AccountsTable,
    rows: Readonly<Record<string, unknown>> | readonly Readonly<Record<string, unknown>>[],
  ) => Knex.QueryBuilder;
  /** All of one studio, as its owner sees it, in the same transaction. */
  readonly studio: (id: string) => StudioDatabase;
  /** In which studios a person is, and as what. */
  readonly memberships: (person: string) => Promise<readonly Membership[]>;
  /** The session with this hash, with its person and what they are in its studio. */
  readonly session: (tokenHash: string, now: Date) => Promise<StoredSession | undefined>;
  /** To whom a pupil's link belongs, as long as it lasts. */
  readonly pupilOfLink: (linkHash: string, now: Date) => Promise<PupilOfLink | undefined>;
  /** The handout that a link opens, as long as it lasts. */
  readonly handoutOfLink: (linkHash: string, now: Date) => Promise<HandoutOfLink | undefined>;
  readonly hasOwner: () => Promise<boolean>;
  readonly studioIds: () => Promise<readonly string[]>;
  /** A new studio. */
  readonly addStudio: (id: string, name: string, now: Date) => Promise<void>;
  /** All or nothing. */
  readonly transaction: <Result>(work: (inside: AccountsDatabase) => Promise<Result>) => Promise<Result>;
}

interface Membership {
  readonly studio: string;
  readonly name: string;
  readonly role: string;
  readonly settings: unknown;
}

interface StoredSession {
  readonly id: string;
  readonly person: string;
  readonly name: string;
  readonly email: string;
  readonly hasSecondFactor: boolean;
  readonly studio: string;
  readonly studioName: string;
  readonly settings: unknown;
  readonly role: string;
  readonly madeAt: Date;
  readonly seenAt: Date;
}

interface PupilOfLink {
  readonly studio: string;
  readonly pupil: string;
}

interface HandoutOfLink {
  readonly studio: string;
  readonly handout: string;
}

export function accountsDatabase(knex: Knex): AccountsDatabase {
  return {
    from: (table) => knex(table),
    insert: (table, rows) => knex(table).insert([rows].flat()),
    studio: (id) => studioDatabase(knex, id),
    memberships: async (person) =>
      (await knex('members')
        .join('studios', 'studios.studio_id', 'members.studio_id')
        .where('members.person_id', person)
        .orderBy('studios.name')
        .select({
          studio: 'members.studio_id',
          name: 'studios.name',
          role: 'members.role',
          settings: 'studios.settings',
        })) as Membership[],
    session: async (hash, now) => {
      const row = (await knex('sessions')
        .join('people', 'people.person_id', 'sessions.person_id')
        .join('members', (on) =>
          on.on('members.person_id', 'sessions.person_id').andOn('members.studio_id', 'sessions.studio_id'),
        )
        .join('studios', 'studios.studio_id', 'sessions.studio_id')
        .where('sessions.token_hash', hash)
        .where('sessions.ends_at', '>', now)
        .first({
          id: 'sessions.session_id',
          person: 'people.person_id',
          name: 'people.name',
          email: 'people.email',
          secret: 'people.code_secret',
          studio: 'sessions.studio_id',
          studioName: 'studios.name',
          settings: 'studios.settings',
          role: 'members.role',
          madeAt: 'sessions.made_at',
          seenAt: 'sessions.seen_at',
        })) as (Omit<StoredSession, 'hasSecondFactor'> & { readonly secret: string | null }) | undefined;
      if (!row) return undefined;
      const { secret, ...session } = row;
      return { ...session, hasSecondFactor: secret !== null };
    },
    pupilOfLink: async (hash, now) =>
      (await knex('pupil_links')
        .join('pupils', (on) =>
          on.on('pupils.studio_id', 'pupil_links.studio_id').andOn('pupils.pupil_id', 'pupil_links.pupil_id'),
        )
        .where('pupil_links.link_hash', hash)
        .whereNull('pupil_links.ended_at')
        .whereNull('pupils.removed_at')
        .where('pupil_links.ends_at', '>', now)
        .first({ studio: 'pupil_links.studio_id', pupil: 'pupil_links.pupil_id' })) as PupilOfLink | undefined,
    handoutOfLink: async (hash, now) =>
      (await knex('handouts')
        .where('link_hash', hash)
        .whereNull('ended_at')
        .where('ends_at', '>', now)
        .first({ studio: 'studio_id', handout: 'handout_id' })) as HandoutOfLink | undefined,
    hasOwner: async () => (await knex('members').where('role', 'owner').first('person_id')) !== undefined,
    studioIds: async () =>
      ((await knex('studios').orderBy('studio_id').select('studio_id')) as { studio_id: string }[]).map(
        ({ studio_id }) => studio_id,
      ),
    addStudio: async (id, name, now) => {
      await knex('studios').insert({ studio_id: id, name, tidied_at: now });
    },
    transaction: (work) => knex.transaction((inside) => work(accountsDatabase(inside as unknown as Knex))),
  };
}
