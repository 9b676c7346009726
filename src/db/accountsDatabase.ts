import type { Knex } from 'knex';
import { inTransaction } from './repeat';
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
  /** A question that only a working database answers; it is asked once. */
  readonly isReachable: () => Promise<true>;
  /** All or nothing, and once; `work` may be called several times. */
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

/** Who made a link: it opens what they may see, and no more. Nobody where there were no accounts then. */
interface LinkMaker {
  readonly person: string;
  readonly role: string;
  readonly settings: unknown;
}

interface OfLink {
  readonly studio: string;
  readonly maker?: LinkMaker;
}

interface PupilOfLink extends OfLink {
  readonly pupil: string;
}

interface HandoutOfLink extends OfLink {
  readonly handout: string;
}

interface MakerRow {
  readonly studio: string;
  readonly person: string | null;
  readonly role: string | null;
  readonly settings: unknown;
}
const MAKER = {
  studio: 'studios.studio_id',
  person: 'members.person_id',
  role: 'members.role',
  settings: 'studios.settings',
} as const;

/** Joins the studio of rows, and who of its members made them. */
function madeBy(query: Knex.QueryBuilder, table: 'pupils' | 'handouts'): Knex.QueryBuilder {
  return query
    .join('studios', 'studios.studio_id', `${table}.studio_id`)
    .leftJoin('members', (on) =>
      on.on('members.studio_id', `${table}.studio_id`).andOn('members.person_id', `${table}.made_by`),
    );
}

function withMaker({ studio, person, role, settings }: MakerRow): OfLink {
  return { studio, ...(person !== null && role !== null && { maker: { person, role, settings } }) };
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
    pupilOfLink: async (hash, now) => {
      const row = (await madeBy(
        knex('pupil_links').join('pupils', (on) =>
          on.on('pupils.studio_id', 'pupil_links.studio_id').andOn('pupils.pupil_id', 'pupil_links.pupil_id'),
        ),
        'pupils',
      )
        .where('pupil_links.link_hash', hash)
        .whereNull('pupil_links.ended_at')
        .whereNull('pupils.removed_at')
        .where('pupil_links.ends_at', '>', now)
        .first({ ...MAKER, pupil: 'pupil_links.pupil_id' })) as (MakerRow & { readonly pupil: string }) | undefined;
      return row && { ...withMaker(row), pupil: row.pupil };
    },
    handoutOfLink: async (hash, now) => {
      const row = (await madeBy(knex('handouts'), 'handouts')
        .where('handouts.link_hash', hash)
        .whereNull('handouts.ended_at')
        .where('handouts.ends_at', '>', now)
        .first({ ...MAKER, handout: 'handouts.handout_id' })) as (MakerRow & { readonly handout: string }) | undefined;
      return row && { ...withMaker(row), handout: row.handout };
    },
    hasOwner: async () => (await knex('members').where('role', 'owner').first('person_id')) !== undefined,
    studioIds: async () =>
      ((await knex('studios').orderBy('studio_id').select('studio_id')) as { studio_id: string }[]).map(
        ({ studio_id }) => studio_id,
      ),
    addStudio: async (id, name, now) => {
      await knex('studios').insert({ studio_id: id, name, tidied_at: now });
    },
    isReachable: async () => {
      await knex.raw('SELECT studio_id FROM studios LIMIT 1');
      return true;
    },
    transaction: (work) => inTransaction(knex, (inside) => work(accountsDatabase(inside))),
  };
}
