import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { sharedPages } from '../../scripts/setup/sharedPages.mjs';

/** A server whose pages say how often they were made and with which nonce. */
async function shelf(options: { readonly status?: number; readonly type?: string; readonly wait?: number } = {}) {
  const { status = 200, type = 'text/html; charset=utf-8', wait = 30 } = options;
  let [made, clock, nonces, written] = [0, 0, 0, 0];
  let isAway = false;
  const make = async (request: IncomingMessage, response: ServerResponse) => {
    const number = (made += 1);
    await new Promise((done) => setTimeout(done, wait));
    response.setHeader('etag', '"tag"');
    response.setHeader('content-type', type);
    response.statusCode = status;
    response.write(`<script nonce="${String(request.headers['x-nonce'])}">`);
    if (request.method !== 'GET') written += 1;
    response.end(`${number}</script>`);
  };
  const handle = sharedPages(
    make,
    () => (isAway ? Promise.reject(new Error('away')) : Promise.resolve(String(written))),
    () => clock,
  );
  const server = createServer((request, response) => {
    request.headers['x-nonce'] = `nonce-${(nonces += 1)}`;
    response.setHeader('x-own', String(request.headers['x-nonce']));
    void handle(request, response);
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const ask = async (path: string, init?: RequestInit) => {
    const answer = await fetch(address + path, init);
    const text = await answer.text();
    const [own, tag] = [answer.headers.get('x-own') ?? 'none', answer.headers.get('etag')];
    return { text, number: Number(/>(\d+)</.exec(text)?.[1]), own, tag };
  };
  return {
    ask,
    later: (milliseconds: number) => (clock += milliseconds),
    elsewhere: () => (written += 1),
    loseDatabase: () => (isAway = true),
    end: () => new Promise((done) => server.close(done)),
  };
}

test('a page that twenty ask for at once is made once, and each copy has a nonce of its own', async () => {
  const { ask, end } = await shelf();
  const all = await Promise.all(Array.from({ length: 20 }, () => ask('/')));
  expect(all.map(({ number }) => number)).toEqual(all.map(() => 1));
  expect(all.every(({ text, own }) => text === `<script nonce="${own}">1</script>`)).toBe(true);
  expect(new Set(all.map(({ own }) => own)).size).toBe(20);
  await end();
});

test('it is made anew after a second, and at once after anything may have changed', async () => {
  const { ask, later, end } = await shelf({ wait: 0 });
  expect((await ask('/')).number).toBe(1);
  later(900);
  expect((await ask('/')).number).toBe(1);
  later(200);
  expect((await ask('/')).number).toBe(2);
  await ask('/api/tunes', { method: 'POST' });
  expect((await ask('/')).number).toBe(4);
  await end();
});

test('what another process has written makes a page one of before, and so does a database that does not say', async () => {
  const { ask, elsewhere, loseDatabase, end } = await shelf({ wait: 0 });
  expect([(await ask('/')).number, (await ask('/')).number]).toEqual([1, 1]);
  elsewhere();
  expect([(await ask('/')).number, (await ask('/')).number]).toEqual([2, 2]);
  loseDatabase();
  expect([(await ask('/')).number, (await ask('/')).number]).toEqual([3, 4]);
  await end();
});

test('a page that was begun before a change is not handed to those who ask after it', async () => {
  const { ask, end } = await shelf({ wait: 120 });
  const before = ask('/');
  await new Promise((done) => setTimeout(done, 40));
  const change = ask('/api/tunes', { method: 'POST' });
  await before;
  await change;
  expect((await ask('/')).number).toBe(3);
  await end();
});

test('what is made for one reader is not shown to another, and parts of pages, data and files are never held', async () => {
  const { ask, end } = await shelf({ wait: 0 });
  const numbers: number[] = [];
  for (const [path, headers] of [
    ['/', { cookie: 'width=800' }],
    ['/', { cookie: 'width=1200' }],
    ['/', { cookie: 'width=800', rsc: '1' }],
    ['/', { cookie: 'width=800', rsc: '1' }],
    ['/api/tunes', {}],
    ['/api/tunes', {}],
    ['/stand-sw.js', {}],
    ['/stand-sw.js', {}],
    ['/', { cookie: 'width=800' }],
  ] as const)
    numbers.push((await ask(path, { headers })).number);
  expect(numbers).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 1]);
  await end();
});

test('a part that a class opens is made once and comes whole, with its tag; who has it already is answered for themselves', async () => {
  const { ask, end } = await shelf({ type: 'application/pdf', wait: 30 });
  const part = '/api/tunes/kelp/files/beginner.pdf?paper=a4';
  const all = await Promise.all(Array.from({ length: 12 }, () => ask(part)));
  expect(new Set(all.map(({ text, tag }) => `${tag} ${text}`)).size).toBe(1);
  expect([all[0]?.tag, all[0]?.number]).toEqual(['"tag"', 1]);
  expect((await ask(part, { headers: { 'if-none-match': '"other"' } })).number).toBe(2);
  expect((await ask(part, { headers: { range: 'bytes=0-9' } })).number).toBe(3);
  expect((await ask(part.replace('a4', 'letter'))).number).toBe(4);
  await ask('/api/tunes/kelp', { method: 'PUT' });
  expect((await ask(part)).number).toBe(6);
  await end();
});

test.each([
  ['a page that failed', { status: 500 }],
  ['what is no page', { type: 'application/json' }],
])('%s is not held', async (_, options) => {
  const { ask, end } = await shelf({ ...options, wait: 0 });
  expect([(await ask('/')).number, (await ask('/')).number]).toEqual([1, 2]);
  await end();
});
