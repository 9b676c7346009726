import { databaseTrouble } from './database';
import { log } from './log';
import { answer, limitedBody, limitedJson } from './http';

const request = (body: BodyInit, headers: HeadersInit = {}) =>
  new Request('http://127.0.0.1/', { method: 'POST', body, headers });
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

test('broken JSON is a 400 that says where', async () => {
  const read = await limitedJson(request('{"a":'), 100);
  expect(read.ok ? [] : await messages(read.problem)).toEqual([
    400,
    [expect.stringMatching(/^The request is no JSON: /)],
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
    [refusing, full].map(async (error) => (await answer(() => Promise.reject(error))).status),
  );
  expect(statuses).toEqual([422, 507]);
  expect((await messages(await answer(() => Promise.reject(gone))))[0]).toBe(503);
  const silent = jest.spyOn(log, 'error').mockImplementation(() => undefined);
  const [status, [message]] = (await messages(
    await answer(() => Promise.reject(new Error('SELECT secret FROM x'))),
  )) as [number, string[]];
  expect([status, message?.includes('secret'), silent.mock.calls.length]).toEqual([500, false, 1]);
  silent.mockRestore();
});
