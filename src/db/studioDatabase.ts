import type { Knex } from 'knex';
import { inTransaction } from './repeat';

export type StudioTable =
  | 'studios'
  | 'tunes'
  | 'recipes'
  | 'revisions'
  | 'player_groups'
  | 'custom_instruments'
  | 'saved_recipes'
  | 'pupils'
  | 'practice_log'
  | 'members'
  | 'pupil_links'
  | 'handouts'
  | 'audit';

/**
 * Whose things somebody sees. Pupils and their logs belong to the teacher who brought them in; tunes and groups may be
 * everybody's. No person: everything, as the studio's owner sees it.
 */
export interface Seeing {
  readonly person?: string;
  /** Only the tunes and groups of this person. */
  readonly ownWorksOnly?: boolean;
  /** Pupils of other teachers too. */
  readonly allPupils?: boolean;
}

/**
 * The one door to the tables: every query made here belongs to one studio, in reading and in writing, and to what the
 * person who asks may see of it. Repositories get this and never a bare Knex.
 */
export interface StudioDatabase {
  readonly studioId: string;
  /** Rows of this studio alone. */
  readonly from: (table: StudioTable) => Knex.QueryBuilder;
  /** Adds rows; the studio and who made them are put in, whatever they say. */
  readonly insert: (
    table: StudioTable,
    rows: Readonly<Record<string, unknown>> | readonly Readonly<Record<string, unknown>>[],
  ) => Knex.QueryBuilder;
  /** The bytes of a column's value, to be selected. */
  readonly bytesOf: (column: string) => Knex.Raw;
  /** All or nothing, and once; `work` may be called several times, and keeps nothing in variables of others. */
  readonly transaction: <Result>(work: (inside: StudioDatabase) => Promise<Result>) => Promise<Result>;
}

/** Tables whose rows somebody made, and in which those of others may be out of sight. */
const MADE: readonly StudioTable[] = ['tunes', 'player_groups', 'pupils', 'handouts'];
/** Those of other teachers are out of sight, whatever the studio's settings. */
const PRIVATE: readonly StudioTable[] = ['pupils', 'handouts'];
/** Tables whose rows belong to one of those, and the column that says to which. */
const PARTS: Readonly<Partial<Record<StudioTable, { readonly of: 'tunes' | 'pupils'; readonly by: string }>>> = {
  recipes: { of: 'tunes', by: 'tune_id' },
  revisions: { of: 'tunes', by: 'tune_id' },
  practice_log: { of: 'pupils', by: 'pupil_id' },
  pupil_links: { of: 'pupils', by: 'pupil_id' },
};

/** @param seeing whose things are seen; everything where nothing is said */
export function studioDatabase(knex: Knex, studioId: string, seeing: Seeing = {}): StudioDatabase {
  if (studioId === '') throw new RangeError('a studio has an id');
  const { person, ownWorksOnly = false, allPupils = false } = seeing;
  const isLimited = (table: StudioTable) =>
    person !== undefined && (PRIVATE.includes(table) ? !allPupils : MADE.includes(table) && ownWorksOnly);
  return {
    studioId,
    from: (table) => {
      const query = knex(table).where(`${table}.studio_id`, studioId);
      const part = PARTS[table];
      if (person !== undefined && isLimited(table)) query.where(`${table}.made_by`, person);
      else if (person !== undefined && part && isLimited(part.of))
        query.whereIn(
          `${table}.${part.by}`,
          knex(part.of).where({ studio_id: studioId, made_by: person }).select(part.by),
        );
      return query;
    },
    insert: (table, rows) =>
      knex(table).insert(
        [rows].flat().map((row) => ({
          ...row,
          studio_id: studioId,
          ...(MADE.includes(table) && { made_by: person ?? null }),
        })),
      ),
    bytesOf: (column) => knex.raw('OCTET_LENGTH(??)', [column]),
    transaction: (work) => inTransaction(knex, (inside) => work(studioDatabase(inside, studioId, seeing))),
  };
}
