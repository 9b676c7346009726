import type { StudioDatabase } from './studioDatabase';

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

/** A question that only a working database answers. */
export async function isReachable(database: StudioDatabase): Promise<boolean> {
  await database.from('studios').first('studio_id');
  return true;
}
