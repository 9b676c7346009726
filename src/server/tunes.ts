import type { Work } from '../core/work';
import { LRUCache } from 'lru-cache';
import type { Tune } from '../core/score';
import { findRevision, nameRevision, revisionsOf, type Revision } from '../db/revisionRepository';
import {
  addWork,
  findWork,
  idsByTitle,
  removeTune,
  restoreTune,
  saveWork,
  shelf,
  type Save,
  type SaveOutcome,
  type ShelfPage,
  type ShelfPlace,
  type StoredTexts,
  type StoredWork,
  type WorkDocuments,
  type WorkKind,
} from '../db/tuneRepository';
import type { StudioDatabase } from '../db/studioDatabase';
import type { Checked } from './checked';
import { databaseTrouble } from '../db/trouble';
import { faultOf } from './fault';
import { addOnce } from './freshId';
import { ensureRoomForTunes } from './quota';
import { log } from './log';
import { runOnPool } from './pool/pool';
import { jobFailureOf } from './pool/workerPool';
import { contentKey } from './storedWork';
import { checkStoredTexts } from './workSchema';

export interface OpenedWork {
  readonly id: string;
  readonly version: number;
  readonly work: Work;
  /** As it lies in the database, for what is made of it on a worker. */
  readonly stored: StoredTexts;
}

/**
 * Tunes that a page comes with: somewhat more than a screen shows; the others are fetched before anybody has scrolled
 * to them.
 */
export const FIRST_TUNES = 12;

/** @param most of one page; as many as are fetched at a time where nothing is said */
export function listShelf(
  studio: StudioDatabase,
  search: string,
  { after, kind, most }: { readonly after?: ShelfPlace; readonly kind?: WorkKind; readonly most?: number } = {},
): Promise<ShelfPage> {
  return shelf(studio, {
    search: search.slice(0, 100),
    ...(after && { after }),
    ...(kind && { kind }),
    ...(most !== undefined && { most }),
  });
}

/** Entries that are read at a time where all of a kind are wanted. */
const BATCH = 200;

/** All documents of a kind on the shelf, by title, page by page. */
async function* allOfKind(studio: StudioDatabase, kind: WorkKind): AsyncGenerator<ShelfPage['tunes'][number], void> {
  for (let after: ShelfPlace | undefined; ;) {
    const { tunes, next } = await shelf(studio, { kind, most: BATCH, ...(after && { after }) });
    yield* tunes;
    if (!next) return;
    after = next;
  }
}

/** The drills of the shelf, by title. */
export async function listDrills(studio: StudioDatabase): Promise<readonly { id: string; title: string }[]> {
  const drills: { id: string; title: string }[] = [];
  for await (const { id, title } of allOfKind(studio, 'drill')) drills.push({ id, title });
  return drills;
}

/** The licks of the shelf with their music, by title; one that no longer passes its checks is left out. */
export async function listLicks(studio: StudioDatabase): Promise<readonly { id: string; tune: Tune }[]> {
  const licks: { id: string; tune: Tune }[] = [];
  for await (const { id } of allOfKind(studio, 'lick')) {
    const found = await openWork(studio, id).catch((error: unknown) => {
      if (jobFailureOf(error) !== undefined || databaseTrouble(error) !== undefined) throw error;
      log.error(faultOf(error), 'a stored lick is damaged and was left out');
    });
    if (found) licks.push({ id, tune: found.work.tune });
  }
  return licks;
}

/** Puts a new tune on the shelf and gives its id. @throws QuotaReached */
export async function addTune(
  studio: StudioDatabase,
  work: WorkDocuments,
  what: string,
  now = new Date(),
): Promise<string> {
  await ensureRoomForTunes(studio, 1);
  return addOnce(studio, 'tune', async (id) => addWork(studio, id, await toldApart(studio, work), now, what));
}

/** Farther than anybody counts drills of one name. */
const MOST_ALIKE = 100;

/** A drill takes its name from its idea; where one of that name is on the shelf, the new one is numbered. */
async function toldApart(studio: StudioDatabase, work: WorkDocuments): Promise<WorkDocuments> {
  const { title, kind } = work.columns;
  if (kind !== 'drill') return work;
  for (let number = 1; number < MOST_ALIKE; number += 1) {
    const name = number === 1 ? title : `${title} (${number})`;
    if ((await idsByTitle(studio, name)).length > 0) continue;
    if (number === 1) return work;
    const tune: unknown = { ...(JSON.parse(work.tune) as object), title: name };
    return { ...work, columns: { ...work.columns, title: name }, tune: JSON.stringify(tune) };
  }
  return work;
}

/** The documents of a tune as they lie there, for what is made of them on a worker. */
export function storedTune(studio: StudioDatabase, id: string): Promise<StoredWork | undefined> {
  return findWork(studio, id);
}

/** Opens a tune. A document that no longer passes its checks is a defect, told with the reason. */
export async function openWork(studio: StudioDatabase, id: string): Promise<OpenedWork | undefined> {
  const stored = await findWork(studio, id);
  return stored && { id, version: stored.version, work: await readStored(stored, `tune ${id}`), stored };
}

/** Works read lately, by their content. */
const read = new LRUCache<string, Work>({ max: 24 });
/** Characters that are checked faster than they are handed to a worker and back. */
const MAX_HERE = 60_000;

/** @throws Error where the documents are damaged */
export async function readStored({ tune, recipes }: StoredTexts, name: string): Promise<Work> {
  const texts = { tune, recipes };
  const key = contentKey(texts);
  const known = read.get(key);
  if (known) return known;
  const checked: Checked<Work> =
    tune.length > MAX_HERE ? await runOnPool('checkStored', texts) : checkStoredTexts(texts);
  if (!checked.ok) throw new Error(`the stored ${name} is damaged: ${checked.problem.join('; ')}`);
  read.set(key, checked.value);
  return checked.value;
}

export function save(studio: StudioDatabase, id: string, sent: Save, now = new Date()): Promise<SaveOutcome> {
  return saveWork(studio, id, sent, now);
}

export function remove(studio: StudioDatabase, id: string, now = new Date()): Promise<boolean> {
  return removeTune(studio, id, now);
}

export function restore(studio: StudioDatabase, id: string): Promise<boolean> {
  return restoreTune(studio, id);
}

/** The versions of a tune, newest first; none of a tune that is not on the shelf. */
export async function historyOf(studio: StudioDatabase, id: string): Promise<readonly Revision[] | undefined> {
  return (await findWork(studio, id)) ? revisionsOf(studio, id) : undefined;
}

/** The number of a revision in an address; what is none is the number of no revision. */
export function revisionNumber(text: string): number {
  const number = Number(text);
  return Number.isSafeInteger(number) && number > 0 ? number : 0;
}

export function storedRevision(studio: StudioDatabase, id: string, revision: number): Promise<StoredTexts | undefined> {
  return findRevision(studio, id, revision);
}

export function callRevision(studio: StudioDatabase, id: string, revision: number, name: string): Promise<boolean> {
  return nameRevision(studio, id, revision, name);
}
