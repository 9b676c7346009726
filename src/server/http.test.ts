import { databaseTrouble } from '../db/trouble';
import { log } from './log';
import { handle, limitedJson, withBody } from './http';
import { jobFailureOf } from './pool/workerPool';
import { ensureRoom } from './quota';

const request = (body: BodyInit, headers: HeadersInit = {}) =>
  new Request('http://127.0.0.1/', { method: 'POST', body, headers });
const limitedBody = (sent: Request, most: number) => withBody(sent, most, 'saves', (bytes) => bytes);
const messages = async (response: Response) => [
  response.status,
  ((await response.json()) as { messages: string[] }).messages,
];

test('a body is read up to its limit and not beyond, whatever its headers claim', async () => {
  expect((await limitedBody(request('12345'), 5))?.length).toBe(5);
  expect(await limitedBody(request('123456'), 5)).toBeUndefined();
  expect(await limitedBody(request('1', { 'content-length': '999' }), 5)).toBeUndefined();
  let pulled = 0;
  const endless = new ReadableStream({
    pull: (controller) => {
      pulled += 1;
      controller.enqueue(new Uint8Array(1000));
    },
  });
  expect(
    await limitedBody(
      new Request('http://127.0.0.1/', { method: 'POST', body: endless, duplex: 'half' } as RequestInit),
      5000,
    ),
  ).toBeUndefined();
  expect(pulled).toBeLessThan(12);
});

test('bodies that come in at once are bounded together, until what was made of them is done; a save still finds room', async () => {
  const MEGABYTE = 1_048_576;
  const big = () => request(new Uint8Array(16 * MEGABYTE));
  let finish: () => void = () => undefined;
  const used = new Promise<void>((done) => (finish = done));
  const held = Array.from({ length: 4 }, () => withBody(big(), 16 * MEGABYTE, 'files', () => used.then(() => 'done')));
  await new Promise((done) => setTimeout(done, 100));
  const refused = await withBody(big(), 16 * MEGABYTE, 'files', () => 'done').catch(jobFailureOf);
  const save = await withBody(big(), 16 * MEGABYTE, 'saves', () => 'saved');
  finish();
  expect([refused, save, await Promise.all(held)]).toEqual(['busy', 'saved', ['done', 'done', 'done', 'done']]);
  expect(await withBody(big(), 16 * MEGABYTE, 'files', () => 'room again')).toBe('room again');
});

test('who finds the server busy is told when to come again, and that nothing was done; a quota says what it is', async () => {
  const busy = await handle(() => Promise.reject(Object.assign(new Error('x'), { jobTrouble: 'busy' })));
  expect([busy.status, busy.headers.get('retry-after'), await busy.json()]).toEqual([
    503,
    '2',
    { messages: ['The server is busy.'], isUntouched: true },
  ]);
  const gone = await handle(() => Promise.reject(Object.assign(new Error('x'), { code: 'ECONNRESET' })));
  expect([gone.status, gone.headers.get('retry-after'), await gone.json()]).toMatchObject([
    503,
    '2',
    { isUntouched: false },
  ]);
  const reached = await handle(() => Promise.resolve().then(() => (ensureRoom('groups', 1_000), new Response())));
  expect(await messages(reached)).toEqual([
    422,
    ['A studio can have 1,000 groups; yours has that many. Remove some, then try again.'],
  ]);
});

test('what a database refused is told in the log by its code and table, without a word of what was sent', async () => {
  const logged = jest.spyOn(log, 'error').mockImplementation(() => undefined);
  const sql = "insert into `tunes` (`title`) values ('Pell's secret song')";
  const error = Object.assign(new Error(`${sql} - Out of range value for column 'version' at row 1`), {
    code: 'ER_WARN_DATA_OUT_OF_RANGE',
    sqlState: '22003',
    sql,
  });
  await handle(() => Promise.reject(error));
  await handle(() => Promise.reject(new SyntaxError('Unexpected token \'x\', "xPell, 7b" is not valid JSON')));
  const said = JSON.stringify(logged.mock.calls);
  expect(said).not.toMatch(/Pell|secret/);
  expect(logged.mock.calls[0]?.[0]).toMatchObject({
    error: 'a database error',
    code: 'ER_WARN_DATA_OUT_OF_RANGE',
    table: 'tunes',
    at: expect.stringContaining('http.test') as string,
  });
  logged.mockRestore();
});

test('broken JSON is a 400 that says where', async () => {
  const read = await limitedJson(request('{"a":'), 100);
  expect(read.ok ? [] : await messages(read.problem)).toEqual([
    400,
    [expect.stringMatching(/^The request is not JSON: /)],
  ]);
  expect(await limitedJson(request('{"a":1}'), 100)).toEqual({ ok: true, value: { a: 1 } });
});

test('a database that is away is told apart from a fault of ours', async () => {
  const gone = Object.assign(new Error('connect ECONNREFUSED'), { code: 'ECONNREFUSED' });
  const refusing = Object.assign(new Error('bad'), { code: 'ER_DATA_TOO_LONG', sqlState: '22001' });
  const full = Object.assign(new Error('Errcode: 28 "No space left on device"'), { code: 'ER_ERROR_ON_WRITE' });
  expect([gone, refusing, full, new Error('ours'), 'x'].map(databaseTrouble)).toEqual([
    'gone',
    'refused',
    'full',
    undefined,
    undefined,
  ]);
  const statuses = await Promise.all(
    [refusing, full].map(async (error) => (await handle(() => Promise.reject(error))).status),
  );
  expect(statuses).toEqual([422, 507]);
  expect((await messages(await handle(() => Promise.reject(gone))))[0]).toBe(503);
  const silent = jest.spyOn(log, 'error').mockImplementation(() => undefined);
  const [status, [message]] = (await messages(
    await handle(() => Promise.reject(new Error('SELECT secret FROM x'))),
  )) as [number, string[]];
  expect([status, message?.includes('secret'), silent.mock.calls.length]).toEqual([500, false, 1]);
  silent.mockRestore();
});
