import { parsedDocument } from './documents';
import type { StudioDatabase } from './studioDatabase';

/** For whom a pack is: one pupil, or a group. */
export type HandoutFor = { readonly pupil: string } | { readonly group: string };

/** A pack that was handed out by a link. */
export interface StoredHandout {
  readonly id: string;
  readonly for: HandoutFor;
  /** Not yet checked. */
  readonly choice: unknown;
  /** The date that its week begins on. */
  readonly date: string;
  readonly madeAt: Date;
  readonly endsAt: Date;
  readonly seenAt?: Date;
}

interface HandoutRow {
  handout_id: string;
  pupil_id: string | null;
  group_id: string | null;
  choice: unknown;
  for_date: string;
  made_at: Date;
  ends_at: Date;
  seen_at: Date | null;
}
const COLUMNS = [
  'handout_id',
  'pupil_id',
  'group_id',
  'choice',
  'for_date',
  'made_at',
  'ends_at',
  'seen_at',
] as const satisfies readonly (keyof HandoutRow)[];

function handoutOf(row: HandoutRow): StoredHandout {
  return {
    id: row.handout_id,
    for: row.pupil_id === null ? { group: row.group_id ?? '' } : { pupil: row.pupil_id },
    choice: parsedDocument(row.choice),
    date: row.for_date,
    madeAt: row.made_at,
    endsAt: row.ends_at,
    ...(row.seen_at && { seenAt: row.seen_at }),
  };
}

const forColumns = (to: HandoutFor) =>
  'pupil' in to ? { pupil_id: to.pupil, group_id: null } : { pupil_id: null, group_id: to.group };

/** Adds a handout. False where there is no such pupil or group. */
export async function addHandout(
  database: StudioDatabase,
  handout: Pick<StoredHandout, 'id' | 'for' | 'choice' | 'date' | 'madeAt' | 'endsAt'> & { readonly hash: string },
): Promise<boolean> {
  const { for: to } = handout;
  const known =
    'pupil' in to
      ? await database.from('pupils').where('pupil_id', to.pupil).whereNull('removed_at').first('pupil_id')
      : await database.from('player_groups').where('group_id', to.group).whereNull('removed_at').first('group_id');
  if (!known) return false;
  await database.insert('handouts', {
    handout_id: handout.id,
    link_hash: handout.hash,
    ...forColumns(to),
    choice: JSON.stringify(handout.choice),
    for_date: handout.date,
    made_at: handout.madeAt,
    ends_at: handout.endsAt,
    ended_at: null,
    seen_at: null,
  });
  return true;
}

/** Those that can be opened still, the newest first. */
export async function openHandouts(
  database: StudioDatabase,
  to: HandoutFor,
  now: Date,
): Promise<readonly StoredHandout[]> {
  const rows = (await database
    .from('handouts')
    .where('pupil' in to ? { pupil_id: to.pupil } : { group_id: to.group })
    .whereNull('ended_at')
    .where('ends_at', '>', now)
    .orderBy('made_at', 'desc')
    .select(...COLUMNS)) as HandoutRow[];
  return rows.map(handoutOf);
}

export async function findHandout(database: StudioDatabase, id: string): Promise<StoredHandout | undefined> {
  const row = (await database
    .from('handouts')
    .where('handout_id', id)
    .first(...COLUMNS)) as HandoutRow | undefined;
  return row && handoutOf(row);
}

/** False where there was none to end. */
export async function endHandout(database: StudioDatabase, id: string, now: Date): Promise<boolean> {
  const ended = await database
    .from('handouts')
    .where('handout_id', id)
    .whereNull('ended_at')
    .where('ends_at', '>', now)
    .update({ ended_at: now });
  return Number(ended) > 0;
}

export async function noteHandoutUsed(database: StudioDatabase, id: string, now: Date): Promise<void> {
  await database.from('handouts').where('handout_id', id).update({ seen_at: now });
}

/** What has ended long ago goes. */
export async function deleteEndedHandouts(database: StudioDatabase, before: Date): Promise<void> {
  await database.from('handouts').where('ends_at', '<', before).delete();
}
