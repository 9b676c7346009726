import { patientFetch } from './patientFetch';

const busy = (isUntouched?: boolean) => () =>
  Response.json({ messages: ['Busy.'], isUntouched }, { status: 503, headers: { 'retry-after': '2' } });
const done = () => Response.json({ ok: true });

/** A server that answers so, one after the other, and then with the last. */
function answering(...answers: readonly (() => Response)[]) {
  let asked = 0;
  globalThis.fetch = () => {
    const answer = answers[Math.min(asked, answers.length - 1)] ?? done;
    asked += 1;
    return Promise.resolve().then(answer);
  };
  return () => asked;
}

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

async function outcome(path: string, init: RequestInit, tries?: number) {
  const asked = patientFetch(path, init, tries).then(({ status }) => status);
  await jest.advanceTimersByTimeAsync(100_000);
  return asked;
}

test.each([
  ['reading', { method: 'GET' }, busy(), 200, 3],
  ['saving on top of a version', { method: 'PUT' }, busy(false), 200, 3],
  ['bringing in, of which nothing was done', { method: 'POST' }, busy(true), 200, 3],
  ['bringing in, of which it is not known', { method: 'POST' }, busy(false), 503, 1],
  ['deleting, of which it is not known', { method: 'DELETE' }, busy(), 503, 1],
])('%s', async (_, init, refusal, status, times) => {
  const asked = answering(refusal, refusal, done);
  expect([await outcome('/x', init), asked()]).toEqual([status, times]);
});

test('it comes again no sooner than it was told to, and gives up after some tries', async () => {
  const asked = answering(busy());
  const waiting = patientFetch('/x');
  await jest.advanceTimersByTimeAsync(1_900);
  expect(asked()).toBe(1);
  await jest.advanceTimersByTimeAsync(2_200);
  expect(asked()).toBe(2);
  await jest.advanceTimersByTimeAsync(100_000);
  expect([(await waiting).status, asked()]).toEqual([503, 8]);
});

test('a server that says nothing of coming again, or a caller with a time of its own, is taken at its word', async () => {
  const plain = answering(() => new Response(null, { status: 503 }));
  expect([await outcome('/x', {}), plain()]).toEqual([503, 1]);
  const once = answering(busy(true));
  expect([await outcome('/x', { method: 'PUT' }, 1), once()]).toEqual([503, 1]);
});
