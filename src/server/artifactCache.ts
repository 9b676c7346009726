import { mkdir, readdir, readFile, rename, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { faultOf } from './fault';
import { log } from './log';

const MEGABYTE = 1_048_576;

/** What `Made` may hold. */
export interface ArtifactLimits {
  readonly memoryBytes: number;
  readonly diskBytes: number;
}

/** The file that says which wishes to forget were followed. */
const FOLLOWED = '.forgotten';

const USUAL: ArtifactLimits = { memoryBytes: 48 * MEGABYTE, diskBytes: 512 * MEGABYTE };

interface Making {
  readonly promise: Promise<Uint8Array | undefined>;
  readonly end: AbortController;
  waiting: number;
}

/**
 * What was made, kept by its content: in memory what was asked for lately, on disk what fits. The same thing asked for
 * by many at once is made once, and goes on as long as one of them waits. Losing any of it costs the time to make it
 * again and nothing else.
 */
export class ArtifactCache {
  private readonly memory = new Map<string, Uint8Array>();
  private inMemory = 0;
  private readonly making = new Map<string, Making>();
  /** Bytes on disk as far as known; counted when the folder is first used. */
  private onDisk: number | undefined;

  /** @param folder where things are kept; none: in memory alone */
  constructor(
    private readonly folder: string | undefined,
    private readonly limits: ArtifactLimits = USUAL,
  ) {}

  /** What is being made now. */
  get underWay(): number {
    return this.making.size;
  }

  /**
   * The bytes of a key, made where they are not kept.
   * @param make is told when nobody waits any more
   * @param signal of the one who asks now; hanging up does not disturb others who wait for the same
   */
  async get(
    key: string,
    make: (signal: AbortSignal) => Promise<Uint8Array | undefined>,
    signal?: AbortSignal,
  ): Promise<Uint8Array | undefined> {
    const known = this.remembered(key);
    if (known) return known;
    const job = this.making.get(key) ?? this.begin(key, make);
    job.waiting += 1;
    const leave = () => {
      job.waiting -= 1;
      if (job.waiting === 0) job.end.abort();
    };
    signal?.addEventListener('abort', leave, { once: true });
    try {
      return await job.promise;
    } finally {
      signal?.removeEventListener('abort', leave);
    }
  }

  /** Forgets everything, in memory and on disk, and notes there which wishes to forget it has followed. */
  async forget(wishes: readonly string[]): Promise<void> {
    this.forgetMemory();
    this.onDisk = undefined;
    if (this.folder === undefined) return;
    await rm(this.folder, { recursive: true, force: true });
    await mkdir(this.folder, { recursive: true, mode: 0o700 });
    await writeFile(join(this.folder, FOLLOWED), wishes.join('\n'), { mode: 0o600 });
  }

  forgetMemory(): void {
    this.memory.clear();
    this.inMemory = 0;
  }

  /** Wishes to forget that what lies on disk has followed. */
  async forgotten(): Promise<readonly string[]> {
    if (this.folder === undefined) return [];
    try {
      return (await readFile(/* turbopackIgnore: true */ join(this.folder, FOLLOWED), 'utf8')).split('\n');
    } catch {
      // None so far.
      return [];
    }
  }

  private begin(key: string, make: (signal: AbortSignal) => Promise<Uint8Array | undefined>): Making {
    const end = new AbortController();
    const promise = this.fromDiskOr(key, () => make(end.signal)).finally(() => {
      if (this.making.get(key) === job) this.making.delete(key);
    });
    const job: Making = { promise, end, waiting: 0 };
    this.making.set(key, job);
    // Once everybody has left, who comes next begins anew rather than joining what is being ended.
    end.signal.addEventListener('abort', () => this.making.delete(key), { once: true });
    return job;
  }

  private async fromDiskOr(key: string, make: () => Promise<Uint8Array | undefined>): Promise<Uint8Array | undefined> {
    const kept = await this.fromDisk(key);
    if (kept) return this.remember(key, kept);
    const bytes = await make();
    if (!bytes) return undefined;
    void this.toDisk(key, bytes);
    return this.remember(key, bytes);
  }

  private remembered(key: string): Uint8Array | undefined {
    const value = this.memory.get(key);
    if (!value) return undefined;
    this.memory.delete(key);
    this.memory.set(key, value);
    return value;
  }

  private remember(key: string, value: Uint8Array): Uint8Array {
    if (value.length > this.limits.memoryBytes / 4) return value;
    if (!this.memory.has(key)) {
      this.memory.set(key, value);
      this.inMemory += value.length;
    }
    for (const [oldest, old] of this.memory) {
      if (this.inMemory <= this.limits.memoryBytes) break;
      this.memory.delete(oldest);
      this.inMemory -= old.length;
    }
    return value;
  }

  private async fromDisk(key: string): Promise<Uint8Array | undefined> {
    if (this.folder === undefined) return undefined;
    const file = join(this.folder, key);
    try {
      const bytes = await readFile(/* turbopackIgnore: true */ file);
      // What is asked for stays longest.
      void utimes(file, new Date(), new Date()).catch(() => undefined);
      return bytes;
    } catch {
      return undefined;
    }
  }

  /**
   * Written under another name first, so that half a file is never taken for a whole one. A full disk costs only the
   * keeping.
   */
  private async toDisk(key: string, value: Uint8Array): Promise<void> {
    if (this.folder === undefined) return;
    const file = join(this.folder, key);
    const writing = `${file}.${process.pid}.writing`;
    try {
      // Parts hold pupils' names: nobody else on the machine may read them.
      await mkdir(this.folder, { recursive: true, mode: 0o700 });
      await writeFile(writing, value, { mode: 0o600 });
      await rename(writing, file);
      this.onDisk = (this.onDisk ?? (await this.counted())) + value.length;
      if (this.onDisk > this.limits.diskBytes) await this.prune(this.folder);
    } catch (error) {
      await rm(writing, { force: true }).catch(() => undefined);
      log.warn(faultOf(error), 'what was made could not be kept on disk');
    }
  }

  private async counted(): Promise<number> {
    return (await this.files()).reduce((sum, { size }) => sum + size, 0);
  }

  private async files() {
    if (this.folder === undefined) return [];
    const folder = this.folder;
    const names = (await readdir(folder)).filter((name) => name !== FOLLOWED);
    const found = await Promise.all(
      names.map(async (name) => {
        try {
          const { size, mtimeMs } = await stat(join(folder, name));
          return [{ name, size, used: mtimeMs }];
        } catch {
          // Another process may have taken it away meanwhile.
          return [];
        }
      }),
    );
    return found.flat();
  }

  /** What was not asked for the longest goes until a fifth is free. */
  private async prune(folder: string): Promise<void> {
    const files = (await this.files()).toSorted((a, b) => a.used - b.used);
    let size = files.reduce((sum, file) => sum + file.size, 0);
    for (const file of files) {
      if (size <= 0.8 * this.limits.diskBytes) break;
      await rm(join(folder, file.name), { force: true });
      size -= file.size;
    }
    this.onDisk = size;
  }
}

const holder = globalThis as typeof globalThis & { reedHookMade?: ArtifactCache };

/** One a process, in the folder that the start command names. */
export function artifactCache(): ArtifactCache {
  return (holder.reedHookMade ??= new ArtifactCache(process.env['REED_CACHE'] || undefined));
}
