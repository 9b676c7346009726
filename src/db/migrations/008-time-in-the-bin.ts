import type { Knex } from 'knex';

const BINNED = ['tunes', 'player_groups', 'saved_recipes', 'custom_instruments'] as const;

/**
 * Until when something stays in the bin stands beside it, and when the studio was tidied last: a clock that jumps is
 * noticed, and takes nothing with it. Every step may be made twice.
 */
export async function up(knex: Knex): Promise<void> {
  for (const table of BINNED) {
    await knex.raw(`ALTER TABLE ${table} ADD COLUMN IF NOT EXISTS bin_until DATETIME(3)`);
    await knex.raw(
      `UPDATE ${table} SET bin_until = removed_at + INTERVAL 30 DAY WHERE removed_at IS NOT NULL AND bin_until IS NULL`,
    );
  }
  await knex.raw('ALTER TABLE studios ADD COLUMN IF NOT EXISTS tidied_at DATETIME(3)');
  await knex.raw('UPDATE studios SET tidied_at = UTC_TIMESTAMP(3) WHERE tidied_at IS NULL');
}

export async function down(knex: Knex): Promise<void> {
  for (const table of BINNED) await knex.raw(`ALTER TABLE ${table} DROP COLUMN IF EXISTS bin_until`);
  await knex.raw('ALTER TABLE studios DROP COLUMN IF EXISTS tidied_at');
}
