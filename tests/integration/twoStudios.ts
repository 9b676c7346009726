import type { Knex } from 'knex';
import type { Work } from '../../src/core/work/work';
import { connect } from '../../src/db/connect';
import { migrate } from '../../src/db/migrate';
import { studioDatabase, type StudioDatabase } from '../../src/db/studioDatabase';
import { ensureStudio } from '../../src/db/studioRepository';
export { smallWork } from '../smallWork';
import * as tunes from '../../src/db/tuneRepository';

const TABLES = [
  'practice_log',
  'pupils',
  'tunes',
  'player_groups',
  'custom_instruments',
  'saved_recipes',
  'studios',
] as const;

/** Two studios in the test database, emptied when the tests are done. */
export interface TwoStudios {
  readonly knex: Knex;
  readonly ours: StudioDatabase;
  readonly theirs: StudioDatabase;
  readonly empty: () => Promise<void>;
  readonly close: () => Promise<void>;
}

/** @param name told apart from the studios of other test files */
export async function twoStudios(name: string): Promise<TwoStudios> {
  const knex = connect(process.env['DATABASE_URL'] ?? '');
  await migrate(knex);
  const [ours, theirs] = [studioDatabase(knex, `${name}-ours`), studioDatabase(knex, `${name}-theirs`)];
  await ensureStudio(ours, 'Ours');
  await ensureStudio(theirs, 'Theirs');
  const emptyTables = async (tables: readonly (typeof TABLES)[number][]) => {
    for (const studio of [ours, theirs]) for (const table of tables) await studio.from(table).delete();
  };
  return {
    knex,
    ours,
    theirs,
    empty: () => emptyTables(TABLES.filter((table) => table !== 'studios')),
    close: async () => {
      await emptyTables(TABLES);
      await knex.destroy();
    },
  };
}

/** Adds a work as the program does, once it was checked. */
export function addWork(database: StudioDatabase, id: string, work: Work, now: Date, what?: string): Promise<void> {
  return tunes.addWork(database, id, tunes.documentsOf(work), now, what);
}

/** Saves a work as the program does, once it was checked. */
export function saveWork(
  database: StudioDatabase,
  id: string,
  { work, ...save }: Omit<tunes.Save, 'work'> & { readonly work: Work },
  now: Date,
): Promise<tunes.SaveOutcome> {
  return tunes.saveWork(database, id, { ...save, work: tunes.documentsOf(work) }, now);
}
