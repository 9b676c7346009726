import Papa from 'papaparse';
import { dayNumber, LOG_SOURCES, type LogEntry, type Pin, type PlanDay } from '../../planning';
import { cutText, plainText } from '../../plainText';
import { failure, success, type Result } from '../../result';
import { TEMPO_LIMITS } from '../../score';

const COLUMNS = ['date', 'work', 'step', 'minutes', 'tempo', 'good', 'again', 'by', 'note'] as const;
type Column = (typeof COLUMNS)[number];

/** What a log may hold. */
export const LOG_LIMITS = { entries: 200_000, minutes: 1_440, rounds: 10_000, note: 500 } as const;
/** Faults that are told of one file. */
const MAX_TOLD = 12;

/** A log as a table; cells that a spreadsheet would take for formulas are quoted as text. */
export function logToCsv(entries: readonly LogEntry[]): string {
  return Papa.unparse(
    { fields: [...COLUMNS], data: entries.map((entry) => COLUMNS.map((column) => entry[column] ?? '')) },
    { escapeFormulae: true, newline: '\r\n' },
  );
}

/** Reads a log from a table with a head line, with or without a byte order mark. All of it or nothing. */
export function logFromCsv(text: string): Result<readonly LogEntry[], readonly string[]> {
  const parsed = parsedTable(text);
  const heads = parsed.meta.fields ?? [];
  const lacking = COLUMNS.slice(0, 4).filter((column) => !heads.includes(column));
  if (lacking.length > 0)
    return failure([`line 1: ${lacking.join(' and ')} missing; the first line should be ${COLUMNS.join(',')}`]);
  if (parsed.data.length > LOG_LIMITS.entries)
    return failure([`${parsed.data.length} entries: at most ${LOG_LIMITS.entries} are read`]);
  const problems: string[] = [];
  const entries = parsed.data.map((row, index) => entryOf(row, index + 2, problems));
  return problems.length > 0 ? failure(problems.slice(0, MAX_TOLD)) : success(entries);
}

function parsedTable(text: string): Papa.ParseResult<Record<string, string>> {
  return Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (head) => head.trim().toLowerCase(),
  });
}

/** A cell without the quote that keeps a spreadsheet from reckoning with it. */
function cellOf(row: Readonly<Record<string, string>>, column: string): string {
  return (row[column] ?? '').trim().replace(/^'(?=[=+\-@])/, '');
}

function entryOf(row: Readonly<Record<string, string>>, line: number, problems: string[]): LogEntry {
  const cell = (column: Column) => cellOf(row, column);
  const whole = (column: Column, most: number) => {
    const text = cell(column);
    if (text === '') return 0;
    const value = Number(text);
    if (/^\d{1,7}$/.test(text) && value <= most) return value;
    problems.push(`line ${line}: ${column} "${text.slice(0, 40)}": write a whole number from 0 to ${most}`);
    return 0;
  };
  const date = cell('date');
  if (dayNumber(date) === undefined)
    problems.push(`line ${line}: date "${date.slice(0, 40)}": write a date of the calendar like 2027-03-20`);
  const source = cell('by') === '' ? 'pupil' : LOG_SOURCES.find((known) => known === cell('by').toLowerCase());
  if (!source) problems.push(`line ${line}: by "${cell('by').slice(0, 40)}": use ${LOG_SOURCES.join(', ')}`);
  const tempo = cell('tempo') === '' ? undefined : Number(cell('tempo'));
  const { slowest, fastest } = TEMPO_LIMITS;
  if (tempo !== undefined && !(tempo >= slowest && tempo <= fastest))
    problems.push(
      `line ${line}: tempo "${cell('tempo').slice(0, 40)}": write beats a minute from ${slowest} to ${fastest}, or nothing`,
    );
  return {
    date,
    work: cell('work'),
    step: cell('step'),
    minutes: whole('minutes', LOG_LIMITS.minutes),
    ...(tempo !== undefined && { tempo }),
    good: whole('good', LOG_LIMITS.rounds),
    again: whole('again', LOG_LIMITS.rounds),
    by: source ?? 'pupil',
    note: cutText(plainText(cell('note')), LOG_LIMITS.note),
  };
}

/** Rows of a plan that are read at once. */
const MAX_PLAN_ROWS = 5_000;

/**
 * Reads a plan's table back as what the teacher says of its days: each row stays where the table has it. `date`, `work`
 * and `minutes` are needed; rows of warming up and of recalls are the plan's own business and are passed over.
 */
export function pinsFromCsv(text: string): Result<readonly Pin[], readonly string[]> {
  const parsed = parsedTable(text);
  const heads = parsed.meta.fields ?? [];
  const lacking = ['date', 'work', 'minutes'].filter((column) => !heads.includes(column));
  if (lacking.length > 0)
    return failure([
      `line 1: ${lacking.join(' and ')} missing; the first line should name date, work, step and minutes`,
    ]);
  if (parsed.data.length > MAX_PLAN_ROWS)
    return failure([`${parsed.data.length} rows: at most ${MAX_PLAN_ROWS} are read`]);
  const problems: string[] = [];
  const pins = parsed.data.flatMap((row, index): Pin[] => {
    const cell = (column: string) => cellOf(row, column);
    if (cell('kind') === 'warm-up' || cell('kind') === 'recall') return [];
    const [date, minutes, step] = [cell('date'), Number(cell('minutes')), cell('step')];
    if (dayNumber(date) === undefined)
      problems.push(`line ${index + 2}: date "${date.slice(0, 40)}": write a date of the calendar like 2027-03-20`);
    if (!/^\d{1,4}$/.test(cell('minutes')) || minutes > LOG_LIMITS.minutes)
      problems.push(
        `line ${index + 2}: minutes "${cell('minutes').slice(0, 40)}": write a whole number from 0 to ${LOG_LIMITS.minutes}`,
      );
    return [{ date, work: cell('work'), ...(step !== '' && { step }), minutes }];
  });
  return problems.length > 0 ? failure(problems.slice(0, MAX_TOLD)) : success(pins);
}

const PLAN_COLUMNS = [
  'work',
  'step',
  'kind',
  'what',
  'why',
  'key',
  'writtenKey',
  'tempo',
  'fromBar',
  'toBar',
  'minutes',
] as const;

/** A plan as a table, a row an item. */
export function planToCsv(days: readonly PlanDay[]): string {
  return Papa.unparse(
    {
      fields: ['date', 'weekday', ...PLAN_COLUMNS],
      data: days.flatMap(({ date, weekday, items }) =>
        items.map((item) => [date, weekday, ...PLAN_COLUMNS.map((column) => item[column] ?? '')]),
      ),
    },
    { escapeFormulae: true, newline: '\r\n' },
  );
}
