import type { Knex } from 'knex';

/** Studios, tunes, recipes by level, and a revision for every save. Every table carries the studio. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('studios', (table) => {
    table.string('studio_id', 40).primary();
    table.string('name', 200).notNullable();
    table.timestamp('created_at').notNullable().defaultTo(knex.fn.now());
  });
  await knex.schema.createTable('tunes', (table) => {
    table.string('studio_id', 40).notNullable().references('studio_id').inTable('studios');
    table.string('tune_id', 40).notNullable();
    table.string('title', 500).notNullable();
    table.string('composer', 500).notNullable();
    table.string('key_name', 40).notNullable();
    table.string('meter', 8).notNullable();
    table.integer('bar_count').unsigned().notNullable();
    table.string('rights', 20).notNullable();
    table.integer('version').unsigned().notNullable();
    table.json('document').notNullable();
    table.dateTime('removed_at', { precision: 3 });
    table.dateTime('created_at', { precision: 3 }).notNullable();
    table.dateTime('updated_at', { precision: 3 }).notNullable();
    table.primary(['studio_id', 'tune_id']);
    table.index(['studio_id', 'removed_at', 'title'], 'tunes_by_title');
  });
  await knex.schema.createTable('recipes', (table) => {
    table.string('studio_id', 40).notNullable();
    table.string('tune_id', 40).notNullable();
    table.string('level', 20).notNullable();
    table.json('document').notNullable();
    table.primary(['studio_id', 'tune_id', 'level']);
    table.foreign(['studio_id', 'tune_id']).references(['studio_id', 'tune_id']).inTable('tunes').onDelete('CASCADE');
  });
  await knex.schema.createTable('revisions', (table) => {
    table.bigIncrements('revision_id');
    table.string('studio_id', 40).notNullable();
    table.string('tune_id', 40).notNullable();
    table.integer('version').unsigned().notNullable();
    // A refused save is kept beside the one it would have overwritten.
    table.enu('kind', ['saved', 'refused']).notNullable();
    table.json('document').notNullable();
    table.json('recipes').notNullable();
    table.dateTime('saved_at', { precision: 3 }).notNullable();
    table.index(['studio_id', 'tune_id', 'version'], 'revisions_by_tune');
    table.foreign(['studio_id', 'tune_id']).references(['studio_id', 'tune_id']).inTable('tunes').onDelete('CASCADE');
  });
}

export async function down(knex: Knex): Promise<void> {
  for (const table of ['revisions', 'recipes', 'tunes', 'studios']) await knex.schema.dropTableIfExists(table);
}
