import type { Knex } from 'knex';

/** Columns that hold ids, with the tables as they are called by now. */
const ID_COLUMNS: Readonly<Record<string, readonly string[]>> = {
  studios: ['studio_id'],
  tunes: ['studio_id', 'tune_id'],
  recipes: ['studio_id', 'tune_id', 'level'],
  revisions: ['studio_id', 'tune_id'],
  player_groups: ['studio_id', 'group_id'],
  custom_instruments: ['studio_id', 'instrument_id'],
  saved_recipes: ['studio_id', 'recipe_id'],
};

const LENGTH: Readonly<Record<string, number>> = { level: 20 };

/** The ties between tables, by the names that they were made with. */
const TIES = [
  ['tunes', 'tunes_studio_id_foreign', 'studio_id', 'studios', ''],
  ['recipes', 'recipes_studio_id_tune_id_foreign', 'studio_id, tune_id', 'tunes', 'ON DELETE CASCADE'],
  ['revisions', 'revisions_studio_id_tune_id_foreign', 'studio_id, tune_id', 'tunes', 'ON DELETE CASCADE'],
  ['player_groups', 'player_groups_studio_id_foreign', 'studio_id', 'studios', ''],
  ['custom_instruments', 'own_instruments_studio_id_foreign', 'studio_id', 'studios', ''],
  ['saved_recipes', 'kept_recipes_studio_id_foreign', 'studio_id', 'studios', ''],
] as const;

/**
 * Ids compare byte by byte: `A` and `a` are two tunes. Both ends of a foreign key must be alike, so the keys are untied
 * first. Every step may be made twice: a start that was killed between two of them goes on where it was.
 */
async function collate(knex: Knex, type: string): Promise<void> {
  for (const [table, name] of TIES) await knex.raw(`ALTER TABLE ${table} DROP FOREIGN KEY IF EXISTS ${name}`);
  for (const [table, columns] of Object.entries(ID_COLUMNS)) {
    const changes = columns.map((column) => `MODIFY ${column} VARCHAR(${LENGTH[column] ?? 40}) ${type} NOT NULL`);
    await knex.raw(`ALTER TABLE ${table} ${changes.join(', ')}`);
  }
  for (const [table, name, columns, other, rule] of TIES)
    await knex.raw(
      `ALTER TABLE ${table} ADD CONSTRAINT ${name} FOREIGN KEY IF NOT EXISTS (${columns}) REFERENCES ${other} (${columns}) ${rule}`,
    );
}

/**
 * Versions get a name and words for what was changed, and a save can be recognised; what is in the bin is found by its
 * day.
 */
export async function up(knex: Knex): Promise<void> {
  await collate(knex, 'CHARACTER SET ascii COLLATE ascii_bin');
  await knex.raw(
    `ALTER TABLE revisions
      ADD COLUMN IF NOT EXISTS name VARCHAR(200),
      ADD COLUMN IF NOT EXISTS what VARCHAR(1000) NOT NULL DEFAULT '',
      ADD COLUMN IF NOT EXISTS save_id VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin,
      ADD INDEX IF NOT EXISTS revisions_by_save (studio_id, tune_id, save_id)`,
  );
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(
    `ALTER TABLE revisions
      DROP INDEX IF EXISTS revisions_by_save,
      DROP COLUMN IF EXISTS name, DROP COLUMN IF EXISTS what, DROP COLUMN IF EXISTS save_id`,
  );
  await collate(knex, 'CHARACTER SET utf8mb4 COLLATE utf8mb4_general_ci');
}
