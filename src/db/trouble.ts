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
  // A node of a cluster that is not one of the majority, or not up to date yet, takes no statement.
  'ER_UNKNOWN_COM_ERROR',
  // What a node was about to write met what another has written.
  'ER_ERROR_DURING_COMMIT',
];

/**
 * MariaDB's own: a statement that took too long; a row that changed since it was read. The driver has no names for
 * them.
 */
const TOO_LONG = 1969;
const GONE_NUMBERS: readonly unknown[] = [TOO_LONG, 1020];

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

/**
 * Whether the same, tried again at once, may well succeed. Not where it took too long or stood in a queue for too long:
 * more of it would only lengthen the queue.
 */
export function passesByItself(error: unknown): boolean {
  if (databaseTrouble(error) !== 'gone' || !(error instanceof Error)) return false;
  if (/Timeout acquiring a connection/.test(error.message) || error.name === 'KnexTimeoutError') return false;
  return !('errno' in error) || error.errno !== TOO_LONG;
}

/** Whether a row of the same key is there already. */
export function isTaken(error: unknown): boolean {
  return error instanceof Error && 'code' in error && error.code === 'ER_DUP_ENTRY';
}
