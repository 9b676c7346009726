import type { Knex } from 'knex';

/** Entries of a practice log that were struck out: since when. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`ALTER TABLE practice_log ADD COLUMN IF NOT EXISTS struck_at DATETIME(3)`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`ALTER TABLE practice_log DROP COLUMN IF EXISTS struck_at`);
}
