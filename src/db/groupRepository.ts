import type { Group } from '../core/keys';
import type { CustomInstrument } from '../core/instruments';
import { intoBin, OUT_OF_BIN } from './binRepository';
import { parsedDocument } from './documents';
import { allRows, rowOf, rowsAfter } from './pages';
import { savePlayersPupils } from './pupilRepository';
import type { StudioDatabase } from './studioDatabase';

/** A group as it lies in the database: not yet checked. */
export interface StoredGroup {
  readonly id: string;
  readonly version: number;
  readonly document: unknown;
}

// A type, not an interface: only a type counts as a record of columns.
type GroupRow = {
  group_id: string;
  version: number;
  document: unknown;
  created_at: Date;
};

const GROUP_COLUMNS = ['group_id', 'version', 'document', 'created_at'] as const;

function storedGroup({ group_id: id, version, document }: GroupRow): StoredGroup {
  return { id, version, document: parsedDocument(document) };
}

/** All groups of the studio, in the order in which they were made. */
export async function allGroups(database: StudioDatabase): Promise<readonly StoredGroup[]> {
  const rows: GroupRow[] = [];
  for await (const row of allRows<GroupRow>(database, 'player_groups', GROUP_COLUMNS)) rows.push(row);
  return rows.toSorted((a, b) => a.created_at.getTime() - b.created_at.getTime()).map(storedGroup);
}

/** Some groups, by id, after the last one of the page before. */
export async function groupsAfter(
  database: StudioDatabase,
  after: string | undefined,
  most: number,
): Promise<readonly StoredGroup[]> {
  return (await rowsAfter<GroupRow>(database, 'player_groups', GROUP_COLUMNS, after, most)).map(storedGroup);
}

/** A group by its id. */
export async function findGroup(database: StudioDatabase, id: string): Promise<StoredGroup | undefined> {
  const row = await rowOf<GroupRow>(database, 'player_groups', GROUP_COLUMNS, id);
  return row && storedGroup(row);
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
    await savePlayersPupils(inside, id, group, now);
    return { kind: 'saved', version: row.version + 1 };
  });
}

/** Takes a group away so that it can come back. False when it was not there. */
export async function removeGroup(database: StudioDatabase, id: string, now: Date): Promise<boolean> {
  return (await database.from('player_groups').where('group_id', id).whereNull('removed_at').update(intoBin(now))) > 0;
}

export async function restoreGroup(database: StudioDatabase, id: string): Promise<boolean> {
  return (await database.from('player_groups').where('group_id', id).whereNotNull('removed_at').update(OUT_OF_BIN)) > 0;
}

type InstrumentRow = { instrument_id: string; name: string; document: unknown };
const INSTRUMENT_COLUMNS = ['instrument_id', 'name', 'document'] as const;

/** A document of a list as it lies in the database, not yet checked. */
export interface StoredEntry {
  readonly id: string;
  readonly document: unknown;
}

/** The studio's custom instruments by name. */
export async function customInstruments(database: StudioDatabase): Promise<readonly StoredEntry[]> {
  const rows: InstrumentRow[] = [];
  for await (const row of allRows<InstrumentRow>(database, 'custom_instruments', INSTRUMENT_COLUMNS)) rows.push(row);
  return rows
    .toSorted((a, b) => a.name.localeCompare(b.name, 'en'))
    .map(({ instrument_id: id, document }) => ({ id, document: parsedDocument(document) }));
}

/** A custom instrument by its id. */
export async function findCustomInstrument(database: StudioDatabase, id: string): Promise<StoredEntry | undefined> {
  const row = await rowOf<InstrumentRow>(database, 'custom_instruments', INSTRUMENT_COLUMNS, id);
  return row && { id, document: parsedDocument(row.document) };
}

/** Adds a custom instrument or changes the one of its id. */
export async function saveCustomInstrument(
  database: StudioDatabase,
  custom: CustomInstrument,
  now: Date,
): Promise<void> {
  const row = { name: custom.name, document: JSON.stringify(custom), updated_at: now, ...OUT_OF_BIN };
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
      .update(intoBin(now))) > 0
  );
}
