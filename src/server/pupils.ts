import type { SentEntry } from '../core/formats';
import { pupilSchema, sentEntriesSchema } from '../core/formats';
import { dateAt, dateOfDay, joinPupils, knownDay, type LogEntry, type Pupil } from '../core/planning';
import { countRows } from '../db/pages';
import {
  addPupil,
  addPupilOfPlayer,
  allPupils,
  deletePupil,
  findPupil,
  joinStoredPupils,
  type PupilSaveOutcome,
  removePupil,
  restorePupil,
  savePupil,
  type StoredPupil,
} from '../db/pupilRepository';
import {
  addEntries,
  allEntries,
  countEntries,
  entriesBefore,
  entriesSince,
  type ListedEntry,
  newestEntries,
  strikeEntry,
} from '../db/practiceLogRepository';
import type { StudioDatabase } from '../db/studioDatabase';
import { z } from 'zod';
import { checked, type Checked } from './checked';
import { addOnce, freshId } from './freshId';
import { log } from './log';
import { ensureRoom } from './quota';
import { MAX_VERSION } from './workSchema';

export interface OpenedPupil {
  readonly id: string;
  readonly version: number;
  readonly pupil: Pupil;
}

const pupilSaveSchema = z.strictObject({ version: z.int().min(1).max(MAX_VERSION), pupil: pupilSchema });

export const checkPupil = (data: unknown): Checked<Pupil> => checked(pupilSchema, data);
export const checkPupilSave = (data: unknown): Checked<{ readonly version: number; readonly pupil: Pupil }> =>
  checked(pupilSaveSchema, data);
export const checkEntries = (data: unknown): Checked<{ readonly entries: readonly SentEntry[] }> =>
  checked(sentEntriesSchema, data);

/** The date of the calendar where the program runs: minutes before midnight it is still today. */
export function calendarToday(now = new Date()): string {
  return dateAt(now);
}

/** The checked pupil; nothing, and a line in the log, where the document is damaged. */
function soundPupil({ id, version, document }: StoredPupil): OpenedPupil | undefined {
  const result = checkPupil(document);
  if (!result.ok) log.error({ kind: 'pupil', id }, 'a stored document is damaged and was left out');
  return result.ok ? { id, version, pupil: result.value } : undefined;
}

/** The studio's pupils by name. One that is damaged is left out and told in the log. */
export async function listPupils(studio: StudioDatabase): Promise<readonly OpenedPupil[]> {
  return (await allPupils(studio)).flatMap((stored) => soundPupil(stored) ?? []);
}

/** @throws Error where the document is damaged */
export function openedPupil({ id, version, document }: StoredPupil): OpenedPupil {
  const result = checkPupil(document);
  if (!result.ok) throw new Error(`the stored pupil ${id} is damaged: ${result.problem.join('; ')}`);
  return { id, version, pupil: result.value };
}

export async function openPupil(studio: StudioDatabase, id: string): Promise<OpenedPupil | undefined> {
  const stored = await findPupil(studio, id);
  return stored && openedPupil(stored);
}

/** @throws QuotaReached */
export async function newStoredPupil(studio: StudioDatabase, pupil: Pupil, now = new Date()): Promise<string> {
  ensureRoom('pupils', await countRows(studio, 'pupils'));
  return addOnce(studio, 'pupil', (id) => addPupil(studio, id, pupil, now));
}

export function changePupil(
  studio: StudioDatabase,
  id: string,
  version: number,
  pupil: Pupil,
  now = new Date(),
): Promise<PupilSaveOutcome> {
  return savePupil(studio, id, version, pupil, now);
}

export function takePupilAway(studio: StudioDatabase, id: string, now = new Date()): Promise<boolean> {
  return removePupil(studio, id, now);
}

export function bringPupilBack(studio: StudioDatabase, id: string): Promise<boolean> {
  return restorePupil(studio, id);
}

/** A pupil for good: document, log, and the name in every group. */
export function deletePupilWhole(studio: StudioDatabase, id: string, now = new Date()): Promise<boolean> {
  return deletePupil(studio, id, now);
}

/** @returns how many entries are new; `undefined` where there is no such pupil. @throws QuotaReached */
export async function logPractice(
  studio: StudioDatabase,
  pupil: string,
  entries: readonly SentEntry[],
  now = new Date(),
): Promise<number | undefined> {
  ensureRoom('entries in a log', await countEntries(studio, pupil), entries.length);
  return addEntries(studio, pupil, entries, now);
}

/** So many days of a log are read entry by entry; what is older in short. */
const DAYS_WHOLE = 130;

/** A pupil's log as a plan and its charts need it. */
export async function logForPlan(studio: StudioDatabase, pupil: string, today: string): Promise<readonly LogEntry[]> {
  const since = dateOfDay(knownDay(today) - DAYS_WHOLE);
  const [old, recent] = await Promise.all([entriesBefore(studio, pupil, since), entriesSince(studio, pupil, since)]);
  return [...old, ...recent];
}

const LISTED = 60;

/** The newest entries of a pupil's log, struck out or not. */
export function listedEntries(studio: StudioDatabase, pupil: string): Promise<readonly ListedEntry[]> {
  return newestEntries(studio, pupil, LISTED);
}

/** Strikes an entry out, or takes that back. False where there is none. */
export function strike(
  studio: StudioDatabase,
  pupil: string,
  entry: string,
  isStruck: boolean,
  now = new Date(),
): Promise<boolean> {
  return strikeEntry(studio, pupil, entry, isStruck ? now : null);
}

/** All of a log that counts, by date. */
export async function wholeLog(
  studio: StudioDatabase,
  pupil: string,
): Promise<readonly (LogEntry & { readonly id: string })[]> {
  const entries: (LogEntry & { readonly id: string })[] = [];
  for await (const entry of allEntries(studio, pupil)) entries.push(entry);
  return entries.toSorted((a, b) => a.date.localeCompare(b.date));
}

export type JoinOutcome = 'joined' | 'missing' | 'changed';

/** Makes two pupils one, as the teacher says; the other goes into the bin, without its log. */
export async function joinTwoPupils(
  studio: StudioDatabase,
  keptId: string,
  otherId: string,
  now = new Date(),
): Promise<JoinOutcome> {
  const [kept, other] = await Promise.all([openPupil(studio, keptId), openPupil(studio, otherId)]);
  if (!kept || !other || keptId === otherId) return 'missing';
  const { pupil, playing } = joinPupils(kept.pupil, other.pupil, (taken) => {
    let number = 1;
    while (taken.includes(`i${number}`)) number += 1;
    return `i${number}`;
  });
  const isDone = await joinStoredPupils(
    studio,
    { id: keptId, version: kept.version, pupil },
    { id: otherId, version: other.version, playing },
    now,
  );
  return isDone ? 'joined' : 'changed';
}

/**
 * Makes a player of a group a pupil and ties the two. @returns the pupil's id; `undefined` where there is no such player
 * @throws QuotaReached
 */
export async function pupilFromGroup(
  studio: StudioDatabase,
  group: string,
  player: string,
  pupil: Pupil,
  now = new Date(),
): Promise<string | undefined> {
  ensureRoom('pupils', await countRows(studio, 'pupils'));
  const id = freshId();
  return (await addPupilOfPlayer(studio, id, pupil, { group, player }, now)) ? id : undefined;
}
