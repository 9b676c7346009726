import type { Knex } from 'knex';
import { accountsDatabase, type AccountsDatabase } from '../db/accountsDatabase';
import { connect } from '../db/connect';
import { forgetOldLimits, limitCounter, type LimitCounter, type LimitSize } from '../db/limits';
import { type Seeing, studioDatabase, type StudioDatabase } from '../db/studioDatabase';
import { currentlyAsked, type Sight } from './accounts/asking';

/** No statement of the program takes a second; one that runs away is ended, and whoever asked comes again. */
const STATEMENT_SECONDS = 10;

/** One pool a process. Kept on the global object, since the development server loads modules anew on every change. */
const holder = globalThis as typeof globalThis & { reedHookPool?: Knex };

function pool(): Knex {
  const url = process.env['DATABASE_URL'];
  if (!url) throw new Error('DATABASE_URL is not set: start the program with npm start');
  return (holder.reedHookPool ??= connect(url, { statementSeconds: STATEMENT_SECONDS }));
}

/** Ends the pool, so that a script can end; nothing happens where there is none. */
export async function closePool(): Promise<void> {
  await holder.reedHookPool?.destroy();
  delete holder.reedHookPool;
}

/** The tables as whoever asks may see them. @throws Error where nobody is signed in */
export function currentStudio(): StudioDatabase {
  const { asking } = currentlyAsked();
  switch (asking.kind) {
    case 'alone':
      return studioDatabase(pool(), asking.studio);
    case 'pupil':
    case 'handout':
      return studioDatabase(pool(), asking.studio, asking.maker && seeing(asking.maker));
    case 'person':
      return studioDatabase(pool(), asking.studio, seeing(asking));
    case 'nobody':
      throw new Error('nobody is signed in');
  }
}

const seeing = ({ person, role, settings }: Sight): Seeing => ({
  person,
  allPupils: role === 'owner',
  ownWorksOnly: role === 'teacher' && settings.ownWorksOnly,
});

/** A studio as the program itself sees it, outside of a request: set-up, and what is done by night. */
export function programStudio(id: string): StudioDatabase {
  return studioDatabase(pool(), id);
}

/** People, sessions and links: what belongs to no studio. */
export function accounts(): AccountsDatabase {
  return accountsDatabase(pool());
}

/** A counter in the database. @param name of ASCII letters and dashes */
export function counter(name: string, size: LimitSize): LimitCounter {
  return limitCounter(pool(), name, size);
}

/** What has run out of being counted is forgotten. */
export function tidyLimits(now: Date): Promise<void> {
  return forgetOldLimits(pool(), now.getTime());
}

const GONE: readonly string[] = [
  'ECONNREFUSED',
  'ECONNRESET',
  'ENOENT',
  'EACCES',
  'ENOTFOUND',
  'ETIMEDOUT',
  'EPIPE',
  'PROTOCOL_CONNECTION_LOST',
  'ER_SERVER_SHUTDOWN',
  'ER_CON_COUNT_ERROR',
  'ER_LOCK_DEADLOCK',
  'ER_LOCK_WAIT_TIMEOUT',
  'ER_CONNECTION_KILLED',
  'ER_QUERY_INTERRUPTED',
];

/**
 * MariaDB's own: a statement that took too long; a row that changed since it was read. The driver has no names for
 * them.
 */
const GONE_NUMBERS: readonly unknown[] = [1969, 1020];

const FULL: readonly string[] = ['ER_DISK_FULL', 'ER_RECORD_FILE_FULL', 'ER_ERROR_ON_WRITE', 'ER_OUT_OF_RESOURCES'];

/**
 * What a database's error means: it cannot be reached or asks to try again (`gone`), its disk is full, or it does not
 * take what it was given. `undefined` for what is no error of a database. Source: MariaDB's error codes, as the driver
 * names them.
 */
export function databaseTrouble(error: unknown): 'gone' | 'full' | 'refused' | undefined {
  if (!(error instanceof Error)) return undefined;
  const code = 'code' in error ? String(error.code) : '';
  if (FULL.includes(code) || /Errcode: 28|No space left|ENOSPC/.test(error.message)) return 'full';
  if (
    GONE.includes(code) ||
    ('errno' in error && GONE_NUMBERS.includes(error.errno)) ||
    error.name === 'KnexTimeoutError' ||
    /Timeout acquiring a connection|Connection lost|closed state/.test(error.message)
  )
    return 'gone';
  return 'sqlState' in error ? 'refused' : undefined;
}
