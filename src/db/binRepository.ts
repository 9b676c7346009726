import { parsedDocument } from './documents';
import type { StudioDatabase, StudioTable } from './studioDatabase';

/** How long what was removed can be restored, in days. */
const BIN_DAYS = 30;
const DAY = 86_400_000;

/** The columns of something that is put into the bin now. */
export function intoBin(now: Date): { readonly removed_at: Date; readonly bin_until: Date } {
  return { removed_at: now, bin_until: new Date(now.getTime() + BIN_DAYS * DAY) };
}

/** The columns of something that is not in the bin. */
export const OUT_OF_BIN = { removed_at: null, bin_until: null } as const;

export const BIN_KINDS = ['tune', 'group', 'pupil', 'recipe', 'instrument'] as const;
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
  pupil: { table: 'pupils', id: 'pupil_id', name: 'name' },
  recipe: { table: 'saved_recipes', id: 'recipe_id', name: 'name' },
  instrument: { table: 'custom_instruments', id: 'instrument_id', name: 'name' },
};

/** Shown at a time; what is older comes up as the newer goes. */
const MAX_LISTED = 500;

/** What lies in the bin, last removed first. */
export async function binOf(database: StudioDatabase): Promise<readonly BinEntry[]> {
  const lists = await Promise.all(
    BIN_KINDS.map(async (kind) => {
      const { table, id, name } = PLACES[kind];
      const rows = (await database
        .from(table)
        .whereNotNull('removed_at')
        .orderBy('removed_at', 'desc')
        .limit(MAX_LISTED)
        .select({ id, name }, 'removed_at', 'bin_until')) as {
        id: string;
        name: string;
        removed_at: Date;
        bin_until: Date;
      }[];
      return rows.map((row): BinEntry => ({
        kind,
        id: row.id,
        name: row.name,
        removedAt: row.removed_at.toISOString(),
        until: row.bin_until.toISOString(),
      }));
    }),
  );
  return lists.flat().toSorted((a, b) => b.removedAt.localeCompare(a.removedAt));
}

/** How many things lie in the bin. */
export async function countBin(database: StudioDatabase): Promise<number> {
  const counts = await Promise.all(
    BIN_KINDS.map(async (kind) => {
      const query = database.from(PLACES[kind].table).whereNotNull('removed_at').count({ rows: '*' }).first();
      return Number(((await query) as { readonly rows: number | string } | undefined)?.rows ?? 0);
    }),
  );
  return counts.reduce((sum, count) => sum + count, 0);
}

/** Takes something out of the bin, back to where it was. False when it was not in it. */
export async function restoreFromBin(database: StudioDatabase, kind: BinKind, id: string): Promise<boolean> {
  const place = PLACES[kind];
  return (await database.from(place.table).where(place.id, id).whereNotNull('removed_at').update(OUT_OF_BIN)) > 0;
}

/** Deletes something in the bin for good. False when it was not in it. */
export async function deleteFromBin(database: StudioDatabase, kind: BinKind, id: string): Promise<boolean> {
  const place = PLACES[kind];
  return (await database.from(place.table).where(place.id, id).whereNotNull('removed_at').delete()) > 0;
}

/**
 * Tidied once a day, and at each start; more than this between two times is a clock that jumped, or a program that did
 * not run.
 */
const MAX_GAP = 26 * 3_600_000;

/**
 * Deletes for good what has lain in the bin for 30 days while somebody could have restored it. Days in which the
 * program did not run, and a clock that is set forward, do not count; after one that is set back nothing stays longer
 * than 30 days from now.
 * @returns how many were deleted
 */
export async function emptyBin(database: StudioDatabase, now: Date): Promise<number> {
  return database.transaction(async (inside) => {
    const studio = (await inside.from('studios').forUpdate().first('tidied_at')) as
      { readonly tidied_at: Date | null } | undefined;
    const gap = studio?.tidied_at ? now.getTime() - studio.tidied_at.getTime() : 0;
    await inside.from('studios').update({ tidied_at: now });
    let gone = 0;
    for (const kind of BIN_KINDS) {
      if (gap > MAX_GAP) await moveUntil(inside, kind, (until) => until + gap - MAX_GAP);
      if (gap < 0) await moveUntil(inside, kind, (until) => Math.min(until, now.getTime() + BIN_DAYS * DAY));
      gone += Number(
        await inside.from(PLACES[kind].table).whereNotNull('removed_at').where('bin_until', '<', now).delete(),
      );
    }
    return gone;
  });
}

/** @param move from when something is deleted to when it is instead, in milliseconds */
async function moveUntil(database: StudioDatabase, kind: BinKind, move: (until: number) => number): Promise<void> {
  const { table, id } = PLACES[kind];
  const rows = (await database.from(table).whereNotNull('removed_at').select({ id }, 'bin_until')) as {
    id: string;
    bin_until: Date;
  }[];
  for (const row of rows)
    await database
      .from(table)
      .where(id, row.id)
      .update({ bin_until: new Date(move(row.bin_until.getTime())) });
}

/**
 * Takes a pupil's name out of every group, removed ones too: the player stays, without a name. Pupils of that name are
 * deleted with their logs.
 * @returns from how many players and pupils it was taken
 */
export async function forgetPlayerName(database: StudioDatabase, name: string, now: Date): Promise<number> {
  const wanted = name.trim().toLocaleLowerCase();
  if (wanted === '') return 0;
  return database.transaction(async (inside) => {
    const rows = (await inside.from('player_groups').forUpdate().select('group_id', 'document')) as {
      group_id: string;
      document: unknown;
    }[];
    let forgotten = Number(await inside.from('pupils').whereRaw('LOWER(TRIM(name)) = ?', [wanted]).delete());
    for (const row of rows) {
      const group = parsedDocument(row.document) as { readonly players?: readonly { readonly name?: unknown }[] };
      const isMeant = (player: { readonly name?: unknown }) =>
        typeof player.name === 'string' && player.name.trim().toLocaleLowerCase() === wanted;
      const found = (group.players ?? []).filter(isMeant).length;
      if (found === 0) continue;
      forgotten += found;
      const players = (group.players ?? []).map((player) =>
        isMeant(player) ? { ...player, name: '', pupil: undefined, playing: undefined } : player,
      );
      await inside
        .from('player_groups')
        .where('group_id', row.group_id)
        .update({ document: JSON.stringify({ ...group, players }), updated_at: now })
        .increment('version', 1);
    }
    return forgotten;
  });
}
