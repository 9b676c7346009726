import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Knex } from 'knex';
import { migrate, MIGRATION_NAMES } from '../../src/db/migrate';
import { howMuch, type Said } from './everyStatement';
import { ownDatabase } from './ownDatabase';

const { tables, said } = JSON.parse(
  readFileSync(join(process.cwd(), 'tests', 'documents', 'statements-013.json'), 'utf8'),
) as { readonly tables: string; readonly said: readonly Said[] };

let knex: Knex;
let end: () => Promise<void>;
beforeAll(async () => {
  ({ knex, end } = await ownDatabase('older'));
});
afterAll(() => end());

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
