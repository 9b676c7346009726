import type { Knex } from 'knex';

/** In one change, so that a program that reads the column meanwhile never misses it. May be made twice. */
async function sizes(knex: Knex, kind: 'VIRTUAL' | 'PERSISTENT'): Promise<void> {
  for (const table of ['tunes', 'revisions'])
    await knex.raw(
      `ALTER TABLE ${table}
        DROP INDEX IF EXISTS ${table}_sizes, DROP COLUMN IF EXISTS bytes,
        ADD COLUMN bytes INT UNSIGNED AS (OCTET_LENGTH(document)) ${kind},
        ADD INDEX ${table}_sizes (studio_id, bytes)`,
    );
}

/**
 * How much room documents take is stored, under the same name. An index over a column that is worked out anew has to
 * open its table whenever old rows are cleared away; while a server ends, or a node only looks how much it has, it
 * cannot, and tries for ever.
 */
export async function up(knex: Knex): Promise<void> {
  await sizes(knex, 'PERSISTENT');
}

export async function down(knex: Knex): Promise<void> {
  await sizes(knex, 'VIRTUAL');
}
