import type { SentEntry } from '../core/formats';
import type { LogEntry } from '../core/planning';
import type { StudioDatabase } from './studioDatabase';

type LogRow = {
  entry_id: string;
  on_date: string;
  work_id: string;
  step: string;
  minutes: number;
  tempo: number | string | null;
  good: number;
  again: number;
  by_whom: LogEntry['by'];
  note: string;
};

function entryOf(row: Omit<LogRow, 'entry_id'>): LogEntry {
  return {
    date: row.on_date,
    work: row.work_id,
    step: row.step,
    minutes: Number(row.minutes),
    ...(row.tempo !== null && { tempo: Number(row.tempo) }),
    good: Number(row.good),
    again: Number(row.again),
    by: row.by_whom,
    note: row.note,
  };
}

/**
 * Adds entries to a pupil's log; one that is there already is left as it is, so that what is sent twice counts once.
 * @returns how many are new; `undefined` where there is no such pupil
 */
export async function addEntries(
  database: StudioDatabase,
  pupil: string,
  entries: readonly SentEntry[],
  now: Date,
): Promise<number | undefined> {
  return database.transaction(async (inside) => {
    const there = await inside
      .from('pupils')
      .where('pupil_id', pupil)
      .whereNull('removed_at')
      .forUpdate()
      .first('version');
    if (!there) return undefined;
    const known = (await inside
      .from('practice_log')
      .where('pupil_id', pupil)
      .whereIn(
        'entry_id',
        entries.map(({ id }) => id),
      )
      .select('entry_id')) as { entry_id: string }[];
    const taken = new Set(known.map(({ entry_id }) => entry_id));
    const fresh = entries.filter(({ id }, k) => !taken.has(id) && entries.findIndex((one) => one.id === id) === k);
    if (fresh.length === 0) return 0;
    await inside.insert(
      'practice_log',
      fresh.map(({ id, date, work, by, tempo, ...rest }) => ({
        ...rest,
        pupil_id: pupil,
        entry_id: id,
        on_date: date,
        work_id: work,
        tempo: tempo ?? null,
        by_whom: by,
        written_at: now,
      })),
    );
    return fresh.length;
  });
}

/** The log without what was struck out. */
const counted = (database: StudioDatabase) => database.from('practice_log').whereNull('struck_at');

const LOG_COLUMNS = ['on_date', 'work_id', 'step', 'minutes', 'tempo', 'good', 'again', 'by_whom', 'note'] as const;

/** Entries of a pupil from a day on, in order. */
export async function entriesSince(
  database: StudioDatabase,
  pupil: string,
  since: string,
): Promise<readonly LogEntry[]> {
  const rows = (await counted(database)
    .where('pupil_id', pupil)
    .where('on_date', '>=', since)
    .orderBy(['on_date', 'written_at', 'entry_id'])
    .select(...LOG_COLUMNS)) as LogRow[];
  return rows.map(entryOf);
}

/**
 * What a pupil's log says before a day, in short: the entries of a month on one step, at one tempo, by one source, as
 * one on the last of their days; of what lies further back than two years, those of a year. Enough for what is done and
 * how long it took; ten years are some hundred rows.
 */
export async function entriesBefore(
  database: StudioDatabase,
  pupil: string,
  before: string,
): Promise<readonly LogEntry[]> {
  const rows = (await counted(database)
    .where('pupil_id', pupil)
    .where('on_date', '<', before)
    .groupBy('work_id', 'step', 'tempo', 'by_whom')
    .groupByRaw('LEFT(on_date, IF(on_date < ?, 4, 7))', [yearsBefore(before, 2)])
    .orderBy('on_date')
    .select('work_id', 'step', 'tempo', 'by_whom')
    .max({ on_date: 'on_date' })
    .sum({ minutes: 'minutes', good: 'good', again: 'again' })) as Omit<LogRow, 'entry_id' | 'note'>[];
  return rows.map((row) => entryOf({ ...row, note: '' }));
}

/** The first of January so many years before a date. */
function yearsBefore(date: string, years: number): string {
  return `${Number(date.slice(0, 4)) - years}-01-01`;
}

/** Minutes of each pupil by day, from a day on. */
export async function minutesSince(
  database: StudioDatabase,
  since: string,
): Promise<readonly { readonly pupil: string; readonly date: string; readonly minutes: number }[]> {
  const rows = (await counted(database)
    .where('on_date', '>=', since)
    .groupBy('pupil_id', 'on_date')
    .select('pupil_id', 'on_date')
    .sum({ minutes: 'minutes' })) as { pupil_id: string; on_date: string; minutes: number | string }[];
  return rows.map(({ pupil_id, on_date, minutes }) => ({ pupil: pupil_id, date: on_date, minutes: Number(minutes) }));
}

/** The day of each pupil's last entry. */
export async function lastEntries(database: StudioDatabase): Promise<ReadonlyMap<string, string>> {
  const rows = (await counted(database).groupBy('pupil_id').select('pupil_id').max({ last: 'on_date' })) as {
    pupil_id: string;
    last: string;
  }[];
  return new Map(rows.map(({ pupil_id, last }) => [pupil_id, last]));
}

/** All entries of a pupil's log with their ids, a page at a time, in order of their ids. */
export async function* allEntries(
  database: StudioDatabase,
  pupil: string,
): AsyncGenerator<LogEntry & { readonly id: string }, void> {
  const PAGE = 2_000;
  for (let after = ''; ;) {
    const rows = (await counted(database)
      .where('pupil_id', pupil)
      .where('entry_id', '>', after)
      .orderBy('entry_id')
      .limit(PAGE)
      .select('entry_id', ...LOG_COLUMNS)) as LogRow[];
    for (const row of rows) yield { id: row.entry_id, ...entryOf(row) };
    if (rows.length < PAGE) return;
    after = rows.at(-1)?.entry_id ?? '';
  }
}

/** How many entries a pupil's log has. */
export async function countEntries(database: StudioDatabase, pupil: string): Promise<number> {
  const row = (await database.from('practice_log').where('pupil_id', pupil).count({ rows: '*' }).first()) as
    { readonly rows: number | string } | undefined;
  return Number(row?.rows ?? 0);
}

/** An entry as the teacher sees it to judge it. */
export interface ListedEntry extends LogEntry {
  readonly id: string;
  readonly isStruck: boolean;
}

/** The newest entries of a pupil's log, those that were struck out too. */
export async function newestEntries(
  database: StudioDatabase,
  pupil: string,
  most: number,
): Promise<readonly ListedEntry[]> {
  const rows = (await database
    .from('practice_log')
    .where('pupil_id', pupil)
    .orderBy([
      { column: 'on_date', order: 'desc' },
      { column: 'written_at', order: 'desc' },
      { column: 'entry_id', order: 'desc' },
    ])
    .limit(most)
    .select('entry_id', 'struck_at', ...LOG_COLUMNS)) as (LogRow & { struck_at: Date | null })[];
  return rows.map((row) => ({ id: row.entry_id, isStruck: row.struck_at !== null, ...entryOf(row) }));
}

/**
 * Strikes an entry out, or takes that back: it stays, and counts no more. An entry that is sent once more stays as it is.
 * False where there is no such entry.
 */
export async function strikeEntry(
  database: StudioDatabase,
  pupil: string,
  entry: string,
  struckAt: Date | null,
): Promise<boolean> {
  const found = await database
    .from('practice_log')
    .where({ pupil_id: pupil, entry_id: entry })
    .update({ struck_at: struckAt });
  return Number(found) > 0;
}
