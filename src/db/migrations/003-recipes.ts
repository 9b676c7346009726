import type { Knex } from 'knex';

/** Recipes that a studio keeps under a name, for any tune. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('kept_recipes', (table) => {
    table.string('studio_id', 40).notNullable().references('studio_id').inTable('studios');
    table.string('recipe_id', 40).notNullable();
    table.string('name', 200).notNullable();
    table.json('document').notNullable();
    table.dateTime('updated_at', { precision: 3 }).notNullable();
    table.dateTime('removed_at', { precision: 3 });
    table.primary(['studio_id', 'recipe_id']);
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTableIfExists('kept_recipes');
}
