import type { Knex } from 'knex';

/**
 * How much room documents take, in an index of their own: the sum of a studio's is read without a document. The column is
 * worked out by the database and stores nothing beside its index.
 */
export async function up(knex: Knex): Promise<void> {
  for (const table of ['tunes', 'revisions']) {
    await knex.raw(
      `ALTER TABLE ${table} ADD COLUMN IF NOT EXISTS bytes INT UNSIGNED AS (OCTET_LENGTH(document)) VIRTUAL`,
    );
    await knex.raw(`ALTER TABLE ${table} ADD INDEX IF NOT EXISTS ${table}_sizes (studio_id, bytes)`);
  }
}

export async function down(knex: Knex): Promise<void> {
  for (const table of ['tunes', 'revisions']) {
    await knex.raw(`ALTER TABLE ${table} DROP INDEX IF EXISTS ${table}_sizes`);
    await knex.raw(`ALTER TABLE ${table} DROP COLUMN IF EXISTS bytes`);
  }
}
