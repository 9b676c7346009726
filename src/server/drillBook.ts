import type { StudioDatabase } from '../db/studioDatabase';
import { findWork, type StoredTexts } from '../db/tuneRepository';
import type { BookWishes } from './drillPages';
import type { CachedFile } from './http';
import { runOnPool } from './pool/pool';
import { buildId, contentKey } from './storedWork';

export const MAX_IN_BOOK = 12;

/** Drills of a studio as one book, made on a worker; `undefined` where none of them is a drill that is there. */
export async function drillBook(
  studio: StudioDatabase,
  ids: readonly string[],
  wishes: BookWishes,
): Promise<Pick<CachedFile, 'key' | 'make'> | undefined> {
  const found = await Promise.all(ids.map((id) => findWork(studio, id)));
  const stored = found.flatMap((one): readonly StoredTexts[] =>
    one ? [{ tune: one.tune, recipes: one.recipes }] : [],
  );
  if (stored.length === 0) return undefined;
  return {
    key: contentKey(buildId(), 'drillBook', stored, wishes),
    make: (signal) => runOnPool('drillBook', { stored, wishes }, signal),
  };
}
