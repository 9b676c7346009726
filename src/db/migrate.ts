import type { Knex } from 'knex';
import * as firstTables from './migrations/001-first-tables';
import * as groups from './migrations/002-groups';
import * as recipes from './migrations/003-recipes';
import * as names from './migrations/004-names';

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
};

/** Brings the database to the newest shape. Safe to call at every start and from several processes (Knex locks). */
export async function migrate(knex: Knex): Promise<void> {
  await knex.migrate.latest({
    migrationSource: {
      getMigrations: () => Promise.resolve(Object.keys(MIGRATIONS)),
      getMigrationName: (name: string) => name,
      getMigration: (name: string) => {
        const migration = MIGRATIONS[name];
        if (!migration)
          throw new Error(`the database knows a migration "${name}" that this version does not: update Reed Hook`);
        return Promise.resolve(migration);
      },
    },
  });
}
