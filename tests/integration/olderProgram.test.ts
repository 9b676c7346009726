import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Knex } from 'knex';
import { connect } from '../../src/db/connect';
import { migrate, MIGRATION_NAMES } from '../../src/db/migrate';
import { howMuch, type Said } from './everyStatement';

const DATABASE = `reed_hook_older_${process.pid}`;
const { tables, said } = JSON.parse(
  readFileSync(join(process.cwd(), 'tests', 'documents', 'statements-013.json'), 'utf8'),
) as { readonly tables: string; readonly said: readonly Said[] };

let server: Knex;
let knex: Knex;
beforeAll(async () => {
  const url = new URL(process.env['DATABASE_URL'] ?? '');
  server = connect(url.toString());
  await server.raw(`CREATE DATABASE ${DATABASE} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
  url.pathname = `/${DATABASE}`;
  knex = connect(url.toString());
});
afterAll(async () => {
  await knex.destroy();
  await server.raw(`DROP DATABASE IF EXISTS ${DATABASE}`);
  await server.destroy();
});

test('the program of before goes on with the tables of now: all that it says in a day is taken, and comes to as much', async () => {
  expect([MIGRATION_NAMES.indexOf(tables) >= 0, tables !== MIGRATION_NAMES.at(-1), said.length > 150]).toEqual([
    true,
    true,
    true,
  ]);
  await migrate(knex);
  for (const [k, { sql, bindings, much }] of said.entries()) {
    const values = bindings.map((one) =>
      typeof one === 'object' && one !== null && 'date' in one ? new Date(String(one.date)) : one,
    );
    const [answer] = (await knex.raw(sql, values as Knex.RawBinding[])) as [unknown];
    expect([k, sql, howMuch(answer)]).toEqual([k, sql, much]);
  }
});
