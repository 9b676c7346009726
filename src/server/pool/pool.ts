import { existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import type { JobArgs, JobName, JobResult } from './jobs';
import { WorkerPool } from './workerPool';

/** Everything that takes longer than a blink is done here, so that the thread that answers is never held up. */
const MOST_WORKERS = 8;
const LONGEST_QUEUE = 128;
const MOST_MEGABYTES = 768;

/** The longest that a job may take, in milliseconds. A tune page waits for its picture, a browser for its file. */
const DEADLINES: Readonly<Record<JobName, number>> = {
  readUpload: 15_000,
  checkSave: 10_000,
  checkNewWork: 10_000,
  checkStored: 10_000,
  firstPaint: 20_000,
  byEar: 20_000,
  historyPicture: 15_000,
  tuneFile: 60_000,
  playerFile: 30_000,
  groupFile: 60_000,
  drillBook: 60_000,
  playerPools: 30_000,
  playerSound: 60_000,
  groupSet: 20_000,
  groupSheet: 20_000,
  chart: 10_000,
  zip: 20_000,
  readArchive: 60_000,
};

/** One pool a process; on the global object, since the development server loads modules anew on every change. */
const holder = globalThis as typeof globalThis & { reedHookWorkers?: WorkerPool };

function workers(): WorkerPool {
  return (holder.reedHookWorkers ??= new WorkerPool({
    filename: workerFile(),
    threads: Math.max(1, Math.min(MOST_WORKERS, availableParallelism())),
    longestQueue: LONGEST_QUEUE,
    mostMegabytes: MOST_MEGABYTES,
  }));
}

/** The build's one file; without a build (development, tests) the sources through a loader, which takes seconds to start. */
function workerFile(): string {
  const inProject = (...parts: readonly string[]) => join(/* turbopackIgnore: true */ process.cwd(), ...parts);
  const built = inProject('.next', 'pool-worker.mjs');
  return process.env.NODE_ENV === 'production' && existsSync(built)
    ? built
    : inProject('src', 'server', 'pool', 'worker.mjs');
}

/** Starts the threads, so that who comes first need not wait for them. */
export function warmWorkers(): void {
  workers();
}

/** What the workers have to do now. */
export function poolState(): WorkerPool['state'] {
  return workers().state;
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
  return (await workers().run(job, args, DEADLINES[job], signal)) as JobResult<Name>;
}

/** Ends the workers, for a script that is to end. */
export async function closeWorkers(): Promise<void> {
  const pool = holder.reedHookWorkers;
  delete holder.reedHookWorkers;
  await pool?.close();
}
