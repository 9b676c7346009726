import type { Knex } from 'knex';
import * as firstTables from './migrations/001-first-tables';
import * as groups from './migrations/002-groups';
import * as recipes from './migrations/003-recipes';
import * as names from './migrations/004-names';
import * as history from './migrations/005-history';
import * as melodies from './migrations/006-melodies';
import * as drills from './migrations/007-drills';
import * as timeInTheBin from './migrations/008-time-in-the-bin';
import * as pupils from './migrations/009-pupils';
import * as accounts from './migrations/010-accounts';
import * as handouts from './migrations/011-handouts';
import * as struckEntries from './migrations/012-struck-entries';
import * as sizes from './migrations/013-sizes';
import * as receipts from './migrations/014-receipts';
import * as storedSizes from './migrations/015-stored-sizes';

interface Migration {
  readonly up: (knex: Knex) => Promise<void>;
  readonly down: (knex: Knex) => Promise<void>;
}

/** In order; names are kept in the database, so none is ever renamed. */
const MIGRATIONS: Readonly<Record<string, Migration>> = {
  '001-first-tables': firstTables,
  '002-groups': groups,
  '003-recipes': recipes,
  '004-names': names,
  '005-history': history,
  '006-melodies': melodies,
  '007-drills': drills,
  '008-time-in-the-bin': timeInTheBin,
  '009-pupils': pupils,
  '010-accounts': accounts,
  '011-handouts': handouts,
  '012-struck-entries': struckEntries,
  '013-sizes': sizes,
  '014-receipts': receipts,
  '015-stored-sizes': storedSizes,
};

const source: Knex.MigrationSource<string> = {
  getMigrations: () => Promise.resolve(Object.keys(MIGRATIONS)),
  getMigrationName: (name) => name,
  getMigration: (name) => {
    const migration = MIGRATIONS[name];
    if (!migration)
      throw new Error(`the database knows a migration "${name}" that this version does not: update Reed Hook`);
    return Promise.resolve(migration);
  },
};

/** Names of all migrations, in order. */
export const MIGRATION_NAMES: readonly string[] = Object.keys(MIGRATIONS);

/**
 * How long another process that changes tables is waited for, in milliseconds, before its lock is taken for one that a
 * kill has left.
 */
const MAX_WAIT = 20_000;

/**
 * Brings the database to the newest shape. Safe to call at every start and from several processes: Knex locks. Where
 * there is nothing to do no lock is taken; one that was left behind by a kill is freed, since every step of a migration
 * may be made twice.
 */
export async function migrate(knex: Knex): Promise<void> {
  const until = Date.now() + MAX_WAIT;
  for (;;) {
    const done = new Set(await migrationsDone(knex));
    if (MIGRATION_NAMES.every((name) => done.has(name)) && done.size === MIGRATION_NAMES.length) return;
    try {
      await knex.migrate.latest({ migrationSource: source });
      return;
    } catch (error) {
      if (!(error instanceof Error) || !/already locked/.test(error.message)) throw error;
      if (Date.now() > until) await knex.migrate.forceFreeMigrationsLock({ migrationSource: source });
      else await new Promise((again) => setTimeout(again, 500));
    }
  }
}

/** One step up, towards the newest shape. */
export async function migrateUp(knex: Knex): Promise<void> {
  await knex.migrate.up({ migrationSource: source });
}

/** Takes the last migration back. What only the newer shape can hold is lost with it. */
export async function migrateDown(knex: Knex): Promise<void> {
  await knex.migrate.down({ migrationSource: source });
}

/** Names of the migrations that were made, in order. */
export async function migrationsDone(knex: Knex): Promise<readonly string[]> {
  const [done] = (await knex.migrate.list({ migrationSource: source })) as [
    readonly { readonly name: string }[],
    unknown,
  ];
  return done.map(({ name }) => name);
}
