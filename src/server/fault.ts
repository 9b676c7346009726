/**
 * What the log tells of an error: never a value, since a database's message holds whole documents and a parser's a
 * piece of one.
 */
export interface Fault {
  readonly error: string;
  readonly code?: string;
  readonly table?: string;
  readonly at?: string;
}

const MAX_MESSAGE = 300;
/** Frames of a stack that are told: enough to find the place. */
const MAX_FRAMES = 6;

export function faultOf(error: unknown): Fault {
  if (!(error instanceof Error)) return { error: withoutValues(String(error)) };
  const at = (error.stack ?? '')
    .split('\n')
    .filter((line) => /^\s+at /.test(line))
    .slice(0, MAX_FRAMES)
    .map((line) => line.trim())
    .join(' < ');
  const code = 'code' in error && error.code !== undefined ? String(error.code).slice(0, 60) : undefined;
  const table = tableOf(error);
  return {
    error: isOfDatabase(error) ? 'a database error' : `${error.name}: ${withoutValues(error.message)}`,
    ...(code !== undefined && { code }),
    ...(table !== undefined && { table }),
    ...(at !== '' && { at }),
  };
}

function isOfDatabase(error: Error): boolean {
  return 'sqlState' in error || 'sqlMessage' in error || 'sql' in error;
}

/** The first table that a failed statement names. */
function tableOf(error: Error): string | undefined {
  const statement =
    'sql' in error && typeof error.sql === 'string' ? error.sql : isOfDatabase(error) ? error.message : '';
  return /\b(?:from|into|update|table)\s+`?([a-z_]{1,64})`?/i.exec(statement.slice(0, 2_000))?.[1];
}

/** What stands between quotation marks may be a name or a piece of a document. */
function withoutValues(message: string): string {
  const [first = ''] = message.split('\n', 1);
  return first
    .slice(0, 4_000)
    .replace(/"[^"]*"?|'[^']*'|`[^`]*`|“[^”]*”?/g, '"…"')
    .slice(0, MAX_MESSAGE);
}
