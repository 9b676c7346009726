import { dequal } from 'dequal';
import { strToU8 } from 'fflate';
import { playersToCsv } from '../core/formats/csv/groupCsv';
import { fileSlug } from '../core/formats/fileSlug';
import { storedSavedRecipe } from '../core/formats/json/upgradeRecipe';
import { saveCustomInstrument } from '../db/groupRepository';
import { saveRecipe } from '../db/recipeRepository';
import type { StudioDatabase } from '../db/studioDatabase';
import { addWork, documentsOf, findWork, idsByTitle, tuneIds, type StoredWork } from '../db/tuneRepository';
import { recipesFile, STUDIO_FILES, workFile, type Archive } from './archive';
import { freshId } from './freshId';
import { listCustomInstruments, listGroups, newGroup } from './groups';
import { made } from './made';
import { runOnPool } from './pool/pool';
import { JobError } from './pool/workerPool';
import { listSavedRecipes } from './recipes';
import { buildId, contentKey } from './storedWork';
import { readStored } from './tunes';
import { zipStream, type ArchiveFile } from './zipStream';

/** Everything of a studio, made as it is sent. */
export function exportStudio(studio: StudioDatabase, signal: AbortSignal): ReadableStream<Uint8Array> {
  return zipStream(filesOf(studio, signal), signal);
}

async function* filesOf(studio: StudioDatabase, signal: AbortSignal): AsyncGenerator<ArchiveFile, void> {
  yield { name: 'read-me.txt', data: strToU8(READ_ME) };
  for (const [index, id] of (await tuneIds(studio)).entries()) {
    if (signal.aborted) throw new JobError('export', 'cancelled');
    const stored = await findWork(studio, id);
    if (!stored) continue;
    const name = `${String(index + 1).padStart(4, '0')}-${fileSlug(stored.title)}`;
    yield { name: STUDIO_FILES.tune(name), data: strToU8(workFile(await readStored(stored, `tune ${id}`))) };
    yield { name: STUDIO_FILES.musicXml(name), data: await musicXml(stored, signal) };
  }
  const groups = (await listGroups(studio)).map(({ group }) => group);
  for (const [index, group] of groups.entries())
    yield {
      name: STUDIO_FILES.csv(`${String(index + 1).padStart(3, '0')}-${fileSlug(group.name)}`),
      data: strToU8(playersToCsv(group.players)),
    };
  const json = (data: unknown) => strToU8(`${JSON.stringify(data, undefined, 1)}\n`);
  yield { name: STUDIO_FILES.groups, data: json(groups) };
  yield { name: STUDIO_FILES.recipes, data: strToU8(recipesFile(await listSavedRecipes(studio))) };
  yield { name: STUDIO_FILES.instruments, data: json(await listCustomInstruments(studio)) };
}

const READ_ME = `Everything of a studio of Reed Hook.

tunes/*.reed.json      each tune with its levels; Reed Hook reads them, one by one or the whole archive
tunes/*.musicxml       the same tunes for other programs
groups/*.csv           the players of each group for a spreadsheet
groups.json            the groups whole
recipes.json           recipes saved under names
instruments.json       instruments of the studio's own
`;

async function musicXml({ tune, recipes }: StoredWork, signal: AbortSignal): Promise<Uint8Array> {
  const stored = { tune, recipes };
  const wishes = { name: 'tune.musicxml', paper: 'a4', instrument: 'flute', notes: 3 } as const;
  const data = await made().get(
    contentKey(buildId(), 'tuneFile', stored, wishes),
    (end) => runOnPool('tuneFile', { stored, wishes }, end),
    signal,
  );
  return data ?? new Uint8Array();
}

/** What came back of an archive, in numbers. */
export interface BroughtBack {
  readonly tunes: number;
  readonly groups: number;
  readonly recipes: number;
  readonly instruments: number;
  /** What was there already, to the letter, and was left alone. */
  readonly already: number;
  /** What could not be read, each with its file. */
  readonly problems: readonly string[];
}

/** Adds what an archive holds, all of it or nothing. Nothing that is there is changed. */
export async function bringBack(studio: StudioDatabase, archive: Archive, now = new Date()): Promise<BroughtBack> {
  return studio.transaction(async (inside): Promise<BroughtBack> => {
    const counts = { tunes: 0, groups: 0, recipes: 0, instruments: 0, already: 0 };
    const isKnown = (isThere: boolean, kind: 'tunes' | 'groups' | 'recipes' | 'instruments') => {
      counts[isThere ? 'already' : kind] += 1;
      return isThere;
    };
    for (const work of archive.works) {
      if (isKnown(await isOnShelf(inside, work), 'tunes')) continue;
      await addWork(inside, freshId(), documentsOf(work), now, 'brought back from an archive');
    }
    const groups = new Set((await listGroups(inside)).map(({ group }) => contentKey(group)));
    for (const group of archive.groups) {
      if (isKnown(groups.has(contentKey(group)), 'groups')) continue;
      await newGroup(inside, group, now);
    }
    const recipes = await listSavedRecipes(inside);
    for (const recipe of archive.recipes) {
      const stored = contentKey(storedSavedRecipe(recipe));
      if (
        isKnown(
          recipes.some((one) => contentKey(storedSavedRecipe(one)) === stored),
          'recipes',
        )
      )
        continue;
      const id = recipes.some((one) => one.id === recipe.id) ? `recipe-${freshId()}` : recipe.id;
      await saveRecipe(inside, { ...recipe, id }, now);
    }
    const instruments = await listCustomInstruments(inside);
    for (const custom of archive.instruments) {
      if (
        isKnown(
          instruments.some((one) => contentKey(one) === contentKey(custom)),
          'instruments',
        )
      )
        continue;
      const id = instruments.some((one) => one.id === custom.id) ? `own-${freshId()}` : custom.id;
      await saveCustomInstrument(inside, { ...custom, id }, now);
    }
    return { ...counts, problems: archive.problems };
  });
}

/** Whether a tune with these very notes and levels is there. */
async function isOnShelf(studio: StudioDatabase, work: Archive['works'][number]): Promise<boolean> {
  for (const id of await idsByTitle(studio, work.tune.title)) {
    const stored = await findWork(studio, id);
    if (stored && dequal(await readStored(stored, `tune ${id}`), work)) return true;
  }
  return false;
}
