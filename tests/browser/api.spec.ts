import { readdirSync } from 'node:fs';
import { bringIn, expect, SMALL_TUNE, test } from './page';

interface Case {
  readonly method: 'GET' | 'POST' | 'PUT' | 'DELETE';
  /** `TUNE` stands for a tune that is there. */
  readonly path: string;
  readonly data?: string | object;
  readonly status: number;
  readonly says: RegExp;
}

const TOO_LARGE = JSON.stringify({ name: 'x'.repeat(20 * 1024 * 1024) });
const PLAYER = { id: 'p', name: 'Pell', instrument: 'kazoo', level: 'beginner' };

/** What each door of the server refuses, with the status and the words. */
const REFUSED: readonly Case[] = [
  { method: 'POST', path: '/api/tunes', data: 'no music at all', status: 422, says: /./ },
  { method: 'POST', path: '/api/tunes?colour=red', data: SMALL_TUNE, status: 400, says: /colour/ },
  { method: 'POST', path: '/api/tunes/new', data: '{', status: 400, says: /The request is no JSON/ },
  { method: 'POST', path: '/api/tunes/new', data: { tune: {}, recipes: {} }, status: 422, says: /tune/ },
  { method: 'POST', path: '/api/tunes/new', data: TOO_LARGE, status: 413, says: /larger than/ },
  { method: 'GET', path: '/api/tunes/none', status: 404, says: /not found/ },
  { method: 'PUT', path: '/api/tunes/none', data: { version: 1 }, status: 422, says: /work/ },
  { method: 'PUT', path: '/api/tunes/TUNE', data: { version: 'one' }, status: 422, says: /version/ },
  { method: 'PUT', path: '/api/tunes/TUNE', data: TOO_LARGE, status: 413, says: /larger than/ },
  { method: 'DELETE', path: '/api/tunes/none', status: 404, says: /not found/ },
  { method: 'POST', path: '/api/tunes/TUNE/restore', status: 404, says: /no such tune to restore/ },
  { method: 'GET', path: '/api/tunes/none/files/tune.abc', status: 404, says: /./ },
  { method: 'GET', path: '/api/tunes/TUNE/files/tune.doc', status: 404, says: /./ },
  { method: 'GET', path: '/api/tunes/TUNE/files/beginner.pdf?paper=a0', status: 400, says: /paper/ },
  { method: 'GET', path: '/api/tunes/TUNE/groups/none/all.pdf.zip', status: 404, says: /./ },
  { method: 'POST', path: '/api/groups', data: { name: 'Loft', players: [PLAYER] }, status: 422, says: /kazoo/ },
  { method: 'POST', path: '/api/groups', data: TOO_LARGE, status: 413, says: /larger than 256 kB/ },
  { method: 'PUT', path: '/api/groups/none', data: { version: 1 }, status: 422, says: /group/ },
  {
    method: 'PUT',
    path: '/api/groups/none',
    data: { version: 1, group: { name: 'Loft', players: [] } },
    status: 404,
    says: /was removed meanwhile/,
  },
  { method: 'DELETE', path: '/api/groups/none', status: 404, says: /not found/ },
  { method: 'POST', path: '/api/groups/none', status: 404, says: /not removed/ },
  { method: 'PUT', path: '/api/recipes/recipe-a', data: { id: 'recipe-a' }, status: 422, says: /name/ },
  {
    method: 'PUT',
    path: '/api/recipes/recipe-a',
    data: { schema: 2, id: 'recipe-b', name: 'B', level: 'beginner', wishes: {} },
    status: 422,
    says: /differs from the address/,
  },
  {
    method: 'PUT',
    path: '/api/recipes/recipe-a',
    data: { schema: 2, id: 'recipe-a', name: 'A', level: 'beginner', wishes: { rhythm: { shortest: 'minim' } } },
    status: 422,
    says: /shortest/,
  },
  { method: 'DELETE', path: '/api/recipes/none', status: 404, says: /not found/ },
  { method: 'PUT', path: '/api/instruments/own-a', data: { id: 'own-a' }, status: 422, says: /./ },
  {
    method: 'PUT',
    path: '/api/instruments/own-a',
    data: { id: 'own-b', name: 'Low fiddle', base: 'violin' },
    status: 422,
    says: /address/,
  },
  { method: 'DELETE', path: '/api/instruments/none', status: 404, says: /not found/ },
];

test('every door refuses what is wrong with a status and a sentence, and what comes from elsewhere', async ({
  page,
}) => {
  const id = await bringIn(page, SMALL_TUNE);
  const at = (path: string) => path.replace('TUNE', id);
  for (const { method, path, data, status, says } of REFUSED) {
    const answer = await page.request.fetch(at(path), {
      method,
      ...(data !== undefined && {
        // As bytes: a text that is no JSON would be made JSON on the way.
        data: Buffer.from(typeof data === 'string' ? data : JSON.stringify(data)),
        headers: { 'content-type': 'application/json' },
      }),
    });
    const text = await answer.text();
    expect([method, path, answer.status(), says.test(text), text]).toEqual([method, path, status, true, text]);
    if (method === 'GET') continue;
    const foreign = await page.request.fetch(at(path), {
      method,
      headers: { origin: 'http://elsewhere.invalid' },
    });
    expect([method, path, foreign.status()]).toEqual([method, path, 403]);
  }
  expect((await page.request.get(`/api/tunes/${id}`)).status()).toBe(200);
});

test('no door is missing from the table of refusals', () => {
  const doors = readdirSync('src/app/api', { recursive: true, encoding: 'utf8' })
    .filter((name) => name.endsWith('route.ts'))
    .map((name) => `/api/${name.replace(/\/route\.ts$/, '')}`)
    // They are asked for without anything that could be wrong.
    .filter((door) => door !== '/api/health' && door !== '/api/sounds');
  const isTried = (door: string) => {
    const pattern = new RegExp(`^${door.replaceAll(/\[\w+\]/g, '[^/]+')}$`);
    return REFUSED.some(({ path }) => pattern.test(path.replace(/\?.*/, '')));
  };
  expect(doors.filter((door) => !isTried(door))).toEqual([]);
});
