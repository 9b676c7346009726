import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import type { CustomInstrument } from '../../core/instruments';
import type { PupilFile } from '../../core/formats';
import type { Group } from '../../core/keys';
import type { SavedRecipe } from '../../core/work';
import { failure, success, type Result } from '../../core/result';
import type { WorkDocuments } from '../../db/tuneRepository';
import { log } from '../log';
import { JobError } from '../pool/workerPool';
import { ARCHIVE_LIMITS, MAX_ARCHIVE_BYTES } from './archiveFiles';
import type { ArchiveItem } from './readArchive';

/** What was read of an archive; what could not be read of it is told with its file. */
export interface Archive {
  readonly works: readonly WorkDocuments[];
  readonly groups: readonly Group[];
  readonly pupils: readonly PupilFile[];
  readonly recipes: readonly SavedRecipe[];
  readonly instruments: readonly CustomInstrument[];
  readonly problems: readonly string[];
}

export type ArchiveRefusal =
  /** More bytes than an archive may have. */
  | { readonly kind: 'too large' }
  /** The sender stopped sending. */
  | { readonly kind: 'broken off' }
  | { readonly kind: 'refused'; readonly messages: readonly string[] };

/**
 * What the reading process may take of the machine, in kilobytes of address space. Node itself needs 700 MB of it, and
 * little memory; with the loader that reads TypeScript several times that.
 */
const MAX_ADDRESS_SPACE = { built: 1_572_864, sources: 8_388_608 } as const;
const MAX_HEAP_MEGABYTES = 384;
/** How long a sender may be silent, and how long reading may take once everything is there. Milliseconds. */
const MAX_SILENCE = 15_000;
const MAX_READING = 60_000;
/** Archives that are read at once; who comes next is told to come again. */
const MAX_AT_ONCE = 2;
const MAX_PROBLEMS = 20;

let reading = 0;

/** How an archive is read, where it is not as usual. */
interface Reading {
  /** How long the sender may be silent, in milliseconds. */
  readonly patience?: number;
  /** The reading process as one file; by default that of the build. */
  readonly program?: string | undefined;
}

/**
 * Reads an archive in a process whose memory the system limits. It goes there as it arrives and is never held here.
 * @param body the archive as it comes in
 * @throws JobError `busy` where others are being read, `too long`, or `cancelled` when the sender has hung up
 */
export async function readArchiveApart(
  body: ReadableStream<Uint8Array>,
  signal: AbortSignal,
  { patience = MAX_SILENCE, program = builtReader() }: Reading = {},
): Promise<Result<Archive, ArchiveRefusal>> {
  if (reading >= MAX_AT_ONCE) throw new JobError('readArchive', 'busy');
  reading += 1;
  const reader = startReader(program);
  const end = () => reader.kill('SIGKILL');
  signal.addEventListener('abort', end, { once: true });
  try {
    // A process that could not be started is noticed by what it does not say.
    const exit = once(reader, 'exit').catch(() => undefined);
    const items = itemsOf(reader.stdout);
    const sent = await sendTo(reader.stdin, body, signal, patience);
    if (signal.aborted) throw new JobError('readArchive', 'cancelled');
    if (sent !== undefined) return failure({ kind: sent });
    const deadline = setTimeout(end, MAX_READING);
    const found = await items.finally(() => clearTimeout(deadline));
    await exit;
    if (signal.aborted) throw new JobError('readArchive', 'cancelled');
    if (found) return found;
    log.warn({ code: reader.exitCode, signal: reader.signalCode }, 'the reader of an archive was ended');
    return failure({
      kind: 'refused',
      messages: ['The archive takes more memory or time than it may. Nothing was changed.'],
    });
  } finally {
    end();
    signal.removeEventListener('abort', end);
    reading -= 1;
  }
}

/** The build's file; nothing without a build (development). */
function builtReader(): string | undefined {
  const built = join(/* turbopackIgnore: true */ process.cwd(), '.next', 'archive-reader.mjs');
  return process.env.NODE_ENV === 'production' && existsSync(built) ? built : undefined;
}

function startReader(program: string | undefined) {
  const sources = join(/* turbopackIgnore: true */ process.cwd(), 'src', 'server', 'archive', 'readerProcess.ts');
  // A shell that knows no such limit starts the reader all the same: its heap is limited, and what it inflates is
  // counted.
  const limited = `ulimit -v ${program === undefined ? MAX_ADDRESS_SPACE.sources : MAX_ADDRESS_SPACE.built} 2>/dev/null; exec "$@"`;
  const run = program === undefined ? ['--import', 'tsx', sources] : [program];
  return spawn(
    '/bin/sh',
    ['-c', limited, 'sh', process.execPath, `--max-old-space-size=${MAX_HEAP_MEGABYTES}`, ...run],
    // It needs nothing of what this process knows, least of all where the database is.
    { stdio: ['pipe', 'pipe', 'ignore'], env: { PATH: process.env['PATH'], NODE_ENV: process.env.NODE_ENV } },
  );
}

/** Hands the body on; `undefined` when all of it was sent. */
async function sendTo(
  stdin: NodeJS.WritableStream,
  body: ReadableStream<Uint8Array>,
  signal: AbortSignal,
  patience: number,
): Promise<'too large' | 'broken off' | undefined> {
  let isEnded = false;
  stdin.on('error', () => (isEnded = true));
  const source = body.getReader();
  const hangUp = () => void source.cancel().catch(() => undefined);
  signal.addEventListener('abort', hangUp, { once: true });
  let size = 0;
  try {
    for (;;) {
      const next = await within(source.read(), patience);
      if (next === undefined) return 'broken off';
      if (next.done) break;
      size += next.value.length;
      if (size > MAX_ARCHIVE_BYTES) return 'too large';
      if (isEnded) break;
      // Called when the piece is through, or when the reader has ended.
      await new Promise<void>((done) => stdin.write(next.value, () => done()));
    }
    stdin.end();
    return undefined;
  } catch {
    // The sender's connection broke off.
    return 'broken off';
  } finally {
    signal.removeEventListener('abort', hangUp);
    hangUp();
  }
}

async function within<Value>(promise: Promise<Value>, milliseconds: number): Promise<Value | undefined> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<undefined>((done) => {
    timer = setTimeout(() => done(undefined), milliseconds);
  });
  try {
    return await Promise.race([promise, late]);
  } finally {
    clearTimeout(timer);
  }
}

/** What the reader says; `undefined` where it did not come to its end. */
async function itemsOf(stdout: NodeJS.ReadableStream): Promise<Result<Archive, ArchiveRefusal> | undefined> {
  const works: WorkDocuments[] = [];
  const groups: Group[] = [];
  const pupils: PupilFile[] = [];
  const recipes: SavedRecipe[] = [];
  const instruments: CustomInstrument[] = [];
  const problems: string[] = [];
  let missing = 0;
  let size = 0;
  for await (const line of createInterface({ input: stdout })) {
    size += line.length;
    // Its own program, but it has read what a stranger wrote: more than it can have read is not believed.
    if (size > 4 * ARCHIVE_LIMITS.whole) return undefined;
    const item = parsedLine(line);
    switch (item?.kind) {
      case 'work':
        works.push(item.work);
        break;
      case 'group':
        groups.push(item.group);
        break;
      case 'pupil':
        pupils.push(item.pupil);
        break;
      case 'recipe':
        recipes.push(item.recipe);
        break;
      case 'instrument':
        instruments.push(item.custom);
        break;
      case 'problem':
        if (problems.length < MAX_PROBLEMS) problems.push(item.text);
        else missing += 1;
        break;
      case 'refused':
        return failure({ kind: 'refused', messages: [...item.messages, ...problems] });
      case 'end':
        if (missing > 0) problems.push(`and ${missing} more.`);
        return success({ works, groups, pupils, recipes, instruments, problems });
      case undefined:
        return undefined;
    }
  }
  return undefined;
}

/** A line that was broken off when the reader was ended is none. */
function parsedLine(line: string): ArchiveItem | { readonly kind: 'end' } | undefined {
  try {
    return JSON.parse(line) as ArchiveItem | { readonly kind: 'end' };
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    return undefined;
  }
}
