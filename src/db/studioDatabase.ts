import type { Knex } from 'knex';

export type StudioTable =
  | 'studios'
  | 'tunes'
  | 'recipes'
  | 'revisions'
  | 'player_groups'
  | 'custom_instruments'
  | 'saved_recipes'
  | 'pupils'
  | 'practice_log';

/**
 * The one door to the tables: every query made here belongs to one studio, in reading and in writing.
 * Repositories get this and never a bare Knex.
 */
export interface StudioDatabase {
  readonly studioId: string;
  /** Rows of this studio alone. */
  readonly from: (table: StudioTable) => Knex.QueryBuilder;
  /** Adds rows; the studio is put in, whatever they say. */
  readonly insert: (
    table: StudioTable,
    rows: Readonly<Record<string, unknown>> | readonly Readonly<Record<string, unknown>>[],
  ) => Knex.QueryBuilder;
  /** The bytes of a column's value, to be selected. */
  readonly bytesOf: (column: string) => Knex.Raw;
  /** All or nothing. */
  readonly transaction: <Result>(work: (inside: StudioDatabase) => Promise<Result>) => Promise<Result>;
}

export function studioDatabase(knex: Knex, studioId: string): StudioDatabase {
  if (studioId === '') throw new RangeError('a studio has an id');
  return {
    studioId,
    from: (table) => knex(table).where(`${table}.studio_id`, studioId),
    insert: (table, rows) => knex(table).insert([rows].flat().map((row) => ({ ...row, studio_id: studioId }))),
    bytesOf: (column) => knex.raw('OCTET_LENGTH(??)', [column]),
    transaction: (work) => knex.transaction((inside) => work(studioDatabase(inside as unknown as Knex, studioId))),
  };
}
