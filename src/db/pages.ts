import type { StudioDatabase, StudioTable } from './studioDatabase';

/** Rows of one page of a list. */
const PAGE = 200;

/** The lists of a studio that are kept by an id of their own. */
const ID_OF = {
  player_groups: 'group_id',
  custom_instruments: 'instrument_id',
  saved_recipes: 'recipe_id',
  tunes: 'tune_id',
  pupils: 'pupil_id',
} as const satisfies Partial<Record<StudioTable, string>>;
export type ListedTable = keyof typeof ID_OF;

/**
 * Some rows of a list that are not in the bin, by id: a page begins after the last row of the one before, so that none
 * is shown twice or left out while others come and go.
 * @param after the last id of the page before
 */
export async function rowsAfter<Row>(
  database: StudioDatabase,
  table: ListedTable,
  columns: readonly (keyof Row & string)[],
  after = '',
  most = PAGE,
): Promise<readonly Row[]> {
  const id = ID_OF[table];
  return (await database
    .from(table)
    .whereNull('removed_at')
    .where(id, '>', after)
    .orderBy(id)
    .limit(most)
    .select(...columns)) as Row[];
}

/** All rows of a list, page by page, however many there are. */
export async function* allRows<Row extends Readonly<Record<string, unknown>>>(
  database: StudioDatabase,
  table: ListedTable,
  columns: readonly (keyof Row & string)[],
): AsyncGenerator<Row, void> {
  const id = ID_OF[table];
  for (let after = ''; ;) {
    const rows = await rowsAfter<Row>(database, table, columns, after);
    yield* rows;
    if (rows.length < PAGE) return;
    after = String(rows.at(-1)?.[id]);
  }
}

/** One row that is not in the bin, by its id. */
export async function rowOf<Row>(
  database: StudioDatabase,
  table: ListedTable,
  columns: readonly (keyof Row & string)[],
  id: string,
): Promise<Row | undefined> {
  return (await database
    .from(table)
    .whereNull('removed_at')
    .where(ID_OF[table], id)
    .first(...columns)) as Row | undefined;
}

/** How many rows a list has, without those in the bin. */
export async function countRows(database: StudioDatabase, table: ListedTable): Promise<number> {
  const row = (await database.from(table).whereNull('removed_at').count({ rows: '*' }).first()) as
    { readonly rows: number | string } | undefined;
  return Number(row?.rows ?? 0);
}
