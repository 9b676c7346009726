import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';
import { MAX_BYTES, type Tune } from '../core/score';
import { formatProblemText, readTune } from '../core/formats';
import { UsageError } from './arguments';

/** Reads a tune from a path; what could not be kept comes back as sentences. */
export function readInput(path: string): { readonly tune: Tune; readonly warnings: readonly string[] } {
  let bytes: Uint8Array;
  try {
    const size = statSync(path);
    if (!size.isFile()) throw new UsageError(`INPUT ${path} is no file: give the path of a tune`);
    if (size.size > MAX_BYTES)
      throw new UsageError(
        `INPUT ${path} has ${(size.size / 1_048_576).toFixed(1)} MB: at most ${MAX_BYTES / 1_048_576} MB are read`,
      );
    bytes = readFileSync(path);
  } catch (error) {
    if (error instanceof UsageError || !isFileError(error)) throw error;
    throw new UsageError(`INPUT ${path} cannot be opened (${error.code}): give the path of a tune that can be read`);
  }
  const read = readTune(bytes, basename(path));
  if (read.ok) return { tune: read.value.tune, warnings: read.value.warnings.map(formatProblemText) };
  const [first, ...others] = read.problem;
  const more = others.length > 0 ? ` (and ${others.length} more)` : '';
  throw new UsageError(`${path}: ${first ? formatProblemText(first) : 'cannot be read'}${more}`);
}

function isFileError(error: unknown): error is NodeJS.ErrnoException {
  return error instanceof Error && 'code' in error && typeof error.code === 'string' && 'syscall' in error;
}

/** Writes all files or none: each beside its place first, then moved. */
export function writeAll(files: readonly { readonly path: string; readonly data: string | Uint8Array }[]): void {
  const written: string[] = [];
  try {
    for (const { path, data } of files) {
      makeFolder(dirname(path));
      const part = `${path}.part`;
      written.push(part);
      writeFileSync(part, data);
    }
    for (const { path } of files) renameSync(`${path}.part`, path);
  } catch (error) {
    for (const part of written) if (existsSync(part)) rmSync(part);
    if (!isFileError(error)) throw error;
    throw new UsageError(
      `cannot write ${error.path ?? 'the file'} (${error.code}): give a folder that can be written to`,
    );
  }
}

/**
 * Makes a folder and those above it one by one. Node's own recursive way never
 * comes back where a folder that exists answers ENOENT, as `/proc` does.
 */
function makeFolder(path: string): void {
  if (existsSync(path)) return;
  const above = dirname(path);
  if (above !== path) makeFolder(above);
  try {
    mkdirSync(path);
  } catch (error) {
    // Another run may have made it in between.
    if (!isFileError(error) || error.code !== 'EEXIST') throw error;
  }
}

export function inFolder(folder: string, name: string): string {
  return join(resolve(folder), name);
}
