import { LRUCache } from 'lru-cache';
import type { StudioDatabase } from '../db/studioDatabase';
import { findWork } from '../db/tuneRepository';
import type { CachedFile } from './http';
import { runOnPool } from './pool/pool';
import { JobError } from './pool/workerPool';
import { buildId, contentKey } from './storedWork';
import type { FileWishes } from './tuneFiles';

/**
 * The content keys of files by studio, tune, version and wishes: a file that is asked for again needs no document to be
 * read.
 */
const keys = new LRUCache<string, string>({ max: 5_000 });

/**
 * A file of a tune as it stands, by its content; `undefined` where the tune is gone.
 * @param tune its version is that of the documents: one that has gone on meanwhile gives the newer file
 */
export async function tuneFile(
  studio: StudioDatabase,
  tune: { readonly id: string; readonly version: number },
  wishes: FileWishes,
): Promise<Pick<CachedFile, 'key' | 'make'> | undefined> {
  const name = JSON.stringify([studio.studioId, tune.id, tune.version, wishes]);
  const texts = async () => {
    const stored = await findWork(studio, tune.id);
    return stored && { version: stored.version, texts: { tune: stored.tune, recipes: stored.recipes } };
  };
  const keyOf = (stored: object) => contentKey(buildId(), 'tuneFile', stored, wishes);
  const known = keys.get(name);
  if (known !== undefined)
    return {
      key: known,
      make: async (signal) => {
        // Kept once, but no longer: the documents are read after all. Who meets a change just then comes again.
        const now = await texts();
        if (!now || keyOf(now.texts) !== known) throw new JobError('tuneFile', 'busy');
        return runOnPool('tuneFile', { stored: now.texts, wishes }, signal);
      },
    };
  const now = await texts();
  if (!now) return undefined;
  const key = keyOf(now.texts);
  if (now.version === tune.version) keys.set(name, key);
  return { key, make: (signal) => runOnPool('tuneFile', { stored: now.texts, wishes }, signal) };
}
