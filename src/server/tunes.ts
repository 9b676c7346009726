import { randomBytes } from 'node:crypto';
import { formatProblemText } from '../core/formats/problem';
import type { MidiGuesses } from '../core/formats/midi/guesses';
import type { Choices, ReadOptions } from '../core/formats/readResult';
import { readTune } from '../core/formats/readTune';
import type { Work } from '../core/levels/recipe/work';
import type { Tune } from '../core/score/tune';
import {
  addWork,
  findWork,
  removeTune,
  restoreTune,
  saveWork,
  shelf,
  type SaveOutcome,
  type ShelfEntry,
} from '../db/tuneRepository';
import type { StudioDatabase } from '../db/studioDatabase';
import { checkWork } from './workSchema';

export interface OpenedWork {
  readonly id: string;
  readonly version: number;
  readonly work: Work;
}

/** A tune read from a file, with what was not understood; or why it cannot be read. */
export type BroughtIn =
  | {
      readonly ok: true;
      readonly tune: Tune;
      readonly warnings: readonly string[];
      readonly choices: Choices;
      readonly guesses?: MidiGuesses;
    }
  | { readonly ok: false; readonly problems: readonly string[] };

export function listShelf(studio: StudioDatabase, search: string): Promise<readonly ShelfEntry[]> {
  return shelf(studio, search.slice(0, 100));
}

/** Reads without saving: the preview. */
export function readFile(bytes: Uint8Array, name: string, options: ReadOptions = {}): BroughtIn {
  const read = readTune(bytes, name, options);
  return read.ok
    ? {
        ok: true,
        tune: read.tune,
        warnings: read.warnings.map(formatProblemText),
        choices: read.choices,
        ...(read.guesses && { guesses: read.guesses }),
      }
    : { ok: false, problems: read.problems.map(formatProblemText) };
}

/** Puts a new tune on the shelf and gives its id. */
export async function addTune(studio: StudioDatabase, work: Work, now = new Date()): Promise<string> {
  const id = randomBytes(9).toString('base64url').replace(/[-_]/g, 'x');
  await addWork(studio, id, work, now);
  return id;
}

/** Opens a tune. A document that no longer passes its checks is a defect, told with the reason. */
export async function openWork(studio: StudioDatabase, id: string): Promise<OpenedWork | undefined> {
  const stored = await findWork(studio, id);
  if (!stored) return undefined;
  const checked = checkWork(stored);
  if (!checked.ok) throw new Error(`the stored tune ${id} is damaged: ${checked.messages.join('; ')}`);
  return { id, version: stored.version, work: checked.value };
}

export function save(
  studio: StudioDatabase,
  id: string,
  version: number,
  work: Work,
  now = new Date(),
): Promise<SaveOutcome> {
  return saveWork(studio, id, version, work, now);
}

export function remove(studio: StudioDatabase, id: string, now = new Date()): Promise<boolean> {
  return removeTune(studio, id, now);
}

export function restore(studio: StudioDatabase, id: string): Promise<boolean> {
  return restoreTune(studio, id);
}
