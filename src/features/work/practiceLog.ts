import { z } from 'zod';
import { MAX_SENT_ENTRIES, type SentEntry, sentEntriesSchema } from '../../core/formats';
import { send } from './send';

/**
 * Entries of practice logs on their way to the server. They lie in the browser's storage until the server has them, so
 * that what was practised offline is not lost; each carries an id, so that what is sent twice counts once.
 */

const KEY = 'reed-hook/practice/';

/** Whose log: the id of a pupil, or `p/` and the secret of their own link. */
export type LogPlace = string;

const addressOf = (place: LogPlace) =>
  place.startsWith('p/') ? (`/p/${place.slice(2)}/log` as const) : (`/api/pupils/${place}/log` as const);

/** What is waiting for a pupil. */
export function waitingEntries(pupil: string): readonly SentEntry[] {
  try {
    const read = sentEntriesSchema.shape.entries.safeParse(JSON.parse(localStorage.getItem(KEY + pupil) ?? '[]'));
    return read.success ? read.data : [];
  } catch (error) {
    // A storage that is closed to us, or text that somebody else has written there.
    if (error instanceof SyntaxError || error instanceof DOMException) return [];
    throw error;
  }
}

function keep(pupil: string, entries: readonly SentEntry[]): boolean {
  try {
    if (entries.length === 0) localStorage.removeItem(KEY + pupil);
    else localStorage.setItem(KEY + pupil, JSON.stringify(entries));
    return true;
  } catch (error) {
    if (error instanceof DOMException) return false;
    throw error;
  }
}

export type Sent =
  | { readonly kind: 'sent' }
  /** Kept in this browser until there is a network. */
  | { readonly kind: 'waiting' }
  | { readonly kind: 'refused'; readonly message: string };

const answerSchema = z.object({ added: z.int() });
const sending = new Map<string, Promise<Sent>>();

/** Logs an entry: kept first, then sent. */
export function logEntry(pupil: string, entry: Omit<SentEntry, 'id'>): Promise<Sent> {
  const whole: SentEntry = { ...entry, id: crypto.randomUUID() };
  const isKept = keep(pupil, [...waitingEntries(pupil), whole]);
  return isKept ? sendWaiting(pupil) : sendNow(pupil, [whole]);
}

/** Sends what waits for a pupil; one sending at a time. */
export function sendWaiting(pupil: string): Promise<Sent> {
  const going = sending.get(pupil);
  if (going)
    return going.then(() => (waitingEntries(pupil).length > 0 ? sendWaiting(pupil) : { kind: 'sent' as const }));
  const waiting = waitingEntries(pupil).slice(0, MAX_SENT_ENTRIES);
  if (waiting.length === 0) return Promise.resolve({ kind: 'sent' });
  const done = sendNow(pupil, waiting)
    .then((outcome) => {
      // What came in meanwhile stays; what was refused would be refused again.
      const gone = new Set(waiting.map(({ id }) => id));
      if (outcome.kind !== 'waiting')
        keep(
          pupil,
          waitingEntries(pupil).filter(({ id }) => !gone.has(id)),
        );
      return outcome;
    })
    .finally(() => sending.delete(pupil));
  sending.set(pupil, done);
  return done;
}

async function sendNow(pupil: string, entries: readonly SentEntry[]): Promise<Sent> {
  const answer = await send(addressOf(pupil), answerSchema, { method: 'POST', json: { entries } });
  if (answer.ok) return { kind: 'sent' };
  return answer.problem.kind === 'refused' ? { kind: 'refused', message: answer.problem.message } : { kind: 'waiting' };
}

/** Sends what waits for anybody in this browser, as when the network comes back. */
export function sendAllWaiting(): void {
  try {
    for (let k = 0; k < localStorage.length; k += 1) {
      const key = localStorage.key(k);
      if (key?.startsWith(KEY)) void sendWaiting(key.slice(KEY.length));
    }
  } catch (error) {
    if (!(error instanceof DOMException)) throw error;
  }
}
