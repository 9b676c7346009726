import type { Knex } from 'knex';
import { connect } from '../../src/db/connect';

/** An empty database beside that of the tests, which goes again at the end. @param name of small letters */
export async function ownDatabase(name: string): Promise<{ readonly knex: Knex; readonly end: () => Promise<void> }> {
  const url = new URL(process.env['DATABASE_URL'] ?? '');
  const database = `reed_hook_${name}_${process.pid}`;
  const server = connect(url.toString());
  await server.raw(`CREATE DATABASE ${database} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
  url.pathname = `/${database}`;
  const knex = connect(url.toString());
  return {
    knex,
    end: async () => {
      await knex.destroy();
      await server.raw(`DROP DATABASE IF EXISTS ${database}`);
      await server.destroy();
    },
  };
}
