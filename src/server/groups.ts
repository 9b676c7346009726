import type { CustomInstrument } from '../core/instruments/customInstrument';
import type { Group } from '../core/keys/group';
import {
  addGroup,
  allGroups,
  saveCustomInstrument,
  customInstruments,
  removeGroup,
  removeCustomInstrument,
  restoreGroup,
  saveGroup,
  type GroupSaveOutcome,
  type StoredGroup,
} from '../db/groupRepository';
import type { StudioDatabase } from '../db/studioDatabase';
import { freshId } from './freshId';
import { checkGroup, checkCustomInstrument } from './groupSchema';

export interface OpenedGroup {
  readonly id: string;
  readonly version: number;
  readonly group: Group;
}

/** The studio's groups. A document that no longer passes its checks is a defect, told with the reason. */
export async function listGroups(studio: StudioDatabase): Promise<readonly OpenedGroup[]> {
  return (await allGroups(studio)).map(openedGroup);
}

/** @throws Error where the document is damaged */
export function openedGroup({ id, version, document }: StoredGroup): OpenedGroup {
  const checked = checkGroup(document);
  if (!checked.ok) throw new Error(`the stored group ${id} is damaged: ${checked.problem.join('; ')}`);
  return { id, version, group: checked.value };
}

/** Adds a group and gives its id. */
export async function newGroup(studio: StudioDatabase, group: Group, now = new Date()): Promise<string> {
  const id = freshId();
  await addGroup(studio, id, group, now);
  return id;
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

/** The studio's custom instruments. */
export async function listCustomInstruments(studio: StudioDatabase): Promise<readonly CustomInstrument[]> {
  return (await customInstruments(studio)).map((document) => {
    const checked = checkCustomInstrument(document);
    if (!checked.ok) throw new Error(`a stored instrument is damaged: ${checked.problem.join('; ')}`);
    return checked.value;
  });
}

/** Saves a custom instrument: a new one, or what has changed of one. */
export function saveInstrument(studio: StudioDatabase, custom: CustomInstrument, now = new Date()): Promise<void> {
  return saveCustomInstrument(studio, custom, now);
}

export function dropInstrument(studio: StudioDatabase, id: string, now = new Date()): Promise<boolean> {
  return removeCustomInstrument(studio, id, now);
}
