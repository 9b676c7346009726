import { readdirSync } from 'node:fs';
import { connect } from 'node:net';
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

const PUPIL = {
  name: 'Quill',
  playing: [{ id: 'a', instrument: 'flute', level: 'beginner' }],
  practice: {},
  off: [],
  school: 'mastered',
  work: [],
  pins: [],
  lessons: [],
};
const ENTRY = {
  id: 'e',
  date: '2027-03-01',
  work: 'w',
  step: 's',
  minutes: 5,
  good: 0,
  again: 0,
  by: 'pupil',
  note: '',
};
const TURNED = [{ from: '2027-03-09', to: '2027-03-01' }];

/** What each door of the server refuses, with the status and the words. */
const NO_PACK = { choice: { sheets: ['part'], files: [], paper: 'a4' }, date: '2027-01-04' };

const REFUSED: readonly Case[] = [
  { method: 'POST', path: '/api/tunes', data: 'no music at all', status: 422, says: /./ },
  { method: 'POST', path: '/api/tunes?colour=red', data: SMALL_TUNE, status: 400, says: /colour/ },
  { method: 'POST', path: '/api/tunes/new', data: '{', status: 400, says: /The request is not JSON/ },
  { method: 'POST', path: '/api/tunes/new', data: { tune: {}, recipes: {} }, status: 422, says: /tune/ },
  { method: 'POST', path: '/api/tunes/new', data: TOO_LARGE, status: 413, says: /larger than/ },
  { method: 'GET', path: '/api/tunes/none', status: 404, says: /not found/ },
  { method: 'PUT', path: '/api/tunes/none', data: { version: 1 }, status: 422, says: /work/ },
  { method: 'PUT', path: '/api/tunes/TUNE', data: { version: 'one' }, status: 422, says: /version/ },
  { method: 'PUT', path: '/api/tunes/TUNE', data: TOO_LARGE, status: 413, says: /larger than/ },
  { method: 'DELETE', path: '/api/tunes/none', status: 404, says: /not found/ },
  { method: 'POST', path: '/api/tunes/TUNE/restore', status: 404, says: /no such tune to restore/ },
  { method: 'GET', path: '/api/pupils/none/pack/pack.pdf?sheets=part', status: 404, says: /not found/ },
  { method: 'GET', path: '/api/pupils/none/pack/pack.pdf?sheets=hat', status: 400, says: /sheets/ },
  { method: 'GET', path: '/api/groups/none/pack/making?date=soon', status: 400, says: /a date of the calendar/ },
  { method: 'GET', path: '/api/groups/none/pack/else', status: 404, says: /contents\.json/ },
  { method: 'POST', path: '/api/pupils/none/handouts', data: { choice: {} }, status: 422, says: /sheets/ },
  { method: 'POST', path: '/api/groups/none/handouts', data: NO_PACK, status: 404, says: /not found/ },
  { method: 'DELETE', path: '/api/pupils/none/log/one', status: 404, says: /no such entry/ },
  { method: 'POST', path: '/api/pupils/none/log/one', status: 404, says: /no such entry/ },
  { method: 'DELETE', path: '/api/handouts/none', status: 404, says: /ended/ },
  { method: 'GET', path: '/api/tunes/none/files/tune.abc', status: 404, says: /./ },
  { method: 'GET', path: '/api/tunes/TUNE/files/tune.doc', status: 404, says: /./ },
  { method: 'GET', path: '/api/tunes/TUNE/files/beginner.pdf?paper=a0', status: 400, says: /paper/ },
  { method: 'GET', path: '/api/tunes/TUNE/files/beginner.sets.pdf?set=jolly', status: 400, says: /jolly/ },
  { method: 'GET', path: '/api/sets?set=jolly', status: 400, says: /jolly/ },
  { method: 'GET', path: '/api/sets?for=kazoo', status: 400, says: /kazoo/ },
  { method: 'GET', path: '/api/tunes/TUNE/groups/none/all.pdf.zip', status: 404, says: /./ },
  { method: 'GET', path: '/api/tunes/TUNE/groups/none/together/score.pdf', status: 404, says: /group was not found/ },
  { method: 'GET', path: '/api/tunes/none/history', status: 404, says: /not found/ },
  { method: 'GET', path: '/api/tunes/TUNE/history/999999', status: 404, says: /let go/ },
  { method: 'PUT', path: '/api/tunes/TUNE/history/1', data: { name: 'x'.repeat(201) }, status: 422, says: /name/ },
  { method: 'PUT', path: '/api/tunes/TUNE/history/999999', data: { name: 'Spring' }, status: 404, says: /not found/ },
  { method: 'GET', path: '/api/tunes/TUNE/history/1/bars?from=3&to=2', status: 400, says: /from and to/ },
  { method: 'GET', path: '/api/tunes/TUNE/history/999999/bars', status: 404, says: /not found/ },
  { method: 'POST', path: '/api/archive', data: 'no archive', status: 422, says: /cannot be opened/ },
  { method: 'POST', path: '/api/bin/sofa/x', status: 400, says: /no kind .*sofa/ },
  { method: 'DELETE', path: '/api/bin/tune/none', status: 404, says: /not in the bin/ },
  { method: 'POST', path: '/api/groups', data: { ['k'.repeat(100_000)]: 1 }, status: 422, says: /^.{1,900}$/ },
  { method: 'DELETE', path: '/api/names', data: { name: ' ' }, status: 422, says: /name/ },
  { method: 'DELETE', path: '/api/names', data: { name: 'Nobody at all' }, status: 404, says: /No player/ },
  {
    method: 'PUT',
    path: '/api/tunes/TUNE',
    data: `{"version":1,"work":${'['.repeat(50_000)}`,
    status: 400,
    says: /not JSON/,
  },
  {
    method: 'POST',
    path: '/api/groups',
    data: { name: 'Loft \ud83c', players: [] },
    status: 422,
    says: /half a character/,
  },
  { method: 'POST', path: '/api/groups', data: { name: 'Loft', players: [PLAYER] }, status: 422, says: /kazoo/ },
  { method: 'POST', path: '/api/groups', data: TOO_LARGE, status: 413, says: /larger than 256 kB/ },
  { method: 'PUT', path: '/api/groups/none', data: { version: 1 }, status: 422, says: /group/ },
  {
    method: 'PUT',
    path: '/api/groups/none',
    data: { version: 2 ** 32, group: { name: 'Loft', players: [] } },
    status: 422,
    says: /version/,
  },
  {
    method: 'PUT',
    path: '/api/groups/none',
    data: { version: 1, group: { name: 'Loft', players: [] } },
    status: 404,
    says: /was removed meanwhile/,
  },
  { method: 'DELETE', path: '/api/groups/none', status: 404, says: /not found/ },
  { method: 'POST', path: '/api/groups/none', status: 404, says: /not removed/ },
  { method: 'POST', path: '/api/pupils', data: { ...PUPIL, name: ' ' }, status: 422, says: /has a first name/ },
  { method: 'POST', path: '/api/pupils', data: { ...PUPIL, playing: [PLAYER] }, status: 422, says: /kazoo|name/ },
  { method: 'POST', path: '/api/pupils', data: { ...PUPIL, off: TURNED }, status: 422, says: /end before they begin/ },
  { method: 'POST', path: '/api/pupils', data: { ...PUPIL, practice: { monday: 1_441 } }, status: 422, says: /monday/ },
  {
    method: 'PUT',
    path: '/api/pupils/none',
    data: { version: 1, pupil: PUPIL },
    status: 404,
    says: /removed meanwhile/,
  },
  { method: 'DELETE', path: '/api/pupils/none', status: 404, says: /not found/ },
  { method: 'DELETE', path: '/api/pupils/none?for-good=yes', status: 404, says: /not found/ },
  { method: 'POST', path: '/api/pupils/none', status: 404, says: /not removed/ },
  { method: 'POST', path: '/api/pupils/none/log', data: { entries: [ENTRY] }, status: 404, says: /not found/ },
  {
    method: 'POST',
    path: '/api/pupils/none/log',
    data: { entries: [{ ...ENTRY, date: '2027-02-30' }] },
    status: 422,
    says: /date of the calendar/,
  },
  { method: 'POST', path: '/api/pupils/none/log', data: { entries: [] }, status: 422, says: /entries/ },
  { method: 'POST', path: '/api/pupils/none/apart', data: { other: 'some' }, status: 404, says: /not found/ },
  { method: 'POST', path: '/api/pupils/join', data: { kept: 'a', other: 'b' }, status: 404, says: /not found/ },
  {
    method: 'POST',
    path: '/api/pupils/from-group',
    data: { group: 'none', player: 'p', pupil: PUPIL },
    status: 404,
    says: /not found/,
  },
  { method: 'GET', path: '/api/pupils/none/source?tune=TUNE', status: 404, says: /not found/ },
  { method: 'GET', path: '/api/pupils/none/files/log.csv', status: 404, says: /not found/ },
  { method: 'GET', path: '/api/pupils/demo-juno/files/log.doc', status: 404, says: /log.doc/ },
  { method: 'GET', path: '/api/pupils/demo-juno/files/practice.pdf?paper=a3', status: 400, says: /a3/ },
  { method: 'GET', path: '/api/pupils/demo-juno/files/practice.pdf?weeks=0', status: 400, says: /weeks/ },
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
  { method: 'POST', path: '/api/pupils/none/link', data: {}, status: 404, says: /not found/ },
  { method: 'POST', path: '/api/pupils/demo-juno/link', data: { days: 4_000 }, status: 422, says: /days/ },
  { method: 'DELETE', path: '/api/pupils/none/link', status: 404, says: /no link/ },
  // Alone there are no accounts: nothing lies at their addresses.
  ...(
    [
      ['POST', '/api/account/sign-in'],
      ['POST', '/api/account/sign-out'],
      ['POST', '/api/account/forgotten'],
      ['POST', '/api/account/links'],
      ['PUT', '/api/account/password'],
      ['POST', '/api/account/second-factor'],
      ['DELETE', '/api/account/devices/none'],
      ['POST', '/api/account/studio'],
      ['POST', '/api/people/invitations'],
      ['DELETE', '/api/people/invitations/none'],
      ['PUT', '/api/people/settings'],
      ['DELETE', '/api/people/studio'],
      ['PUT', '/api/people/none'],
      ['POST', '/api/people/none/reset'],
      ['PUT', '/api/pupils/none/teacher'],
    ] as const
  ).map(([method, path]): Case => ({ method, path, status: 404, says: /Nothing is found/ })),
  { method: 'GET', path: '/api/drills/book.pdf?ids=&level=beginner', status: 400, says: /Name one to 12 drills/ },
  { method: 'GET', path: '/api/drills/book.pdf?ids=none&level=beginner', status: 404, says: /None of these drills/ },
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

test('what cannot be let in is turned away at the door, and every answer carries its headers', async ({
  page,
  baseURL,
}) => {
  const host = new URL(baseURL ?? '').host;
  const raw = (lines: readonly string[]) =>
    new Promise<string>((resolve, reject) => {
      const socket = connect(Number(host.split(':')[1]), '127.0.0.1', () =>
        socket.write(`${lines.join('\r\n')}\r\n\r\n`),
      );
      let answer = '';
      socket.on('data', (chunk: Buffer) => (answer += chunk.toString()));
      socket.on('end', () => resolve(answer));
      socket.on('error', reject);
    });
  const status = async (first: string, ...more: readonly string[]) =>
    (await raw([first, `host: ${host}`, 'connection: close', ...more])).split(' ')[1];
  expect([
    await status('TRACE / HTTP/1.1'),
    await status('GET /%zz HTTP/1.1'),
    await status('GET http://elsewhere.invalid/ HTTP/1.1'),
    await status('GET //elsewhere.invalid/ HTTP/1.1'),
    await status('GET /_next/static/../../ HTTP/1.1'),
    await status('GET * HTTP/1.1'),
    await status('GET /api/tunes/%C3%A9 HTTP/1.1'),
    await status('GET / HTTP/1.1', 'sec-fetch-site: cross-site', 'sec-fetch-mode: no-cors', 'sec-fetch-dest: image'),
    await status('DELETE /api/tunes/none HTTP/1.1'),
    await status('DELETE /api/tunes/none HTTP/1.1', 'origin: null'),
    await status('DELETE /api/tunes/none HTTP/1.1', 'sec-fetch-site: cross-site'),
    await status('DELETE /api/tunes/none HTTP/1.1', 'sec-fetch-site: same-origin'),
    (await raw(['GET / HTTP/1.1', 'host: elsewhere.invalid', 'connection: close'])).split(' ')[1],
  ]).toEqual(['405', '400', '400', '400', '400', '400', '404', '403', '403', '403', '403', '404', '421']);
  await page.goto('/');
  const script = await page.locator('script[src]').first().getAttribute('src');
  for (const path of ['/', '/api/tunes', '/nowhere', script ?? '']) {
    const headers = (await page.request.get(path)).headers();
    expect([
      path,
      headers['x-content-type-options'],
      headers['cross-origin-resource-policy'],
      headers['cross-origin-opener-policy'],
    ]).toEqual([path, 'nosniff', 'same-origin', 'same-origin']);
  }
});

test('what was made is sent once: the same part is asked for with its tag and comes as 304', async ({ page }) => {
  const id = await bringIn(page, SMALL_TUNE);
  for (const file of ['beginner.pdf', 'opening.svg', 'tune.musicxml']) {
    const first = await page.request.get(`/api/tunes/${id}/files/${file}`);
    const tag = first.headers()['etag'] ?? '';
    const again = await page.request.get(`/api/tunes/${id}/files/${file}`, { headers: { 'if-none-match': tag } });
    expect([file, first.status(), tag.length > 10, again.status()]).toEqual([file, 200, true, 304]);
  }
  const before = (await page.request.get(`/api/tunes/${id}/files/tune.abc`)).headers()['etag'];
  const { version, work } = (await (await page.request.get(`/api/tunes/${id}`)).json()) as {
    version: number;
    work: { tune: object };
  };
  await page.request.put(`/api/tunes/${id}`, {
    data: { version, work: { ...work, tune: { ...work.tune, title: 'Other' } } },
  });
  expect((await page.request.get(`/api/tunes/${id}/files/tune.abc`)).headers()['etag']).not.toBe(before);
});

test('no door is missing from the table of refusals', () => {
  const doors = readdirSync('src/app/api', { recursive: true, encoding: 'utf8' })
    .filter((name) => name.endsWith('route.ts'))
    .map((name) => `/api/${name.replace(/\/route\.ts$/, '')}`)
    // They are asked for without anything that could be wrong.
    .filter((door) => !['/api/health', '/api/sounds', '/api/drills', '/api/licks'].includes(door));
  const isTried = (door: string) => {
    const pattern = new RegExp(`^${door.replaceAll(/\[\w+\]/g, '[^/]+')}$`);
    return REFUSED.some(({ path }) => pattern.test(path.replace(/\?.*/, '')));
  };
  expect(doors.filter((door) => !isTried(door))).toEqual([]);
});

test('who sends a request header by header is not waited for longer than its limit', async ({ baseURL }) => {
  const port = Number(new URL(baseURL ?? '').port);
  const seconds = await new Promise<number>((resolve, reject) => {
    const begun = Date.now();
    const socket = connect(port, '127.0.0.1', () => socket.write(`GET / HTTP/1.1\r\nhost: 127.0.0.1:${port}\r\n`));
    const more = setInterval(() => socket.write('x-more: 1\r\n'), 1_000);
    socket.on('close', () => (clearInterval(more), resolve((Date.now() - begun) / 1_000)));
    socket.on('error', (error) => (clearInterval(more), reject(error)));
    socket.resume();
  });
  expect(seconds).toBeGreaterThan(10);
  expect(seconds).toBeLessThan(20);
});
