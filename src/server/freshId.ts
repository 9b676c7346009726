import { createHash, randomBytes } from 'node:crypto';
import type { StudioDatabase } from '../db/studioDatabase';
import { isTaken } from '../db/trouble';
import { currentSending, personAsking } from './accounts/asking';

/** An id of twelve letters and digits that no other has. */
export function freshId(): string {
  return shortId(randomBytes(9));
}

function shortId(bytes: Buffer): string {
  return bytes.toString('base64url').replace(/[-_]/g, 'x');
}

/**
 * Adds something under a new id. A request that is sent again, since its answer was lost, adds it once: it says by what
 * it is known, the id follows from that and from who sends it, and what has the id already is what was added then.
 * @param kind what is added: one request may add one of each
 * @returns the id
 */
export async function addOnce(
  studio: StudioDatabase,
  kind: string,
  add: (id: string) => Promise<void>,
): Promise<string> {
  const sending = currentSending();
  const id =
    sending === undefined
      ? freshId()
      : shortId(
          createHash('sha256')
            .update(JSON.stringify([studio.studioId, personAsking(), kind, sending]))
            .digest()
            .subarray(0, 9),
        );
  try {
    await add(id);
  } catch (error) {
    if (sending === undefined || !isTaken(error)) throw error;
  }
  return id;
}
