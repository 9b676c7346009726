import type { Knex } from 'knex';

/**
 * Receipts of what was written, by which a write that is tried again is done once; what is to be forgotten by every
 * process. Both are new: a program of before does not know them, and needs nothing of them. Every step may be made twice.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(
    `CREATE TABLE IF NOT EXISTS write_receipts (
      receipt CHAR(32) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
      tries TINYINT UNSIGNED NOT NULL, mark BIGINT UNSIGNED NOT NULL, written_at DATETIME(3) NOT NULL,
      INDEX receipts_by_age (written_at))`,
  );
  await knex.raw(
    `CREATE TABLE IF NOT EXISTS forgettings (
      forgetting_id CHAR(32) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
      asked_at DATETIME(3) NOT NULL)`,
  );
}

export async function down(knex: Knex): Promise<void> {
  for (const table of ['forgettings', 'write_receipts']) await knex.schema.dropTableIfExists(table);
}
