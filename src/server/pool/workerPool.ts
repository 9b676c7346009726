import { Piscina } from 'piscina';
import { log } from '../log';

/**
 * Why a job came to nothing by no fault of its own: the queue is full; it took longer than it may, or more memory, and its worker
 * was ended; everybody who asked has hung up.
 */
export const JOB_TROUBLES = ['busy', 'too long', 'cancelled'] as const;
export type JobTrouble = (typeof JOB_TROUBLES)[number];

/** Told by its field, not its class: a bundler may put the same class into two files, and then it is two. */
export class JobError extends Error {
  constructor(
    job: string,
    readonly jobTrouble: JobTrouble,
  ) {
    super(`${job}: ${jobTrouble}`);
  }
}

/** Why a job came to nothing; `undefined` for any other error. */
export function jobTroubleOf(error: unknown): JobTrouble | undefined {
  const trouble = typeof error === 'object' && error !== null && 'jobTrouble' in error ? error.jobTrouble : undefined;
  return JOB_TROUBLES.find((known) => known === trouble);
}

export interface PoolSettings {
  /** A module whose default export takes `{ job, args }`. */
  readonly filename: string;
  readonly threads: number;
  /** Jobs that may wait; beyond that a caller is told to come again. */
  readonly longestQueue: number;
  /** A worker that needs more is ended like one that takes too long. */
  readonly mostMegabytes: number;
}

/** After everybody who asked has hung up, a job may still end by itself for so long; then its worker is ended. Milliseconds. */
const GRACE = 150;
const SLOW_MILLISECONDS = 3_000;

/** Threads that work off the thread that answers: a bounded queue, a deadline for each job, and an end when nobody waits. */
export class WorkerPool {
  private readonly piscina: Piscina;
  private underWay = 0;

  constructor(private readonly settings: PoolSettings) {
    this.piscina = new Piscina({
      filename: settings.filename,
      minThreads: settings.threads,
      maxThreads: settings.threads,
      maxQueue: settings.longestQueue,
      concurrentTasksPerWorker: 1,
      resourceLimits: { maxOldGenerationSizeMb: settings.mostMegabytes },
    });
    // A worker that could not start is replaced by the pool; who waits for its job is told by the job's promise.
    this.piscina.on('error', (error: unknown) => log.error({ error: String(error) }, 'a worker ended'));
  }

  /** Jobs that wait, and jobs that wait or run. */
  get state(): { readonly waiting: number; readonly threads: number; readonly underWay: number } {
    return { waiting: this.piscina.queueSize, threads: this.piscina.threads.length, underWay: this.underWay };
  }

  /**
   * Runs a job.
   * @param milliseconds the longest that it may take, waiting included: who has waited that long is better told so than kept
   * @param signal aborted when nobody waits any more: a waiting job is dropped, a running one ended
   * @throws JobError, or what the job itself throws
   */
  async run(job: string, args: unknown, milliseconds: number, signal?: AbortSignal): Promise<unknown> {
    if (signal?.aborted) throw new JobError(job, 'cancelled');
    if (this.piscina.queueSize >= this.settings.longestQueue) throw new JobError(job, 'busy');
    const end = new AbortController();
    const started = performance.now();
    const deadline = setTimeout(() => end.abort('deadline'), milliseconds);
    let grace: ReturnType<typeof setTimeout> | undefined;
    const hangUp = () => {
      grace = setTimeout(() => end.abort('hang-up'), GRACE);
    };
    signal?.addEventListener('abort', hangUp, { once: true });
    this.underWay += 1;
    try {
      return await this.piscina.run({ job, args }, { signal: end.signal });
    } catch (error) {
      throw this.told(error, job, end.signal);
    } finally {
      this.underWay -= 1;
      clearTimeout(deadline);
      clearTimeout(grace);
      signal?.removeEventListener('abort', hangUp);
      const took = Math.round(performance.now() - started);
      if (took > SLOW_MILLISECONDS) log.warn({ job, milliseconds: took }, 'a slow job');
    }
  }

  /** Ends the threads. */
  close(): Promise<void> {
    return this.piscina.destroy();
  }

  private told(error: unknown, job: string, end: AbortSignal): unknown {
    if (end.aborted) {
      log.warn({ job, why: String(end.reason) }, 'a job was ended');
      return new JobError(job, end.reason === 'hang-up' ? 'cancelled' : 'too long');
    }
    // The pool's errors come from another thread; what they are is told by their words.
    const message = typeof error === 'object' && error !== null && 'message' in error ? String(error.message) : '';
    if (/queue is at limit/.test(message)) return new JobError(job, 'busy');
    return /memory limit|out of memory/i.test(message) ? new JobError(job, 'too long') : error;
  }
}
