import type { Knex } from 'knex';
import { connect } from '../../src/db/connect';
import { doneOnce, writingMark } from '../../src/db/repeat';
import { studioDatabase } from '../../src/db/studioDatabase';
import { within } from '../../src/server/accounts/asking';
import { newGroup } from '../../src/server/groups';

const url = process.env['DATABASE_URL'] ?? '';
let knex: Knex;
beforeAll(async () => {
  knex = connect(url, { statementSeconds: 10 });
  await knex('studios').insert({ studio_id: 'repeat', name: 'Before', tidied_at: new Date() });
});
afterAll(async () => {
  await knex('studios').where('studio_id', 'repeat').delete();
  await knex.destroy();
});

const lost = () =>
  Object.assign(new Error('Connection lost: The server closed the connection.'), { code: 'PROTOCOL_CONNECTION_LOST' });
const receipts = async () => Number((await knex('write_receipts').count({ rows: '*' }).first())?.['rows']);

test('a transaction whose answer was lost after it came through is not done twice, and answers as it would have', async () => {
  let calls = 0;
  const transaction = knex.transaction.bind(knex);
  // The first one comes through, and its connection breaks as it says so.
  const once = ((work: (inside: Knex.Transaction) => Promise<unknown>) =>
    transaction(work).then((answer) =>
      calls === 1 ? Promise.reject(lost()) : answer,
    )) as unknown as Knex['transaction'];
  const shaky = new Proxy(knex, {
    get: (of, name) => (name === 'transaction' ? once : Reflect.get(of, name)) as unknown,
  });
  const before = await receipts();
  const answer = await doneOnce(shaky, async (inside) => {
    calls += 1;
    await inside('audit').insert({
      studio_id: 'repeat',
      audit_id: `repeat-${calls}`,
      at: new Date(),
      what: 'x',
      about: '',
      person_id: null,
    });
    return `try ${calls}`;
  });
  expect([answer, calls, (await receipts()) - before]).toEqual(['try 1', 1, 1]);
  expect(await knex('audit').where('studio_id', 'repeat').delete()).toBe(1);
});

test('one that met another is done again as a whole, and leaves nothing of its first try', async () => {
  let calls = 0;
  const name = await studioDatabase(knex, 'repeat').transaction(async (inside) => {
    calls += 1;
    await inside.from('studios').update({ name: `Try ${calls}` });
    if (calls === 1) throw Object.assign(new Error('Deadlock found'), { code: 'ER_LOCK_DEADLOCK', errno: 1213 });
    return ((await inside.from('studios').first('name')) as { name: string }).name;
  });
  expect([name, calls]).toEqual(['Try 2', 2]);
});

test('a connection that the server ends is no end of a transaction', async () => {
  let calls = 0;
  await studioDatabase(knex, 'repeat').transaction(async (inside) => {
    calls += 1;
    await inside.from('studios').update({ name: `Kept ${calls}` });
    if (calls > 1) return;
    const [[{ id }]] = (await (inside.from('studios').client as { raw: Knex['raw'] }).raw(
      'SELECT CONNECTION_ID() AS id',
    )) as unknown as [[{ id: number }]];
    await knex.raw(`KILL ${id}`).catch(() => undefined);
    await inside.from('studios').first('name');
  });
  const { name } = (await knex('studios').where('studio_id', 'repeat').first('name')) as { name: string };
  expect([name, calls]).toEqual(['Kept 2', 2]);
});

test('a statement by itself leaves a receipt as well, and whoever reads the mark sees that something was written', async () => {
  const [before, mark] = [await receipts(), await writingMark(knex)];
  const changed: number = await studioDatabase(knex, 'repeat').from('studios').update({ name: 'After' });
  expect([changed, (await receipts()) - before, (await writingMark(knex)) === mark]).toEqual([1, 1, false]);
  const again = await writingMark(knex);
  await knex('studios').where('studio_id', 'repeat').first('name');
  expect(await writingMark(knex)).toBe(again);
});

test('two hundred changes of one row by eight at once are all there', async () => {
  const studio = studioDatabase(knex, 'repeat');
  await knex('studios').where('studio_id', 'repeat').update({ name: '0' });
  const change = () =>
    studio.transaction(async (inside) => {
      const { name } = (await inside.from('studios').forUpdate().first('name')) as { name: string };
      await inside.from('studios').update({ name: String(Number(name) + 1) });
    });
  await Promise.all(
    Array.from({ length: 8 }, async () => {
      for (let k = 0; k < 25; k += 1) await change();
    }),
  );
  expect(((await studio.from('studios').first('name')) as { name: string }).name).toBe('200');
});

test('what is added by a request that is sent twice is there once; without a key of its own it is there twice', async () => {
  const studio = studioDatabase(knex, 'repeat');
  const group = { name: 'Band', players: [] };
  const add = (sending?: string) =>
    within(
      { asking: { kind: 'alone', studio: 'repeat' }, address: '', ...(sending !== undefined && { sending }) },
      () => newGroup(studio, group),
    );
  const [first, again, other, plain, plainAgain] = [
    await add('key-0001'),
    await add('key-0001'),
    await add('key-0002'),
    await add(),
    await add(),
  ];
  expect([first === again, new Set([first, other, plain, plainAgain]).size]).toEqual([true, 4]);
  expect(await studio.from('player_groups').delete()).toBe(4);
});
