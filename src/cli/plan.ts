import { existsSync, readFileSync, statSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { groupSize, keysOfDrill, parsePattern, patternName, patternProblemText, tonicsInOrder } from '../core/drills';
import {
  LOG_LIMITS,
  logFromCsv,
  parseJson,
  type PlanFile,
  planFileProblem,
  planFileSchema,
  type PlanFileWork,
  planToCsv,
} from '../core/formats';
import { planCalendar } from '../core/formats/calendar';
import { parseScale, parseScaleName, scaleProblemText } from '../core/harmony';
import type { Instrument } from '../core/instruments';
import { partFor } from '../core/levels';
import { alterOf, chroma, isStep, keyProblemText, parseKey, type PitchClass } from '../core/pitch';
import {
  chunksOfPart,
  dateOfDay,
  dayNumber,
  evenChunks,
  knownDay,
  type LogEntry,
  MAX_PLAN_DAYS,
  type Plan,
  type PlannedWork,
  planOf,
} from '../core/planning';
import { hasPickup, KEY_ORDERS, type KeyOrder } from '../core/score';
import { noMoreThan, parseArguments, required, UsageError, type Arguments } from './arguments';
import { readInput, writeAll } from './files';
import { knownInstrument } from './instruments';
import { keyFor } from './parts';

const FORMATS = ['json', 'ics', 'csv', 'pdf'] as const;
type PlanFormat = (typeof FORMATS)[number];
const MAX_BYTES = 2 * 1_048_576;
const MAX_LOG_BYTES = 32 * 1_048_576;

/** `reed plan INPUT.plan.json [--log LOG.csv] [--today DATE] [--days N] [--format json|ics|csv|pdf] [--out FILE]` */
export async function plan(words: readonly string[]): Promise<unknown> {
  const given = parseArguments(words, ['log', 'today', 'days', 'format', 'out']);
  noMoreThan(given, 1);
  const path = required(given, 0, 'INPUT');
  const format = formatOf(given);
  const out = given.options.get('out');
  if (format !== 'json' && out === undefined)
    throw new UsageError(`--format ${format} wants --out: the file that is to be written, like --out week.${format}`);
  const most = daysOf(given);
  const file = planFile(path);
  const logPath = given.options.get('log');
  const log = logPath === undefined ? [] : logOf(logPath);
  const today = todayOf(given, file, log);
  const instrument = knownInstrument(file.pupil.instrument);
  const warnings: string[] = [];
  const made = planOf({
    pupil: { name: file.pupil.name, instrument, level: file.pupil.level },
    from: file.from,
    to: file.to,
    today,
    practice: file.practice,
    ...(file.lesson && { lesson: file.lesson }),
    off: (file.off ?? []).map((text) => offOf(text, path)),
    school: file.school ?? 'mastered',
    work: file.work.map((work) => plannedWork(work, { file, path, instrument, warnings })),
    log,
  });
  const shown: Plan = {
    ...made,
    days: most === undefined ? made.days : made.days.slice(0, most),
    warnings: [...warnings, ...made.warnings],
  };
  shown.warnings.forEach((warning) => process.stderr.write(`${warning}\n`));
  if (out === undefined) return shown;
  const target = resolve(out);
  writeAll([{ path: target, data: await dataOf(shown, format, instrument) }]);
  return { ...shown, file: target };
}

async function dataOf(shown: Plan, format: PlanFormat, instrument: Instrument): Promise<string | Uint8Array> {
  switch (format) {
    case 'json':
      return `${JSON.stringify(shown, undefined, 2)}\n`;
    case 'ics':
      return planCalendar(shown.days, { name: shown.pupil.name, from: shown.from });
    case 'csv':
      return planToCsv(shown.days);
    case 'pdf': {
      const { practiceSheetPdf } = await import('../engrave/practiceSheet');
      return practiceSheetPdf(shown, { instrument, paper: 'a4' });
    }
  }
}

function formatOf(given: Arguments): PlanFormat {
  const text = given.options.get('format') ?? 'json';
  const format = FORMATS.find((known) => known === text);
  if (!format) throw new UsageError(`--format ${text} is unknown: use ${FORMATS.join(', ')}`);
  return format;
}

function daysOf(given: Arguments): number | undefined {
  const text = given.options.get('days');
  if (text === undefined) return undefined;
  const days = Number(text);
  if (!/^\d{1,4}$/.test(text) || days < 1 || days > MAX_PLAN_DAYS)
    throw new UsageError(`--days ${text}: give a whole number from 1 to ${MAX_PLAN_DAYS}`);
  return days;
}

/** Without `--today` the plan begins where the log ends: no clock is asked, so the same input is the same plan. */
function todayOf(given: Arguments, file: PlanFile, log: readonly LogEntry[]): string {
  const text = given.options.get('today');
  if (text !== undefined) {
    if (dayNumber(text) === undefined) throw new UsageError(`--today ${text}: write a date like 2027-03-20`);
    return text;
  }
  return log.reduce((latest, { date }) => (date > latest ? date : latest), file.from);
}

function textOf(path: string, what: string, most: number): string {
  if (!existsSync(path) || !statSync(path).isFile())
    throw new UsageError(`${what} ${path} is no file: give the path of a file that can be read`);
  const { size } = statSync(path);
  if (size > most)
    throw new UsageError(
      `${what} ${path} has ${(size / 1_048_576).toFixed(1)} MB: at most ${most / 1_048_576} MB are read`,
    );
  return readFileSync(path, 'utf8');
}

function planFile(path: string): PlanFile {
  const parsed = parseJson(textOf(path, 'INPUT', MAX_BYTES).replace(/^\uFEFF/, ''));
  if (!parsed.ok) throw new UsageError(`${path}: this is not JSON: ${parsed.problem}`);
  const problem = planFileProblem(parsed.value);
  if (problem !== undefined) throw new UsageError(`${path}: ${problem}`);
  const file = planFileSchema.parse(parsed.value);
  const length = knownDay(file.to) - knownDay(file.from) + 1;
  if (length < 1)
    throw new UsageError(`${path}: to: ${file.to} is before from (${file.from}); the end comes after the beginning`);
  if (length > MAX_PLAN_DAYS)
    throw new UsageError(
      `${path}: to: ${length} days; a plan has at most ${MAX_PLAN_DAYS}, so end it by ${dateOfDay(knownDay(file.from) + MAX_PLAN_DAYS - 1)}`,
    );
  return file;
}

function logOf(path: string): readonly LogEntry[] {
  const read = logFromCsv(textOf(path, '--log', MAX_LOG_BYTES));
  if (read.ok) return read.value;
  const more = read.problem.length > 1 ? ` (and ${read.problem.length - 1} more)` : '';
  throw new UsageError(`${path}: ${read.problem[0] ?? `more than ${LOG_LIMITS.entries} entries`}${more}`);
}

function offOf(text: string, path: string): { readonly from: string; readonly to: string } {
  const [from = '', to = from] = text.split('/');
  if (knownDay(to) < knownDay(from))
    throw new UsageError(`${path}: off: ${text}: the first date comes before the last`);
  return { from, to };
}

interface WorkContext {
  readonly file: PlanFile;
  readonly path: string;
  readonly instrument: Instrument;
  readonly warnings: string[];
}

function plannedWork(work: PlanFileWork, context: WorkContext): PlannedWork {
  const fault = (text: string) => new UsageError(`${context.path}: work "${work.id}": ${text}`);
  const common = {
    id: work.id,
    title: work.title?.trim() || work.id,
    ...(work.goal !== undefined && { goal: work.goal }),
    ...(work.start !== undefined && { start: work.start }),
    ...(work.by !== undefined && { by: work.by }),
  };
  switch (work.kind) {
    case 'tune':
      return { ...common, kind: 'tune', ...tuneOf(work, context, fault) };
    case 'drill': {
      const set = parseScaleName(work.set);
      if (!set.ok) throw fault(`set: ${scaleProblemText(set.problem)}`);
      const pattern = parsePattern(work.pattern);
      if (!pattern.ok) throw fault(`pattern: ${patternProblemText(pattern.problem)}`);
      const order = orderOf(work.keys);
      const player = { instrument: context.instrument, level: context.file.pupil.level };
      const keys = order
        ? keysOfDrill({ steps: [{ set: set.value, pattern: work.pattern }], keys: order, seed: 0 }, player)
        : tonicsOf(work.keys, 'keys', fault);
      return {
        ...common,
        kind: 'drill',
        set: set.value,
        patternName: patternName(work.pattern),
        groupSize: groupSize(pattern.value),
        keys: eachOnce(keys, work.id, context.warnings),
        pace: work.pace,
      };
    }
    case 'rounds': {
      const order = work.order === undefined ? 'fourths' : orderOf(work.order);
      const keys =
        order && order !== 'easiest'
          ? tonicsInOrder(order, { step: 'C', alter: 0 })
          : tonicsOf(work.order ?? [], 'order', fault);
      if (keys.length !== 12 || new Set(keys.map(chroma)).size !== 12)
        throw fault(`order: ${keys.length} keys; rounds go through all twelve concert keys, each once`);
      return { ...common, kind: 'rounds', order: keys };
    }
    case 'memory': {
      const scale = parseScale(work.set);
      if (!scale.ok) throw fault(`set: ${scaleProblemText(scale.problem)}`);
      return { ...common, kind: 'memory', tonic: scale.value.tonic, set: scale.value.name };
    }
  }
}

function orderOf(keys: string | readonly string[]): KeyOrder | undefined {
  return typeof keys === 'string' ? KEY_ORDERS.find((known) => known === keys.trim()) : undefined;
}

function tonicsOf(
  keys: string | readonly string[],
  field: string,
  fault: (text: string) => UsageError,
): readonly PitchClass[] {
  const words = typeof keys === 'string' ? keys.split(',') : keys;
  return words.map((word) => {
    const [, letter, signs = ''] = /^\s*([A-Ga-g])([#♯]|[b♭])?\s*$/.exec(word) ?? [];
    const step = letter?.toUpperCase();
    if (isStep(step)) return { step, alter: alterOf(signs) };
    const parsed = parseKey(word);
    if (parsed.ok) return parsed.value.tonic;
    throw fault(
      `${field}: "${word.trim().slice(0, 40)}" is no tonic: give concert tonics like C, F, Bb or one of ${KEY_ORDERS.join(', ')}`,
    );
  });
}

function eachOnce(keys: readonly PitchClass[], id: string, warnings: string[]): readonly PitchClass[] {
  const once = keys.filter((key, k) => keys.findIndex((other) => chroma(other) === chroma(key)) === k);
  if (once.length < keys.length) warnings.push(`work "${id}": a key stands twice in its list; it is gone through once`);
  return once;
}

function tuneOf(
  work: Extract<PlanFileWork, { kind: 'tune' }>,
  { file, path, instrument, warnings }: WorkContext,
  fault: (text: string) => UsageError,
) {
  if (work.input === undefined) {
    const key = work.key === undefined ? undefined : parseKey(work.key);
    if (key && !key.ok) throw fault(`key: ${keyProblemText(key.problem)}`);
    return { chunks: evenChunks(work.bars ?? 1, work.difficulty ?? 0), ...(key && { key: key.value }) };
  }
  const { tune, warnings: read } = readInput(resolve(dirname(resolve(path)), work.input));
  warnings.push(...read.map((warning) => `work "${work.id}": ${warning}`));
  const keyAndTempo = work.key === undefined ? {} : { key: keyFor(tune, work.key) };
  const { value: part } = partFor(tune, { level: file.pupil.level, instrument, keyAndTempo });
  return { chunks: chunksOfPart(part, hasPickup(part)), key: part.concertKey };
}
