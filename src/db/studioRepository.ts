import type { StudioDatabase, StudioTable } from './studioDatabase';

/** Makes sure that the studio exists; its name stays as it is when it does. True when it was made now. */
export async function ensureStudio(database: StudioDatabase, name: string): Promise<boolean> {
  const known = (await database.from('studios').first('studio_id')) as { studio_id: string } | undefined;
  if (known) return false;
  await database.insert('studios', { name, tidied_at: new Date() }).onConflict('studio_id').ignore();
  return true;
}

export async function studioName(database: StudioDatabase): Promise<string> {
  const row = (await database.from('studios').first('name')) as { name: string } | undefined;
  return row?.name ?? '';
}

/** All that a studio has, each after what points to it. */
const ALL_TABLES: readonly StudioTable[] = [
  'revisions',
  'recipes',
  'tunes',
  'practice_log',
  'pupil_links',
  'handouts',
  'pupils',
  'player_groups',
  'custom_instruments',
  'saved_recipes',
  'audit',
  'members',
  'studios',
];

/** Deletes a studio for good, with all that it has. */
export async function deleteStudio(database: StudioDatabase): Promise<void> {
  for (const table of ALL_TABLES) await database.from(table).delete();
}

/** Bytes of all the studio's tunes and their versions, those in the bin too. */
export async function bytesOfStudio(database: StudioDatabase): Promise<number> {
  const sums = await Promise.all(
    (['tunes', 'revisions'] as const).map(
      (table) => database.from(table).sum({ bytes: 'bytes' }).first() as Promise<{ bytes: number | string | null }>,
    ),
  );
  return sums.reduce((sum, { bytes }) => sum + Number(bytes ?? 0), 0);
}
