import type { Knex } from 'knex';

/** Tables under the names that the program uses for what they hold. */
const RENAMED = [
  ['own_instruments', 'custom_instruments'],
  ['kept_recipes', 'saved_recipes'],
] as const;

export async function up(knex: Knex): Promise<void> {
  for (const [before, after] of RENAMED) await knex.schema.renameTable(before, after);
}

export async function down(knex: Knex): Promise<void> {
  for (const [before, after] of RENAMED) await knex.schema.renameTable(after, before);
}
