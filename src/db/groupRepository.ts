import type { Group } from '../core/keys/group';
import type { CustomInstrument } from '../core/instruments/customInstrument';
import { parsedDocument } from './documents';
import type { StudioDatabase } from './studioDatabase';

/** A group as it lies in the database: not yet checked. */
export interface StoredGroup {
  readonly id: string;
  readonly version: number;
  readonly document: unknown;
}

interface GroupRow {
  group_id: string;
  version: number;
  document: unknown;
}

/** All groups of the studio, in the order in which they were made. */
export async function allGroups(database: StudioDatabase): Promise<readonly StoredGroup[]> {
  const rows = (await database
    .from('player_groups')
    .whereNull('removed_at')
    .orderBy('created_at')
    .orderBy('group_id')
    .limit(200)
    .select('group_id', 'version', 'document')) as GroupRow[];
  return rows.map(({ group_id: id, version, document }) => ({ id, version, document: parsedDocument(document) }));
}

export async function addGroup(database: StudioDatabase, id: string, group: Group, now: Date): Promise<void> {
  await database.insert('player_groups', {
    group_id: id,
    name: group.name,
    version: 1,
    document: JSON.stringify(group),
    created_at: now,
    updated_at: now,
    removed_at: null,
  });
}

export type GroupSaveOutcome =
  | { readonly kind: 'saved'; readonly version: number }
  | { readonly kind: 'stale'; readonly current: StoredGroup }
  | { readonly kind: 'missing' };

/** Saves on top of the version the screen started from; a stale save changes nothing. */
export async function saveGroup(
  database: StudioDatabase,
  id: string,
  startedFrom: number,
  group: Group,
  now: Date,
): Promise<GroupSaveOutcome> {
  return database.transaction(async (inside): Promise<GroupSaveOutcome> => {
    const row = (await inside
      .from('player_groups')
      .where('group_id', id)
      .whereNull('removed_at')
      .forUpdate()
      .first('version', 'document')) as Pick<GroupRow, 'version' | 'document'> | undefined;
    if (!row) return { kind: 'missing' };
    if (row.version !== startedFrom)
      return { kind: 'stale', current: { id, version: row.version, document: parsedDocument(row.document) } };
    await inside
      .from('player_groups')
      .where('group_id', id)
      .update({ name: group.name, version: row.version + 1, document: JSON.stringify(group), updated_at: now });
    return { kind: 'saved', version: row.version + 1 };
  });
}

/** Takes a group away so that it can come back. False when it was not there. */
export async function removeGroup(database: StudioDatabase, id: string, now: Date): Promise<boolean> {
  return (
    (await database.from('player_groups').where('group_id', id).whereNull('removed_at').update({ removed_at: now })) > 0
  );
}

export async function restoreGroup(database: StudioDatabase, id: string): Promise<boolean> {
  return (
    (await database
      .from('player_groups')
      .where('group_id', id)
      .whereNotNull('removed_at')
      .update({ removed_at: null })) > 0
  );
}

/** The studio's custom instruments by name; documents are not yet checked. */
export async function customInstruments(database: StudioDatabase): Promise<readonly unknown[]> {
  const rows = (await database
    .from('custom_instruments')
    .whereNull('removed_at')
    .orderBy('name')
    .limit(200)
    .select('document')) as { document: unknown }[];
  return rows.map(({ document }) => parsedDocument(document));
}

/** Adds a custom instrument or changes the one of its id. */
export async function saveCustomInstrument(
  database: StudioDatabase,
  custom: CustomInstrument,
  now: Date,
): Promise<void> {
  const row = { name: custom.name, document: JSON.stringify(custom), updated_at: now, removed_at: null };
  await database
    .insert('custom_instruments', { instrument_id: custom.id, ...row })
    .onConflict(['studio_id', 'instrument_id'])
    .merge(Object.keys(row));
}

export async function removeCustomInstrument(database: StudioDatabase, id: string, now: Date): Promise<boolean> {
  return (
    (await database
      .from('custom_instruments')
      .where('instrument_id', id)
      .whereNull('removed_at')
      .update({ removed_at: now })) > 0
  );
}
