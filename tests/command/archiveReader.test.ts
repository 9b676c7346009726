import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { buildSync } from 'esbuild';
import { strToU8, zipSync } from 'fflate';
import { STUDIO_FILES, workFile } from '../../src/server/archive/archiveFiles';
import { readArchiveApart } from '../../src/server/archive/archiveReader';
import { jobFailureOf } from '../../src/server/pool/workerPool';
import { smallWork } from '../smallWork';

const MEGABYTE = 1_048_576;
const noSignal = new AbortController().signal;
const ARCHIVE = zipSync({ [STUDIO_FILES.tune('a')]: strToU8(workFile(smallWork('Rope'))) });

const folder = mkdtempSync(join(process.cwd(), '.built-reader-'));
const program = join(folder, 'archive-reader.mjs');
beforeAll(() => {
  // As the build makes it.
  buildSync({
    entryPoints: [join(process.cwd(), 'src', 'server', 'archive', 'readerProcess.ts')],
    outfile: program,
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
  });
});
afterAll(() => rmSync(folder, { recursive: true }));

/** A body that sends what it is given, and ends only where it is told to. */
function body(bytes: Uint8Array, isWhole = true): ReadableStream<Uint8Array> {
  return new ReadableStream({
    start: (controller) => {
      controller.enqueue(bytes);
      if (isWhole) controller.close();
    },
  });
}
const readers = () =>
  spawnSync('pgrep', ['-P', String(process.pid), '-f', 'archive-reader'], { encoding: 'utf8' })
    .stdout.split('\n')
    .filter((line) => line !== '');
async function until(isSo: () => boolean): Promise<void> {
  for (let tries = 0; tries < 200 && !isSo(); tries += 1) await new Promise((done) => setTimeout(done, 25));
}

test('an archive is read in a process whose memory the system limits, and nothing of that process is left', async () => {
  const waiting = readArchiveApart(body(ARCHIVE, false), noSignal, { program, patience: 1_500 });
  await until(() => readers().length > 0);
  const [pid] = readers();
  const limit = /Max address space\s+(\d+)/.exec(readFileSync(`/proc/${pid}/limits`, 'utf8'))?.[1];
  expect(Number(limit)).toBe(1_536 * MEGABYTE);
  expect(await waiting).toEqual({ ok: false, problem: { kind: 'broken off' } });
  await until(() => readers().length === 0);
  expect(readers()).toEqual([]);
});

test('what it holds comes back whole; a file that unpacks to sixty megabytes costs this process nothing', async () => {
  const bomb = zipSync({
    [STUDIO_FILES.groups]: new Uint8Array(60 * MEGABYTE).fill(0x5b),
    [STUDIO_FILES.tune('a')]: strToU8(workFile(smallWork('Rope'))),
  });
  const before = process.memoryUsage().rss;
  const read = await readArchiveApart(body(bomb), noSignal, { program });
  expect(process.memoryUsage().rss - before).toBeLessThan(30 * MEGABYTE);
  expect(read.ok && [read.value.works.map(({ columns }) => columns.title), read.value.problems]).toEqual([
    ['Rope'],
    ['groups.json: it holds more than 8 MB'],
  ]);
});

test('a third at once comes again; one who hangs up frees the place', async () => {
  const leaving = new AbortController();
  const [first, second] = [
    readArchiveApart(body(ARCHIVE, false), leaving.signal, { program }).catch(jobFailureOf),
    readArchiveApart(body(ARCHIVE, false), noSignal, { program, patience: 3_000 }),
  ];
  expect(await readArchiveApart(body(ARCHIVE), noSignal, { program }).catch(jobFailureOf)).toBe('busy');
  await until(() => readers().length === 2);
  leaving.abort();
  expect(await first).toBe('cancelled');
  const third = await readArchiveApart(body(ARCHIVE), noSignal, { program });
  expect([third.ok, (await second).ok]).toEqual([true, false]);
});

test('more bytes than an archive may have are not read to their end', async () => {
  let sent = 0;
  const endless = new ReadableStream<Uint8Array>({
    pull: (controller) => {
      sent += 8 * MEGABYTE;
      controller.enqueue(new Uint8Array(8 * MEGABYTE));
    },
  });
  expect(await readArchiveApart(endless, noSignal, { program })).toEqual({ ok: false, problem: { kind: 'too large' } });
  expect(sent).toBeLessThan(100 * MEGABYTE);
});
