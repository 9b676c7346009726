import type { Knex } from 'knex';

/** Groups of players, and instruments of a studio's own. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('player_groups', (table) => {
    table.string('studio_id', 40).notNullable().references('studio_id').inTable('studios');
    table.string('group_id', 40).notNullable();
    table.string('name', 200).notNullable();
    table.integer('version').unsigned().notNullable();
    table.json('document').notNullable();
    table.dateTime('created_at', { precision: 3 }).notNullable();
    table.dateTime('updated_at', { precision: 3 }).notNullable();
    table.dateTime('removed_at', { precision: 3 });
    table.primary(['studio_id', 'group_id']);
  });
  await knex.schema.createTable('own_instruments', (table) => {
    table.string('studio_id', 40).notNullable().references('studio_id').inTable('studios');
    table.string('instrument_id', 40).notNullable();
    table.string('name', 200).notNullable();
    table.json('document').notNullable();
    table.dateTime('updated_at', { precision: 3 }).notNullable();
    table.dateTime('removed_at', { precision: 3 });
    table.primary(['studio_id', 'instrument_id']);
  });
}

export async function down(knex: Knex): Promise<void> {
  for (const table of ['own_instruments', 'player_groups']) await knex.schema.dropTableIfExists(table);
}
