import type { Knex } from 'knex';

/** Drills stand on the shelf beside tunes; what was there before is tunes. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(
    `ALTER TABLE tunes
      ADD COLUMN IF NOT EXISTS kind VARCHAR(8) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT 'tune'`,
  );
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE tunes DROP COLUMN IF EXISTS kind');
}
