import { join } from 'node:path';
import { jobFailureOf, WorkerPool } from './workerPool';

let pool: WorkerPool;
beforeEach(() => {
  pool = new WorkerPool({
    filename: join(process.cwd(), 'tests', 'poolWorker.mjs'),
    threads: 1,
    longestQueue: 2,
    longestWait: 1_000,
    mostMegabytes: 64,
  });
});
afterEach(() => pool.close());

const kindOf = (run: Promise<unknown>) =>
  run.then(
    (value) => value,
    (error: unknown) => jobFailureOf(error) ?? error,
  );

test('a job gives what it made, or throws what it threw', async () => {
  expect(await pool.run('echo', { bars: [1, 2] }, 5_000)).toEqual({ bars: [1, 2] });
  await expect(pool.run('fail', undefined, 5_000)).rejects.toThrow('a job of the test failed');
});

test('a job that never ends is ended at its deadline, and the next one finds a worker', async () => {
  expect(await kindOf(pool.run('spin', undefined, 300))).toBe('too long');
  expect(await pool.run('echo', 'after', 5_000)).toBe('after');
  expect(pool.state.underWay).toBe(0);
});

test('a job that eats memory is ended, and the next one finds a worker', async () => {
  expect(await kindOf(pool.run('eat', undefined, 30_000))).toBe('too long');
  expect(await pool.run('echo', 'after', 5_000)).toBe('after');
});

test('when everybody has hung up, a running job is ended and a waiting one never starts', async () => {
  const [running, waiting] = [new AbortController(), new AbortController()];
  const first = kindOf(pool.run('spin', undefined, 30_000, running.signal));
  const second = kindOf(pool.run('echo', 'never', 30_000, waiting.signal));
  waiting.abort();
  expect(await second).toBe('cancelled');
  running.abort();
  expect(await first).toBe('cancelled');
  expect(await kindOf(pool.run('echo', 'late', 5_000, running.signal))).toBe('cancelled');
  expect([await pool.run('echo', 'after', 5_000), pool.state.underWay]).toEqual(['after', 0]);
});

test('beyond the longest queue a caller is turned away at once', async () => {
  const jobs = Array.from({ length: 6 }, () => kindOf(pool.run('wait', 150, 5_000)));
  const ended = await Promise.all(jobs);
  expect(ended.filter((one) => one === 'busy').length).toBeGreaterThanOrEqual(2);
  expect(ended.filter((one) => one === 150).length).toBeGreaterThanOrEqual(2);
});

test('a job that waits too long for its turn was not begun: its caller may come again, which is not the same as taking too long', async () => {
  const first = kindOf(pool.run('wait', 1_600, 5_000));
  const second = kindOf(pool.run('echo', 'late', 5_000));
  expect([await second, await first, pool.state.underWay]).toEqual(['busy', 1_600, 0]);
});

test('waiting does not count into the time that a job may take, and who came first is first', async () => {
  const order: unknown[] = [];
  const note = (value: unknown) => order.push(value);
  await Promise.all([
    kindOf(pool.run('wait', 400, 700)).then(note),
    kindOf(pool.run('wait', 350, 700)).then(note),
    kindOf(pool.run('echo', 'third', 700)).then(note),
  ]);
  expect(order).toEqual([400, 350, 'third']);
});
