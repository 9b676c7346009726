import { parsedDocument } from './documents';
import type { StudioDatabase, StudioTable } from './studioDatabase';

/** How long what was removed can be restored, in days. */
export const BIN_DAYS = 30;

export const BIN_KINDS = ['tune', 'group', 'recipe', 'instrument'] as const;
export type BinKind = (typeof BIN_KINDS)[number];

/** Something in the bin. */
export interface BinEntry {
  readonly kind: BinKind;
  readonly id: string;
  readonly name: string;
  readonly removedAt: string;
  /** From then on it is gone for good. */
  readonly until: string;
}

interface Place {
  readonly table: StudioTable;
  readonly id: string;
  readonly name: string;
}

const PLACES: Readonly<Record<BinKind, Place>> = {
  tune: { table: 'tunes', id: 'tune_id', name: 'title' },
  group: { table: 'player_groups', id: 'group_id', name: 'name' },
  recipe: { table: 'saved_recipes', id: 'recipe_id', name: 'name' },
  instrument: { table: 'custom_instruments', id: 'instrument_id', name: 'name' },
};

const DAY = 86_400_000;
const MOST_LISTED = 500;

/** What lies in the bin, last removed first. */
export async function binOf(database: StudioDatabase): Promise<readonly BinEntry[]> {
  const lists = await Promise.all(
    BIN_KINDS.map(async (kind) => {
      const { table, id, name } = PLACES[kind];
      const rows = (await database
        .from(table)
        .whereNotNull('removed_at')
        .orderBy('removed_at', 'desc')
        .limit(MOST_LISTED)
        .select({ id, name }, 'removed_at')) as { id: string; name: string; removed_at: Date }[];
      return rows.map((row): BinEntry => ({
        kind,
        id: row.id,
        name: row.name,
        removedAt: row.removed_at.toISOString(),
        until: new Date(row.removed_at.getTime() + BIN_DAYS * DAY).toISOString(),
      }));
    }),
  );
  return lists.flat().toSorted((a, b) => b.removedAt.localeCompare(a.removedAt));
}

/** Takes something out of the bin, back to where it was. False when it was not in it. */
export async function restoreFromBin(database: StudioDatabase, kind: BinKind, id: string): Promise<boolean> {
  const place = PLACES[kind];
  return (
    (await database.from(place.table).where(place.id, id).whereNotNull('removed_at').update({ removed_at: null })) > 0
  );
}

/** Deletes something in the bin for good. False when it was not in it. */
export async function deleteFromBin(database: StudioDatabase, kind: BinKind, id: string): Promise<boolean> {
  const place = PLACES[kind];
  return (await database.from(place.table).where(place.id, id).whereNotNull('removed_at').delete()) > 0;
}

/** Deletes for good what has lain in the bin for 30 days. Gives its number. */
export async function emptyBin(database: StudioDatabase, now: Date): Promise<number> {
  const before = new Date(now.getTime() - BIN_DAYS * DAY);
  let gone = 0;
  for (const kind of BIN_KINDS)
    gone += Number(await database.from(PLACES[kind].table).where('removed_at', '<', before).delete());
  return gone;
}

/**
 * Takes a pupil's name out of every group, removed ones too. The player stays, without a name.
 * @returns how many players it was taken from
 */
export async function forgetPlayerName(database: StudioDatabase, name: string, now: Date): Promise<number> {
  const wanted = name.trim().toLocaleLowerCase();
  if (wanted === '') return 0;
  return database.transaction(async (inside) => {
    const rows = (await inside.from('player_groups').forUpdate().select('group_id', 'document')) as {
      group_id: string;
      document: unknown;
    }[];
    let forgotten = 0;
    for (const row of rows) {
      const group = parsedDocument(row.document) as { readonly players?: readonly { readonly name?: unknown }[] };
      const isMeant = (player: { readonly name?: unknown }) =>
        typeof player.name === 'string' && player.name.trim().toLocaleLowerCase() === wanted;
      const found = (group.players ?? []).filter(isMeant).length;
      if (found === 0) continue;
      forgotten += found;
      const players = (group.players ?? []).map((player) => (isMeant(player) ? { ...player, name: '' } : player));
      await inside
        .from('player_groups')
        .where('group_id', row.group_id)
        .update({ document: JSON.stringify({ ...group, players }), updated_at: now })
        .increment('version', 1);
    }
    return forgotten;
  });
}
