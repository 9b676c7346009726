import { Piscina } from 'piscina';
import { log } from '../log';
import { faultOf } from '../fault';

/**
 * Why a job came to nothing by no fault of its own: nothing was done of it because others were before it, or too many of
 * the same studio; it took
 * longer than it may, or more memory, and its worker was ended; everybody who asked has hung up.
 */
const JOB_TROUBLES = ['busy', 'studio busy', 'too long', 'cancelled'] as const;
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
export function jobFailureOf(error: unknown): JobTrouble | undefined {
  const trouble = typeof error === 'object' && error !== null && 'jobTrouble' in error ? error.jobTrouble : undefined;
  return JOB_TROUBLES.find((known) => known === trouble);
}

/** Whether a job was not begun because others are before it: it may come again. */
export function isBusy(error: unknown): boolean {
  const trouble = jobFailureOf(error);
  return trouble === 'busy' || trouble === 'studio busy';
}

export interface PoolSettings {
  /** A module whose default export takes `{ job, args }`. */
  readonly filename: string;
  /** For the module: how far its threads give way to others, from 0 (not at all) to 19. */
  readonly niceness?: number;
  readonly threads: number;
  /** Jobs that may wait; beyond that a caller is told to come again. */
  readonly longestQueue: number;
  /** How long a job may wait until it begins; then its caller is told to come again. Milliseconds. */
  readonly longestWait: number;
  /** A worker that needs more is ended like one that takes too long. */
  readonly mostMegabytes: number;
}

/**
 * After everybody who asked has hung up, a job may still end by itself for so long; then its worker is ended.
 * Milliseconds.
 */
const GRACE = 150;
const SLOW_MILLISECONDS = 3_000;

/**
 * Threads that work off the thread that answers: a bounded queue, a deadline for each job, and an end when nobody
 * waits.
 */
export class WorkerPool {
  private readonly piscina: Piscina;
  /** Jobs that have a thread. */
  private running = 0;
  /** What starts each waiting job, the longest waiting first. */
  private readonly waiting = new Set<() => void>();

  constructor(private readonly settings: PoolSettings) {
    this.piscina = new Piscina({
      filename: settings.filename,
      minThreads: settings.threads,
      maxThreads: settings.threads,
      concurrentTasksPerWorker: 1,
      workerData: { niceness: settings.niceness ?? 0 },
      resourceLimits: { maxOldGenerationSizeMb: settings.mostMegabytes },
    });
    // A worker that could not start is replaced by the pool; who waits for its job is told by the job's promise.
    this.piscina.on('error', (error: unknown) => log.error(faultOf(error), 'a worker ended'));
  }

  /** Jobs that wait, and jobs that wait or run. */
  get state(): { readonly waiting: number; readonly threads: number; readonly underWay: number } {
    return {
      waiting: this.waiting.size,
      threads: this.piscina.threads.length,
      underWay: this.waiting.size + this.running,
    };
  }

  /**
   * Runs a job.
   * @param milliseconds the longest that it may take once it has begun
   * @param signal aborted when nobody waits any more: a waiting job is dropped, a running one ended
   * @throws JobError, or what the job itself throws
   */
  async run(job: string, args: unknown, milliseconds: number, signal?: AbortSignal): Promise<unknown> {
    await this.turnOf(job, signal);
    const end = new AbortController();
    const started = performance.now();
    const deadline = setTimeout(() => end.abort('deadline'), milliseconds);
    let grace: ReturnType<typeof setTimeout> | undefined;
    const hangUp = () => {
      grace = setTimeout(() => end.abort('hang-up'), GRACE);
    };
    signal?.addEventListener('abort', hangUp, { once: true });
    try {
      return await this.piscina.run({ job, args }, { signal: end.signal });
    } catch (error) {
      throw toJobError(error, job, end.signal);
    } finally {
      this.giveTurn();
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

  /** Waits until a thread is free. @throws JobError when that takes too long, or nobody waits any more */
  private async turnOf(job: string, signal: AbortSignal | undefined): Promise<void> {
    if (signal?.aborted) throw new JobError(job, 'cancelled');
    if (this.running < this.settings.threads) {
      this.running += 1;
      return;
    }
    if (this.waiting.size >= this.settings.longestQueue) throw new JobError(job, 'busy');
    await new Promise<void>((resolve, reject) => {
      const leave = (trouble?: JobTrouble) => {
        clearTimeout(patience);
        signal?.removeEventListener('abort', hangUp);
        this.waiting.delete(start);
        if (trouble) reject(new JobError(job, trouble));
        else resolve();
      };
      const start = () => leave();
      const hangUp = () => leave('cancelled');
      const patience = setTimeout(() => leave('busy'), this.settings.longestWait);
      signal?.addEventListener('abort', hangUp, { once: true });
      this.waiting.add(start);
    });
  }

  /** Hands the thread of a job that has ended to the next. */
  private giveTurn(): void {
    const [next] = this.waiting;
    if (next) next();
    else this.running -= 1;
  }
}

function toJobError(error: unknown, job: string, end: AbortSignal): unknown {
  if (end.aborted) {
    log.warn({ job, why: String(end.reason) }, 'a job was ended');
    return new JobError(job, end.reason === 'hang-up' ? 'cancelled' : 'too long');
  }
  // The pool's errors come from another thread; what they are is told by their words.
  const message = typeof error === 'object' && error !== null && 'message' in error ? String(error.message) : '';
  return /memory limit|out of memory/i.test(message) ? new JobError(job, 'too long') : error;
}
