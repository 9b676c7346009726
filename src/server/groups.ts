import type { CustomInstrument } from '../core/instruments';
import type { Group } from '../core/keys';
import {
  addGroup,
  allGroups,
  customInstruments,
  findCustomInstrument,
  findGroup,
  groupsAfter,
  removeCustomInstrument,
  removeGroup,
  restoreGroup,
  saveCustomInstrument,
  saveGroup,
  type GroupSaveOutcome,
  type StoredEntry,
  type StoredGroup,
} from '../db/groupRepository';
import { countRows } from '../db/pages';
import type { StudioDatabase } from '../db/studioDatabase';
import type { Checked } from './checked';
import { addOnce } from './freshId';
import { checkGroup, checkCustomInstrument } from './groupSchema';
import { log } from './log';
import { ensureRoom } from './quota';

export interface OpenedGroup {
  readonly id: string;
  readonly version: number;
  readonly group: Group;
}

/** The studio's groups. One that is damaged is left out and told in the log, so that the others can be worked with. */
export async function listGroups(studio: StudioDatabase): Promise<readonly OpenedGroup[]> {
  return (await allGroups(studio)).flatMap((stored) => soundGroup(stored) ?? []);
}

/** Groups of one page of the list. */
const PAGE = 50;

/** Some groups by id, after the last one of the page before; `next` is where the next page begins. */
export async function pageOfGroups(
  studio: StudioDatabase,
  after: string | undefined,
): Promise<{ readonly groups: readonly OpenedGroup[]; readonly next?: string }> {
  const stored = await groupsAfter(studio, after, PAGE + 1);
  const page = stored.slice(0, PAGE);
  const next = stored.length > PAGE ? page.at(-1)?.id : undefined;
  return { groups: page.flatMap((one) => soundGroup(one) ?? []), ...(next !== undefined && { next }) };
}

/** A group by its id. @throws Error where the document is damaged */
export async function openGroup(studio: StudioDatabase, id: string): Promise<OpenedGroup | undefined> {
  const stored = await findGroup(studio, id);
  return stored && openedGroup(stored);
}

/** @throws Error where the document is damaged */
export function openedGroup({ id, version, document }: StoredGroup): OpenedGroup {
  const checked = checkGroup(document);
  if (!checked.ok) throw new Error(`the stored group ${id} is damaged: ${checked.problem.join('; ')}`);
  return { id, version, group: checked.value };
}

function soundGroup(stored: StoredGroup): OpenedGroup | undefined {
  const group = soundEntry('group', stored, checkGroup);
  return group && { id: stored.id, version: stored.version, group };
}

/** The checked document of an entry of a list; nothing, and a line in the log, where it is damaged. */
export function soundEntry<Value>(
  kind: string,
  { id, document }: StoredEntry,
  check: (document: unknown) => Checked<Value>,
): Value | undefined {
  const checked = check(document);
  if (!checked.ok) log.error({ kind, id }, 'a stored document is damaged and was left out');
  return checked.ok ? checked.value : undefined;
}

/** Adds a group and gives its id. @throws QuotaReached */
export async function newGroup(studio: StudioDatabase, group: Group, now = new Date()): Promise<string> {
  ensureRoom('groups', await countRows(studio, 'player_groups'));
  return addOnce(studio, 'group', (id) => addGroup(studio, id, group, now));
}

export function changeGroup(
  studio: StudioDatabase,
  id: string,
  version: number,
  group: Group,
  now = new Date(),
): Promise<GroupSaveOutcome> {
  return saveGroup(studio, id, version, group, now);
}

export function takeGroupAway(studio: StudioDatabase, id: string, now = new Date()): Promise<boolean> {
  return removeGroup(studio, id, now);
}

export function bringGroupBack(studio: StudioDatabase, id: string): Promise<boolean> {
  return restoreGroup(studio, id);
}

/** The studio's custom instruments. One that is damaged is left out and told in the log. */
export async function listCustomInstruments(studio: StudioDatabase): Promise<readonly CustomInstrument[]> {
  return (await customInstruments(studio)).flatMap(
    (stored) => soundEntry('instrument', stored, checkCustomInstrument) ?? [],
  );
}

/** A custom instrument by its id. @throws Error where the document is damaged */
export async function openCustomInstrument(studio: StudioDatabase, id: string): Promise<CustomInstrument | undefined> {
  const stored = await findCustomInstrument(studio, id);
  if (!stored) return undefined;
  const checked = checkCustomInstrument(stored.document);
  if (!checked.ok) throw new Error(`the stored instrument ${id} is damaged: ${checked.problem.join('; ')}`);
  return checked.value;
}

/** Saves a custom instrument: a new one, or what has changed of one. @throws QuotaReached */
export async function saveInstrument(
  studio: StudioDatabase,
  custom: CustomInstrument,
  now = new Date(),
): Promise<void> {
  if (!(await findCustomInstrument(studio, custom.id)))
    ensureRoom('custom instruments', await countRows(studio, 'custom_instruments'));
  return saveCustomInstrument(studio, custom, now);
}

export function dropInstrument(studio: StudioDatabase, id: string, now = new Date()): Promise<boolean> {
  return removeCustomInstrument(studio, id, now);
}
