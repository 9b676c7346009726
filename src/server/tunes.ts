import { randomBytes } from 'node:crypto';
import type { Work } from '../core/levels/recipe/work';
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

export function listShelf(studio: StudioDatabase, search: string): Promise<readonly ShelfEntry[]> {
  return shelf(studio, search.slice(0, 100));
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
  if (!checked.ok) throw new Error(`the stored tune ${id} is damaged: ${checked.problem.join('; ')}`);
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
