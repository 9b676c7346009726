import { strToU8 } from 'fflate';
import { fileSlug, MAX_SENT_ENTRIES, playersToCsv, type PupilFile, type SentEntry } from '../../core/formats';
import type { PupilWork } from '../../core/planning';
import { storedSavedRecipe, upgradedSavedRecipe } from '../../core/work/stored';
import type { CustomInstrument } from '../../core/instruments';
import type { Group } from '../../core/keys';
import type { SavedRecipe } from '../../core/work';
import {
  addGroup,
  allGroups,
  customInstruments,
  saveCustomInstrument,
  type StoredEntry,
} from '../../db/groupRepository';
import { countRows } from '../../db/pages';
import { addPupil, allPupils, isPupilIdTaken } from '../../db/pupilRepository';
import { addEntries, allEntries } from '../../db/practiceLogRepository';
import { savedRecipes, saveRecipe } from '../../db/recipeRepository';
import type { StudioDatabase } from '../../db/studioDatabase';
import {
  addWork,
  documentsOf,
  findWork,
  idsByTitle,
  tuneSizes,
  type StoredTexts,
  type WorkDocuments,
} from '../../db/tuneRepository';
import type { Checked } from '../checked';
import { faultOf } from '../fault';
import { freshId } from '../freshId';
import { checkCustomInstrument, checkGroup } from '../groupSchema';
import { log } from '../log';
import { artifactCache } from '../artifactCache';
import { runPatiently } from '../pool/pool';
import { JobError, jobFailureOf } from '../pool/workerPool';
import { checkPupil } from '../pupils';
import { ensureRoom, ensureRoomForTunes } from '../quota';
import { buildId, contentKey } from '../storedWork';
import { checkSavedRecipe } from '../workSchema';
import { zipStream, type ArchiveFile } from '../zipStream';
import { listFile, STUDIO_FILES, workFile } from './archiveFiles';
import type { Archive } from './archiveReader';

/** So much of a studio goes into one archive, in bytes of its documents: with room to spare it can be brought back. */
const MAX_PART_BYTES = 40 * 1_048_576;

/**
 * The ids of a studio's tunes by the archive that they go into. There is always a first, with the groups, recipes and
 * instruments.
 */
export async function exportParts(studio: StudioDatabase): Promise<readonly (readonly string[])[]> {
  return partsBySize(await tuneSizes(studio), MAX_PART_BYTES);
}

/** @param most bytes of one part; what is larger by itself is a part of its own */
export function partsBySize(
  tunes: readonly { readonly id: string; readonly bytes: number }[],
  most: number,
): readonly (readonly string[])[] {
  const parts: string[][] = [[]];
  let size = 0;
  for (const { id, bytes } of tunes) {
    if (size > 0 && size + bytes > most) {
      parts.push([]);
      size = 0;
    }
    parts.at(-1)?.push(id);
    size += bytes;
  }
  return parts;
}

/** How many files a part has where nothing is damaged. */
export async function countFiles(studio: StudioDatabase, tunes: readonly string[], part: number): Promise<number> {
  const lists = part === 0 ? 3 + (await countRows(studio, 'player_groups')) + (await countRows(studio, 'pupils')) : 0;
  return 1 + 2 * tunes.length + lists;
}

/**
 * A part of a studio as an archive, made as it is sent. What is damaged is put in as it lies in the database and told
 * in `left-out.json`.
 * @param part counted from 0
 */
export function exportStudio(
  studio: StudioDatabase,
  tunes: readonly string[],
  part: number,
  signal: AbortSignal,
): ReadableStream<Uint8Array> {
  return zipStream(filesOf(studio, tunes, part, signal), signal);
}

async function* filesOf(
  studio: StudioDatabase,
  tunes: readonly string[],
  part: number,
  signal: AbortSignal,
): AsyncGenerator<ArchiveFile, void> {
  const leftOut: string[] = [];
  const text = (name: string, data: string): ArchiveFile => ({ name, data: strToU8(data) });
  yield text(STUDIO_FILES.readMe, READ_ME);
  for (const [index, id] of tunes.entries()) {
    if (signal.aborted) throw new JobError('export', 'cancelled');
    const stored = await findWork(studio, id);
    if (!stored) continue;
    const name = `${part > 0 ? `${part + 1}-` : ''}${String(index + 1).padStart(4, '0')}-${fileSlug(stored.title)}`;
    const texts = { tune: stored.tune, recipes: stored.recipes };
    const checked = await checkPatiently(texts, signal);
    if (!checked.ok) {
      leftOut.push(`The tune “${stored.title}” is damaged: ${checked.problem[0] ?? 'it cannot be read'}.`);
      yield text(STUDIO_FILES.damaged(`tune-${id}`), damagedFile(texts));
      continue;
    }
    yield text(STUDIO_FILES.tune(name), workFile(checked.value));
    const score = await musicXml(texts, signal);
    if (score) yield { name: STUDIO_FILES.musicXml(name), data: score };
    else leftOut.push(`The tune “${stored.title}” is there as .reed.json, but could not be written as MusicXML.`);
  }
  if (part === 0) yield* listFiles(studio, leftOut);
  if (leftOut.length > 0) yield { ...text(STUDIO_FILES.leftOut, listFile(leftOut)), isPacked: true };
}

async function* listFiles(studio: StudioDatabase, leftOut: string[]): AsyncGenerator<ArchiveFile, void> {
  const files: ArchiveFile[] = [];
  const sound = <Value>(
    kind: string,
    stored: readonly StoredEntry[],
    check: (document: unknown) => Checked<Value>,
  ): readonly Value[] =>
    stored.flatMap(({ id, document }) => {
      const checked = check(document);
      if (checked.ok) return [checked.value];
      leftOut.push(`A ${kind} (${id}) is damaged: ${checked.problem[0] ?? 'it cannot be read'}.`);
      files.push({ name: STUDIO_FILES.damaged(`${kind}-${id}`), data: strToU8(JSON.stringify(document)) });
      return [];
    });
  const groups: readonly Group[] = sound('group', await allGroups(studio), checkGroup);
  for (const [index, group] of groups.entries())
    yield {
      name: STUDIO_FILES.csv(`${String(index + 1).padStart(3, '0')}-${fileSlug(group.name)}`),
      data: strToU8(playersToCsv(group.players)),
    };
  const stored = await allPupils(studio);
  for (const [index, { id, document }] of stored.entries()) {
    const checked = checkPupil(document);
    if (!checked.ok) {
      leftOut.push(`A pupil (${id}) is damaged: ${checked.problem[0] ?? 'it cannot be read'}.`);
      files.push({ name: STUDIO_FILES.damaged(`pupil-${id}`), data: strToU8(JSON.stringify(document)) });
      continue;
    }
    const log: SentEntry[] = [];
    for await (const entry of allEntries(studio, id)) log.push(entry);
    const file: PupilFile = { format: 'reed-hook-pupil', id, pupil: checked.value, log };
    yield {
      name: STUDIO_FILES.pupil(`${String(index + 1).padStart(3, '0')}-${fileSlug(checked.value.name)}`),
      data: strToU8(`${JSON.stringify(file)}\n`),
    };
  }
  const recipes: readonly SavedRecipe[] = sound('recipe', await savedRecipes(studio), checkSavedRecipe);
  const instruments: readonly CustomInstrument[] = sound(
    'instrument',
    await customInstruments(studio),
    checkCustomInstrument,
  );
  yield { name: STUDIO_FILES.groups, data: strToU8(listFile(groups)) };
  yield { name: STUDIO_FILES.recipes, data: strToU8(listFile(recipes.map(storedSavedRecipe))) };
  yield { name: STUDIO_FILES.instruments, data: strToU8(listFile(instruments)) };
  yield* files;
}

const READ_ME = `Everything of a studio of Reed Hook.

tunes/*.reed.json      each tune with its levels; Reed Hook reads them, one by one or the whole archive
tunes/*.musicxml       the same tunes for other programs
groups/*.csv           the players of each group for a spreadsheet
groups.json            the groups whole
pupils/*.json          each pupil with work, lessons and practice log
recipes.json           recipes saved under names
instruments.json       custom instruments
left-out.json          only where something could not be exported: what, and why
damaged/*.txt          what could not be exported, as it is stored
`;

const damagedFile = ({ tune, recipes }: StoredTexts) => `${tune}\n\n${JSON.stringify(recipes, undefined, 1)}\n`;

/** A document so damaged that even looking at it fails is damaged like any other. */
async function checkPatiently(texts: StoredTexts, signal: AbortSignal) {
  try {
    return await runPatiently('checkStored', texts, signal);
  } catch (error) {
    if (jobFailureOf(error) === 'cancelled' || !(error instanceof Error)) throw error;
    log.error(faultOf(error), 'a stored tune could not be checked');
    return { ok: false as const, problem: ['it cannot be read'] };
  }
}

/** Nothing where the tune cannot be written so; the reason is in the log. */
async function musicXml(stored: StoredTexts, signal: AbortSignal): Promise<Uint8Array | undefined> {
  const wishes = { name: 'tune.musicxml', query: {} };
  try {
    return await artifactCache().get(
      contentKey(buildId(), 'tuneFile', stored, wishes),
      (end) => runPatiently('tuneFile', { stored, wishes }, end),
      signal,
    );
  } catch (error) {
    if (jobFailureOf(error) === 'cancelled') throw error;
    log.error(faultOf(error), 'a tune could not be exported as MusicXML');
    return undefined;
  }
}

/** What came back of an archive, in numbers. */
export interface BroughtBack {
  readonly tunes: number;
  readonly groups: number;
  readonly pupils: number;
  readonly recipes: number;
  readonly instruments: number;
  /** What was there already, to the letter, and was left alone. */
  readonly already: number;
  /** What could not be read, each with its file. */
  readonly problems: readonly string[];
}

/**
 * Adds what an archive holds, all of it or nothing. Nothing that is there is changed.
 * @throws QuotaReached where the studio would have more than it may
 */
export async function bringBack(studio: StudioDatabase, archive: Archive, now = new Date()): Promise<BroughtBack> {
  return studio.transaction(async (inside): Promise<BroughtBack> => {
    const shelf = new Shelf(inside);
    let [tunes, already] = [0, 0];
    for (const work of archive.works) {
      if (await shelf.has(work)) already += 1;
      else {
        await addWork(inside, freshId(), work, now, 'brought back from an archive');
        shelf.note(work);
        tunes += 1;
      }
    }
    const groups = newOnes(await allGroups(inside), archive.groups);
    // A recipe may be stored in an older shape than what an archive gives.
    const recipes = newOnes(await savedRecipes(inside), archive.recipes, storedSavedRecipe, upgradedSavedRecipe);
    const instruments = newOnes(await customInstruments(inside), archive.instruments);
    // All or nothing: what was added above goes again where it was too much.
    await ensureRoomForTunes(inside, tunes > 0 ? 1 : 0);
    ensureRoom('groups', groups.present, groups.fresh.length);
    ensureRoom('saved recipes', recipes.present, recipes.fresh.length);
    ensureRoom('custom instruments', instruments.present, instruments.fresh.length);
    // A millisecond apart, so that they stand in the order of the archive.
    for (const [index, group] of groups.fresh.entries())
      await addGroup(inside, freshId(), group, new Date(now.getTime() + index));
    const pupils = await bringPupilsBack(inside, archive.pupils, now);
    for (const recipe of recipes.fresh)
      await saveRecipe(inside, { ...recipe, id: recipes.ids.has(recipe.id) ? `recipe-${freshId()}` : recipe.id }, now);
    for (const custom of instruments.fresh)
      await saveCustomInstrument(
        inside,
        { ...custom, id: instruments.ids.has(custom.id) ? `own-${freshId()}` : custom.id },
        now,
      );
    return {
      tunes,
      groups: groups.fresh.length,
      pupils: pupils.added,
      recipes: recipes.fresh.length,
      instruments: instruments.fresh.length,
      already: already + pupils.already + groups.already + recipes.already + instruments.already,
      problems: archive.problems,
    };
  });
}

/**
 * Adds pupils under the ids that groups know them by, with their logs. A pupil who is there already, to the letter, is
 * left alone; one of the same id who is otherwise comes under another id.
 */
async function bringPupilsBack(
  studio: StudioDatabase,
  found: readonly PupilFile[],
  now: Date,
): Promise<{ readonly added: number; readonly already: number }> {
  const present = new Map((await allPupils(studio)).map(({ id, document }) => [id, contentKey(document)]));
  const fresh = found.filter(({ id, pupil }) => present.get(id) !== contentKey(pupil));
  ensureRoom('pupils', present.size, fresh.length);
  for (const { id: wanted, pupil, log: entries } of fresh) {
    const isTaken = present.has(wanted) || (await isPupilIdTaken(studio, wanted));
    const id = isTaken ? freshId() : wanted;
    ensureRoom('entries in a log', 0, entries.length);
    await addPupil(studio, id, { ...pupil, work: await onShelf(studio, pupil.work) }, now);
    for (let k = 0; k < entries.length; k += MAX_SENT_ENTRIES)
      await addEntries(studio, id, entries.slice(k, k + MAX_SENT_ENTRIES), now);
  }
  return { added: fresh.length, already: found.length - fresh.length };
}

/** Tunes that are brought back have other ids: a work finds its own by the title. */
async function onShelf(studio: StudioDatabase, work: readonly PupilWork[]): Promise<readonly PupilWork[]> {
  return Promise.all(
    work.map(async (one) => {
      if (one.tune === undefined || (await findWork(studio, one.tune))) return one;
      const [id] = await idsByTitle(studio, one.title.replace(/, by ear$/, ''));
      const { tune: _, ...rest } = one;
      return { ...rest, ...(id !== undefined && { tune: id }) } as PupilWork;
    }),
  );
}

/** Of what an archive holds of a list, what the studio has not got yet. */
function newOnes<Value>(
  stored: readonly StoredEntry[],
  found: readonly Value[],
  asStored: (value: Value) => unknown = (value) => value,
  asToday: (document: unknown) => unknown = (document) => document,
): {
  readonly fresh: readonly Value[];
  readonly already: number;
  readonly present: number;
  readonly ids: ReadonlySet<string>;
} {
  const known = new Set(stored.map(({ document }) => contentKey(asToday(document))));
  const fresh = found.filter((value) => {
    const key = contentKey(asStored(value));
    const isNew = !known.has(key);
    known.add(key);
    return isNew;
  });
  return {
    fresh,
    already: found.length - fresh.length,
    present: stored.length,
    ids: new Set(stored.map(({ id }) => id)),
  };
}

/** The tunes of a shelf as far as an archive asks for them: by title, and of each title all contents. */
class Shelf {
  private readonly titles = new Map<string, Set<string>>();

  constructor(private readonly studio: StudioDatabase) {}

  /** Whether a tune with these very notes and levels is there. */
  async has(work: WorkDocuments): Promise<boolean> {
    const { title } = work.columns;
    const known = this.titles.get(title) ?? (await this.contentsOf(title));
    this.titles.set(title, known);
    return known.has(keyOf(work));
  }

  note(work: WorkDocuments): void {
    this.titles.get(work.columns.title)?.add(keyOf(work));
  }

  private async contentsOf(title: string): Promise<Set<string>> {
    const keys = new Set<string>();
    for (const id of await idsByTitle(this.studio, title)) {
      const stored = await findWork(this.studio, id);
      if (!stored) continue;
      keys.add(keyOf(stored));
      // An older document is compared as it would be written today; a damaged one equals nothing.
      const checked = await checkPatiently(
        { tune: stored.tune, recipes: stored.recipes },
        new AbortController().signal,
      );
      if (checked.ok) keys.add(keyOf(documentsOf(checked.value)));
    }
    return keys;
  }
}

const keyOf = ({ tune, recipes }: StoredTexts) =>
  contentKey(
    tune,
    Object.entries(recipes).toSorted(([a], [b]) => a.localeCompare(b, 'en')),
  );
