import type { StudioDatabase } from './studioDatabase';

/** A link by which a pupil comes to their own stand. */
export interface PupilLink {
  readonly madeAt: Date;
  readonly endsAt: Date;
  readonly seenAt?: Date;
}

/** A new link; those before it end. False where there is no such pupil. */
export async function renewPupilLink(
  database: StudioDatabase,
  pupil: string,
  link: { readonly hash: string; readonly endsAt: Date },
  now: Date,
): Promise<boolean> {
  const known = await database.from('pupils').where('pupil_id', pupil).whereNull('removed_at').first('pupil_id');
  if (!known) return false;
  await endPupilLinks(database, pupil, now);
  await database.insert('pupil_links', {
    link_hash: link.hash,
    pupil_id: pupil,
    made_at: now,
    ends_at: link.endsAt,
    ended_at: null,
    seen_at: null,
  });
  return true;
}

/** How many links were open until now. */
export async function endPupilLinks(database: StudioDatabase, pupil: string, now: Date): Promise<number> {
  return Number(
    await database.from('pupil_links').where('pupil_id', pupil).whereNull('ended_at').update({ ended_at: now }),
  );
}

export async function openPupilLink(
  database: StudioDatabase,
  pupil: string,
  now: Date,
): Promise<PupilLink | undefined> {
  const row = (await database
    .from('pupil_links')
    .where('pupil_id', pupil)
    .whereNull('ended_at')
    .where('ends_at', '>', now)
    .first('made_at', 'ends_at', 'seen_at')) as { made_at: Date; ends_at: Date; seen_at: Date | null } | undefined;
  return row && { madeAt: row.made_at, endsAt: row.ends_at, ...(row.seen_at && { seenAt: row.seen_at }) };
}

export async function notePupilLinkUsed(database: StudioDatabase, hash: string, now: Date): Promise<void> {
  await database.from('pupil_links').where('link_hash', hash).update({ seen_at: now });
}
