import { dequal } from 'dequal';
import type { Group, GroupPlayer } from '../core/keys';
import { playerAsPupil, type Pupil, pupilAsPlayer } from '../core/planning';
import { intoBin, OUT_OF_BIN } from './binRepository';
import { parsedDocument } from './documents';
import { allRows, rowOf } from './pages';
import type { StudioDatabase } from './studioDatabase';

/** A pupil as it lies in the database: not yet checked. */
export interface StoredPupil {
  readonly id: string;
  readonly version: number;
  readonly document: unknown;
}

type PupilRow = { pupil_id: string; name: string; version: number; document: unknown };
const PUPIL_COLUMNS = ['pupil_id', 'name', 'version', 'document'] as const;

function storedPupil({ pupil_id: id, version, document }: PupilRow): StoredPupil {
  return { id, version, document: parsedDocument(document) };
}

/** All pupils of the studio by name. */
export async function allPupils(database: StudioDatabase): Promise<readonly StoredPupil[]> {
  const rows: PupilRow[] = [];
  for await (const row of allRows<PupilRow>(database, 'pupils', PUPIL_COLUMNS)) rows.push(row);
  return rows.toSorted((a, b) => a.name.localeCompare(b.name, 'en')).map(storedPupil);
}

export async function findPupil(database: StudioDatabase, id: string): Promise<StoredPupil | undefined> {
  const row = await rowOf<PupilRow>(database, 'pupils', PUPIL_COLUMNS, id);
  return row && storedPupil(row);
}

/**
 * Brings pupils up to a group that is being saved: what was changed of a player there is changed at the pupil, and in
 * every other group.
 */
export async function savePlayersPupils(
  inside: StudioDatabase,
  groupId: string,
  group: Group,
  now: Date,
): Promise<void> {
  const ids = [...new Set(group.players.flatMap(({ pupil }) => pupil ?? []))];
  for (const { id, document } of await pupilsWithIds(inside, ids)) {
    const player = group.players.find((one) => one.pupil === id);
    if (!player) continue;
    const before = document as Pupil;
    const after = pupilAsPlayer(before, player);
    if (dequal(after, before)) continue;
    await inside
      .from('pupils')
      .where('pupil_id', id)
      .update({ name: after.name, document: JSON.stringify(after), updated_at: now })
      .increment('version', 1);
    await refreshPlayers(inside, id, after, now, groupId);
  }
}

/** Players of groups as their pupil is now; a screen that has such a group open is told when it saves. */
async function refreshPlayers(
  inside: StudioDatabase,
  id: string,
  pupil: Pupil,
  now: Date,
  but?: string,
): Promise<void> {
  await changePlayers(
    inside,
    now,
    (player) => {
      if (player.pupil !== id) return player;
      const after = playerAsPupil(player as unknown as GroupPlayer, pupil);
      return dequal(after, player) ? player : (after as unknown as AnyPlayer);
    },
    but,
  );
}

/** Whether an id is in use, also by somebody in the bin. */
export async function isPupilIdTaken(database: StudioDatabase, id: string): Promise<boolean> {
  return (await database.from('pupils').where('pupil_id', id).first('version')) !== undefined;
}

/** Some pupils by their ids; who is in the bin is not there. */
async function pupilsWithIds(database: StudioDatabase, ids: readonly string[]): Promise<readonly StoredPupil[]> {
  if (ids.length === 0) return [];
  const rows = (await database
    .from('pupils')
    .whereNull('removed_at')
    .whereIn('pupil_id', [...new Set(ids)])
    .select(...PUPIL_COLUMNS)) as PupilRow[];
  return rows.map(storedPupil);
}

export async function addPupil(database: StudioDatabase, id: string, pupil: Pupil, now: Date): Promise<void> {
  await database.insert('pupils', {
    pupil_id: id,
    name: pupil.name,
    version: 1,
    document: JSON.stringify(pupil),
    created_at: now,
    updated_at: now,
    removed_at: null,
  });
}

/** Adds a pupil who is a player of a group already, and ties the two. False where there is no such player. */
export async function addPupilOfPlayer(
  database: StudioDatabase,
  id: string,
  pupil: Pupil,
  at: { readonly group: string; readonly player: string },
  now: Date,
): Promise<boolean> {
  return database.transaction(async (inside) => {
    const row = (await inside
      .from('player_groups')
      .where('group_id', at.group)
      .whereNull('removed_at')
      .forUpdate()
      .first('document')) as { document: unknown } | undefined;
    const group = row && (parsedDocument(row.document) as { readonly players?: readonly AnyPlayer[] });
    const isThere = group?.players?.some((player) => player.id === at.player && player.pupil === undefined) ?? false;
    if (!group || !isThere) return false;
    await addPupil(inside, id, pupil, now);
    const players = group.players?.map((player) =>
      player.id === at.player ? { ...player, pupil: id, playing: pupil.playing[0]?.id } : player,
    );
    await inside
      .from('player_groups')
      .where('group_id', at.group)
      .update({ document: JSON.stringify({ ...group, players }), updated_at: now })
      .increment('version', 1);
    return true;
  });
}

export type PupilSaveOutcome =
  | { readonly kind: 'saved'; readonly version: number }
  | { readonly kind: 'stale'; readonly current: StoredPupil }
  | { readonly kind: 'missing' };

/** Saves on top of the version the screen started from; a stale save changes nothing. */
export async function savePupil(
  database: StudioDatabase,
  id: string,
  startedFrom: number,
  pupil: Pupil,
  now: Date,
): Promise<PupilSaveOutcome> {
  return database.transaction(async (inside): Promise<PupilSaveOutcome> => {
    const row = (await inside
      .from('pupils')
      .where('pupil_id', id)
      .whereNull('removed_at')
      .forUpdate()
      .first(...PUPIL_COLUMNS)) as PupilRow | undefined;
    if (!row) return { kind: 'missing' };
    if (row.version !== startedFrom) return { kind: 'stale', current: storedPupil(row) };
    await inside
      .from('pupils')
      .where('pupil_id', id)
      .update({ name: pupil.name, version: row.version + 1, document: JSON.stringify(pupil), updated_at: now });
    await refreshPlayers(inside, id, pupil, now);
    return { kind: 'saved', version: row.version + 1 };
  });
}

/** Takes a pupil away so that they can come back, log and all. False when they were not there. */
export async function removePupil(database: StudioDatabase, id: string, now: Date): Promise<boolean> {
  return (await database.from('pupils').where('pupil_id', id).whereNull('removed_at').update(intoBin(now))) > 0;
}

export async function restorePupil(database: StudioDatabase, id: string): Promise<boolean> {
  return (await database.from('pupils').where('pupil_id', id).whereNotNull('removed_at').update(OUT_OF_BIN)) > 0;
}

/** Deletes a pupil for good, with the log and with the name in every group. False when there is none. */
export async function deletePupil(database: StudioDatabase, id: string, now: Date): Promise<boolean> {
  return database.transaction(async (inside) => {
    const gone = Number(await inside.from('pupils').where('pupil_id', id).delete());
    if (gone === 0) return false;
    await changePlayers(inside, now, (player) => {
      if (player.pupil !== id) return player;
      const { pupil: _, playing: _playing, ...rest } = player;
      return { ...rest, name: '' };
    });
    return true;
  });
}

type AnyPlayer = { readonly [field: string]: unknown };

/** Changes players in all groups, removed ones too. @param but the group that is being saved itself */
async function changePlayers(
  database: StudioDatabase,
  now: Date,
  change: (player: AnyPlayer) => AnyPlayer,
  but?: string,
): Promise<void> {
  const rows = (await database.from('player_groups').forUpdate().select('group_id', 'document')) as {
    group_id: string;
    document: unknown;
  }[];
  for (const row of rows.filter(({ group_id }) => group_id !== but)) {
    const group = parsedDocument(row.document) as { readonly players?: readonly AnyPlayer[] };
    const players = (group.players ?? []).map(change);
    if (players.every((player, k) => player === group.players?.[k])) continue;
    await database
      .from('player_groups')
      .where('group_id', row.group_id)
      .update({ document: JSON.stringify({ ...group, players }), updated_at: now })
      .increment('version', 1);
  }
}

/**
 * Makes two pupils one: the kept document is saved, the other's log and places in groups become theirs, and the other is
 * put into the bin. Nothing of it where either was changed meanwhile.
 */
export async function joinStoredPupils(
  database: StudioDatabase,
  kept: { readonly id: string; readonly version: number; readonly pupil: Pupil },
  other: { readonly id: string; readonly version: number; readonly playing: ReadonlyMap<string, string> },
  now: Date,
): Promise<boolean> {
  return database.transaction(async (inside) => {
    const versions = (await inside
      .from('pupils')
      .whereIn('pupil_id', [kept.id, other.id])
      .whereNull('removed_at')
      .forUpdate()
      .select('pupil_id', 'version')) as { pupil_id: string; version: number }[];
    const isAsRead = [kept, other].every(({ id, version }) =>
      versions.some((row) => row.pupil_id === id && row.version === version),
    );
    if (!isAsRead) return false;
    await inside
      .from('pupils')
      .where('pupil_id', kept.id)
      .update({ document: JSON.stringify(kept.pupil), version: kept.version + 1, updated_at: now });
    // An entry of both logs has one id in each: it is kept once.
    const ours = (await inside.from('practice_log').where('pupil_id', kept.id).select('entry_id')) as {
      entry_id: string;
    }[];
    const taken = new Set(ours.map(({ entry_id }) => entry_id));
    const theirs = (await inside.from('practice_log').where('pupil_id', other.id).select('entry_id')) as {
      entry_id: string;
    }[];
    const twice = theirs.filter(({ entry_id }) => taken.has(entry_id)).map(({ entry_id }) => entry_id);
    await inside
      .from('practice_log')
      .where('pupil_id', other.id)
      .whereNotIn('entry_id', twice)
      .update({ pupil_id: kept.id });
    await changePlayers(inside, now, (player) =>
      player.pupil === other.id
        ? { ...player, pupil: kept.id, playing: other.playing.get(String(player.playing)) ?? player.playing }
        : player,
    );
    await refreshPlayers(inside, kept.id, kept.pupil, now);
    await inside.from('pupils').where('pupil_id', other.id).update(intoBin(now));
    return true;
  });
}
