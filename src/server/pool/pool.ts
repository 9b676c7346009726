import { existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import type { JobArgs, JobName, JobResult } from './jobs';
import { hasAccounts, studioAsked } from '../accounts/asking';
import { isBusy, JobError, WorkerPool, type PoolSettings } from './workerPool';

/**
 * Everything that takes longer than a blink is done on these threads, so that the thread that answers is never held up.
 */
type Lane = 'saving' | 'reading' | 'making';

const MAX_MAKING_THREADS = 8;

/**
 * Threads of their own for what must not wait for others: a save comes before files that are brought in, both before
 * what is made. A number of threads or megabytes, milliseconds, niceness.
 */
/** How many web processes run beside this one and with it. */
function webProcesses(): number {
  return Math.max(1, Number(process.env['REED_WEB'] || 1));
}

const LANES: Readonly<Record<Lane, () => Omit<PoolSettings, 'filename'>>> = {
  saving: () => ({ threads: 2, longestQueue: 256, longestWait: 8_000, mostMegabytes: 512 }),
  reading: () => ({ threads: 1, niceness: 10, longestQueue: 64, longestWait: 20_000, mostMegabytes: 512 }),
  making: () => ({
    // The processes of one machine share its cores.
    threads: Math.max(1, Math.min(MAX_MAKING_THREADS, Math.floor(availableParallelism() / webProcesses()))),
    niceness: 19,
    longestQueue: 128,
    longestWait: 20_000,
    mostMegabytes: 768,
  }),
};

/**
 * Where a job is done, and the longest that it may take once begun, in milliseconds. A tune page waits for its picture,
 * a browser for its file.
 */
const JOBS: Readonly<Record<JobName, readonly [Lane, number]>> = {
  checkSave: ['saving', 10_000],
  checkNewWork: ['saving', 10_000],
  checkStored: ['saving', 10_000],
  readUpload: ['reading', 15_000],
  firstPaint: ['making', 20_000],
  byEar: ['making', 20_000],
  historyPicture: ['making', 15_000],
  tuneFile: ['making', 60_000],
  playerSheet: ['making', 30_000],
  groupFile: ['making', 60_000],
  togetherFile: ['making', 60_000],
  drillBook: ['making', 60_000],
  packPdf: ['making', 60_000],
  packsPdf: ['making', 60_000],
  playerSound: ['making', 60_000],
  groupSet: ['making', 20_000],
  groupSheet: ['making', 20_000],
  workSource: ['making', 15_000],
  practiceSheet: ['making', 60_000],
  chart: ['making', 10_000],
  zip: ['making', 20_000],
};

/**
 * One pool a lane and process; on the global object, since the development server loads modules anew on every change.
 */
const holder = globalThis as typeof globalThis & { reedHookWorkers?: Partial<Record<Lane, WorkerPool>> };

function workers(lane: Lane): WorkerPool {
  const pools = (holder.reedHookWorkers ??= {});
  return (pools[lane] ??= new WorkerPool({
    ...LANES[lane](),
    filename: workerFile(lane === 'making' ? 'making' : 'checking'),
  }));
}

/**
 * The build's one file; without a build (development, tests) the sources through a loader, which takes seconds to
 * start.
 */
function workerFile(kind: 'making' | 'checking'): string {
  const inProject = (...parts: readonly string[]) => join(/* turbopackIgnore: true */ process.cwd(), ...parts);
  const built = inProject('.next', `${kind}-worker.mjs`);
  return process.env.NODE_ENV === 'production' && existsSync(built)
    ? built
    : inProject('src', 'server', 'pool', `${kind}Worker.mjs`);
}

/** Starts the threads, so that who comes first need not wait for them. */
export function warmWorkers(): void {
  for (const lane of ['saving', 'reading', 'making'] as const) workers(lane);
}

/** What the workers of all lanes have to do now. */
export function poolState(): WorkerPool['state'] {
  return Object.values(holder.reedHookWorkers ?? {}).reduce(
    (sum, { state }) => ({
      waiting: sum.waiting + state.waiting,
      threads: sum.threads + state.threads,
      underWay: sum.underWay + state.underWay,
    }),
    { waiting: 0, threads: 0, underWay: 0 },
  );
}

/**
 * Runs a job on a worker.
 * @param signal aborted when nobody waits any more
 * @throws JobError, or what the job itself throws
 */
export async function runOnPool<Name extends JobName>(
  job: Name,
  args: JobArgs<Name>,
  signal?: AbortSignal,
): Promise<JobResult<Name>> {
  const [lane, milliseconds] = JOBS[job];
  const run = async () => (await workers(lane).run(job, args, milliseconds, signal)) as JobResult<Name>;
  return lane === 'making' && hasAccounts() ? inTurn(job, run) : run();
}

/** So many things may be made at once for one studio, waiting or under way: the rest of the queue is for the others. */
export const MOST_FOR_STUDIO = 32;
const forStudio = new Map<string, number>();

async function inTurn<Value>(job: string, run: () => Promise<Value>): Promise<Value> {
  const studio = studioAsked();
  if (studio === undefined) return run();
  const before = forStudio.get(studio) ?? 0;
  if (before >= MOST_FOR_STUDIO) throw new JobError(job, 'studio busy');
  forStudio.set(studio, before + 1);
  try {
    return await run();
  } finally {
    const now = (forStudio.get(studio) ?? 1) - 1;
    if (now > 0) forStudio.set(studio, now);
    else forStudio.delete(studio);
  }
}

/** Between two tries of a job that found the lane full. Milliseconds. */
const PATIENCE = 1_000;

/**
 * For work that should rather come late than fail, like an archive of hundreds of files: where the lane is full it
 * comes again.
 * @param work throws a JobError once its signal is aborted, which ends the trying
 * @param tries how often at the most, where somebody waits in front of a screen
 */
export async function patiently<Value>(work: () => Promise<Value>, tries = Infinity): Promise<Value> {
  for (let round = 1; ; round += 1) {
    try {
      return await work();
    } catch (error) {
      if (!isBusy(error) || round >= tries) throw error;
      await setTimeout(PATIENCE);
    }
  }
}

/** Runs a job on a worker, as often as its lane is found full. */
export function runPatiently<Name extends JobName>(
  job: Name,
  args: JobArgs<Name>,
  signal: AbortSignal,
): Promise<JobResult<Name>> {
  return patiently(() => runOnPool(job, args, signal));
}

/** Ends the workers, for a script that is to end. */
export async function closeWorkers(): Promise<void> {
  const pools = Object.values(holder.reedHookWorkers ?? {});
  delete holder.reedHookWorkers;
  await Promise.all(pools.map((pool) => pool.close()));
}
