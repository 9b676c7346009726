import { mkdtemp, readdir, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ArtifactCache } from './artifactCache';

const bytes = (size: number, value = 1) => new Uint8Array(size).fill(value);
const LIMITS = { memoryBytes: 1_000, diskBytes: 2_000 };

let folder: string;
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'made-'));
});
afterEach(() => rm(folder, { recursive: true, force: true, maxRetries: 5, retryDelay: 50 }));

/** Something that is made when it is told to be, and counts how often. */
function slowly(value: Uint8Array) {
  let finish: () => void = () => undefined;
  const state = { made: 0, ended: 0 };
  const make = (signal: AbortSignal) =>
    new Promise<Uint8Array>((resolve, reject) => {
      state.made += 1;
      finish = () => resolve(value);
      signal.addEventListener('abort', () => {
        state.ended += 1;
        reject(new Error('ended'));
      });
    });
  return { make, state, finish: () => finish() };
}
const soon = () => new Promise((done) => setTimeout(done, 20));
/** What is kept on disk is written after it was given. */
async function filesOnDisk(most = 50): Promise<readonly string[]> {
  for (let tries = 0; tries < most; tries += 1) {
    const names = await readdir(folder);
    if (names.length > 0 && !names.some((name) => name.endsWith('.writing'))) return names;
    await soon();
  }
  return [];
}

test('what two hundred ask for at once is made once, and again never', async () => {
  const made = new ArtifactCache(folder, LIMITS);
  const { make, state, finish } = slowly(bytes(10));
  const asked = Array.from({ length: 200 }, () => made.get('a', make));
  // The disk is asked first, and that may take its time.
  while (state.made === 0) await soon();
  finish();
  expect(new Set(await Promise.all(asked)).size).toBe(1);
  await made.get('a', make);
  expect([state.made, made.underWay]).toEqual([1, 0]);
});

test('one who hangs up does not disturb another; when the last one does, the making ends', async () => {
  const made = new ArtifactCache(undefined, LIMITS);
  const { make, state, finish } = slowly(bytes(10));
  const [one, other] = [new AbortController(), new AbortController()];
  const first = made.get('a', make, one.signal);
  const second = made.get('a', make, other.signal);
  await soon();
  one.abort();
  expect(state.ended).toBe(0);
  finish();
  expect([(await first)?.length, (await second)?.length]).toEqual([10, 10]);
  const again = slowly(bytes(10));
  const alone = new AbortController();
  const third = made.get('b', again.make, alone.signal);
  await soon();
  alone.abort();
  await expect(third).rejects.toThrow('ended');
  // Whoever comes next begins anew.
  const last = slowly(bytes(7));
  const fourth = made.get('b', last.make);
  await soon();
  last.finish();
  expect([again.state.ended, (await fourth)?.length]).toEqual([1, 7]);
});

test('what is kept on disk is for its owner alone: parts hold names', async () => {
  const place = join(folder, 'cache');
  await new ArtifactCache(place, LIMITS).get('key', () => Promise.resolve(bytes(10)));
  for (let tries = 0; tries < 50 && !(await readdir(place).catch((): string[] => [])).includes('key'); tries += 1)
    await soon();
  const modes = await Promise.all([place, join(place, 'key')].map(async (path) => (await stat(path)).mode & 0o777));
  expect(modes).toEqual([0o700, 0o600]);
});

test('another process finds on disk what this one made; a file that is half written is none', async () => {
  const make = () => Promise.resolve(bytes(300, 7));
  await new ArtifactCache(folder, LIMITS).get('key', make);
  expect(await filesOnDisk()).toEqual(['key']);
  await writeFile(join(folder, 'other.1.writing'), bytes(3));
  const next = new ArtifactCache(folder, LIMITS);
  const never = () => Promise.reject(new Error('it was there'));
  expect(await next.get('key', never)).toEqual(Buffer.from(bytes(300, 7)));
  await expect(next.get('other', never)).rejects.toThrow('it was there');
});

test('memory and disk stay within their limits, and the last ones are kept', async () => {
  const made = new ArtifactCache(folder, LIMITS);
  for (let k = 0; k < 20; k += 1) {
    await made.get(`key-${k}`, () => Promise.resolve(bytes(240, k)));
    await soon();
  }
  // What is written and taken off the disk may come late on a busy machine; it comes.
  let names = await filesOnDisk();
  for (let tries = 0; tries < 200 && (names.length > 8 || !names.includes('key-19')); tries += 1) {
    await soon();
    names = await filesOnDisk();
  }
  expect(names.length).toBeLessThanOrEqual(8);
  expect(names).toContain('key-19');
  let again = 0;
  const count = () => Promise.resolve(bytes(240, (again += 1)));
  await made.get('key-19', count);
  await made.get('key-16', count);
  expect(again).toBe(0);
});

test('a failure is not kept', async () => {
  const made = new ArtifactCache(folder, LIMITS);
  await expect(made.get('a', () => Promise.reject(new Error('not now')))).rejects.toThrow('not now');
  expect((await made.get('a', () => Promise.resolve(bytes(5))))?.length).toBe(5);
});

test('a folder that cannot be written costs the keeping alone', async () => {
  await writeFile(join(folder, 'file'), 'x');
  const made = new ArtifactCache(join(folder, 'file', 'in it'), LIMITS);
  expect((await made.get('a', () => Promise.resolve(bytes(5))))?.length).toBe(5);
});
