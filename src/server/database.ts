import type { Knex } from 'knex';
import { connect } from '../db/connect';
import { studioDatabase, type StudioDatabase } from '../db/studioDatabase';

/** One pool a process. Kept on the global object, since the development server loads modules anew on every change. */
const holder = globalThis as typeof globalThis & { reedHookPool?: Knex };

export function pool(): Knex {
  const url = process.env['DATABASE_URL'];
  if (!url) throw new Error('DATABASE_URL is not set: start the program with npm start');
  return (holder.reedHookPool ??= connect(url));
}

/** Ends the pool, so that a script can end; nothing happens where there is none. */
export async function closePool(): Promise<void> {
  await holder.reedHookPool?.destroy();
  delete holder.reedHookPool;
}

/** Until there are accounts, everybody works in this studio. */
export const ONLY_STUDIO = 'net-loft';

/** The tables as the studio that is asking sees them. */
export function currentStudio(): StudioDatabase {
  return studioDatabase(pool(), ONLY_STUDIO);
}

/** Whether an error says that the database cannot be reached, rather than that a query was wrong. */
export function isDatabaseGone(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const code = 'code' in error ? String(error.code) : '';
  return (
    [
      'ECONNREFUSED',
      'ECONNRESET',
      'ENOTFOUND',
      'ETIMEDOUT',
      'EPIPE',
      'PROTOCOL_CONNECTION_LOST',
      'ER_SERVER_SHUTDOWN',
      'ER_CON_COUNT_ERROR',
    ].includes(code) ||
    error.name === 'KnexTimeoutError' ||
    /Timeout acquiring a connection|Connection lost/.test(error.message)
  );
}
