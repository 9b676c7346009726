import { existsSync } from 'node:fs';
import {
  type DrillLine,
  type DrillWishes,
  formOfTune,
  isOverForm,
  parsePattern,
  patternProblemText,
  setOfKey,
} from '../core/drills';
import { fileSlug } from '../core/formats';
import {
  parseProgression,
  parseScaleName,
  progressionChords,
  progressionProblemText,
  readForm,
  type ScaleName,
  scaleProblemText,
} from '../core/harmony';
import type { Instrument, Level, WrittenRange } from '../core/instruments';
import { describeChange } from '../core/work';
import { drillPart, pageRequest } from '../core/levels';
import {
  alterOf,
  type Interval,
  isStep,
  nameWithoutDouble,
  parseKey,
  parsePitch,
  type PitchClass,
  printKey,
  printPitch,
  semitones,
  transposeClass,
} from '../core/pitch';
import { withProposedChords } from '../core/pools';
import {
  DRILL_DIRECTIONS,
  DRILL_EXTENTS,
  DRILL_LIMITS,
  DRILL_RHYTHMS,
  type DrillForm,
  type DrillIdea,
  KEY_ORDERS,
  type KeyOrder,
} from '../core/score';
import { noMoreThan, parseArguments, UsageError, type Arguments } from './arguments';
import { inFolder, readInput, writeAll } from './files';
import {
  aidsOf,
  asWritten,
  difficultyOf,
  ENDINGS,
  formatOf,
  levelsOf,
  checkTab,
  pageOf,
  partFile,
  pdfWriter,
  playersOf,
  tempoOf,
} from './parts';
import { looksLikeChords } from './pools';
import { oneOf } from './scale';

const OPTIONS = [
  'set',
  'pattern',
  'for',
  'level',
  'keys',
  'start',
  'direction',
  'extent',
  'rhythm',
  'over',
  'tempo',
  'seed',
  'aids',
  'format',
  'out',
] as const;

/** Borrowing a rhythm takes a tune on the bench. */
const RHYTHMS = DRILL_RHYTHMS.filter((rhythm) => rhythm !== 'borrowed');

/** `reed drill --set NAME --pattern PATTERN --for ID[,ID…] --level LEVEL|all …` */
export async function drill(words: readonly string[]): Promise<unknown> {
  const given = parseArguments(words, OPTIONS, ['written', 'tab']);
  noMoreThan(given, 0);
  const players = playersOf(given);
  checkTab(given, players);
  const levels = levelsOf(given);
  const format = formatOf(given);
  const perMinute = tempoOf(given);
  const aids = aidsOf(given);
  const { idea, wishes } = ideaOf(given, asWritten(given, players[0]));
  const wantsFile = given.options.has('out') || given.options.has('format');
  const made = players.flatMap((instrument) =>
    levels.map((level) => {
      const page = pageRequest(pageOf(given, aids), instrument, level);
      const keyAndTempo = perMinute === undefined ? {} : { perMinute };
      const part = drillPart(idea, { level, instrument, keyAndTempo, page }, wishes);
      if (part.line.sections.length === 0) throw new UsageError(nothingLeft(instrument, level, part.line.messages));
      return { instrument, level, ...part };
    }),
  );
  const toPdf = format === 'pdf' ? await pdfWriter() : undefined;
  const files: { readonly path: string; readonly data: string | Uint8Array }[] = [];
  for (const { instrument, level, value, line } of wantsFile ? made : []) {
    const path = inFolder(
      given.options.get('out') ?? '.',
      `${fileSlug(line.tune.title)}.${instrument.id}.${level}.${ENDINGS[format]}`,
    );
    files.push({ path, data: toPdf ? await toPdf(value) : partFile(value, line.tune, format) });
  }
  writeAll(files);
  return made.map(({ instrument, level, value, changes, line }, index) => ({
    ...(wantsFile && { file: files[index]?.path }),
    instrument: instrument.id,
    level,
    tempo: value.tempo.perMinute,
    bars: value.bars.length,
    lowest: value.lowest ? printPitch(value.lowest) : null,
    highest: value.highest ? printPitch(value.highest) : null,
    difficulty: difficultyOf(value),
    startsOn: startFacts(idea, line, instrument, level),
    keys: line.sections.map((section) => ({
      key: printKey(section.key),
      writtenKey: printKey(section.writtenKey),
      fromBar: section.from + 1,
      toBar: section.to,
      notes: section.notes.map(printPitch),
    })),
    changes: changes.map((change) => ({ bar: change.bar, ...describeChange(change, value.written) })),
  }));
}

/** On which key a drill begins, and why on that one. */
function startFacts(idea: DrillIdea, { sections: [first] }: DrillLine, instrument: Instrument, level: Level) {
  const because =
    typeof idea.keys === 'object'
      ? 'the first of --keys'
      : idea.start
        ? 'asked for with --start'
        : idea.over && idea.keys === undefined
          ? 'the key of the form'
          : `the first ${level} key of the ${instrument.shortName} for this set and pattern; --start names another`;
  return first ? { key: printKey(first.key), writtenKey: printKey(first.writtenKey), because } : null;
}

function nothingLeft(
  { id, range }: Instrument,
  level: Level,
  said: readonly { readonly what: string; readonly why: string }[],
): string {
  const { low, high } = range[level];
  const [first] = said;
  return `--pattern leaves nothing for ${id} (${level}, ${printPitch(low)} to ${printPitch(high)}): ${first ? `${first.what}, ${first.why}` : 'no note of it is in the range'}; give a narrower pattern, another --extent or a higher --level`;
}

function ideaOf(
  given: Arguments,
  toConcert: Interval | undefined,
): { readonly idea: DrillIdea; readonly wishes: DrillWishes } {
  const over = overOf(given);
  const set = setOf(given, over);
  const pattern = patternOf(given, over);
  const direction = oneOf(given, 'direction', DRILL_DIRECTIONS, 'up-down');
  if (direction === 'melodic' && set !== 'melodic minor')
    throw new UsageError(
      `--direction melodic is for sets that are raised going up and natural coming down: use --set "melodic minor", or up-down for ${set}`,
    );
  if (direction === 'nearest' && pattern !== 'chords')
    throw new UsageError('--direction nearest is for --pattern chords: use up, down, up-down, down-up or alternate');
  const keys = keysOf(given, toConcert);
  const start = given.options.get('start');
  const rhythm = given.options.has('rhythm') ? oneOf(given, 'rhythm', RHYTHMS, 'quarter') : undefined;
  const extent = extentOf(given);
  return {
    idea: {
      steps: [{ set, pattern, direction }],
      ...(keys && { keys }),
      ...(start !== undefined && { start: tonicOf('--start', start, toConcert) }),
      ...(over && { over }),
      seed: seedOf(given),
    },
    wishes: { ...(rhythm && { rhythm }), ...(extent && { extent }) },
  };
}

function setOf(given: Arguments, over: DrillForm | undefined): ScaleName {
  const text = given.options.get('set');
  if (text === undefined) {
    if (over) return setOfKey(over.key);
    throw new UsageError('--set is missing: name a set, like --set "natural minor" or --set maj7');
  }
  const parsed = parseScaleName(text);
  if (!parsed.ok) throw new UsageError(`--set ${scaleProblemText(parsed.problem)}`);
  return parsed.value;
}

function patternOf(given: Arguments, over: DrillForm | undefined): string {
  const text = given.options.get('pattern');
  if (text === undefined)
    throw new UsageError('--pattern is missing: name one, like --pattern thirds or --pattern "cell:1 2 3 5"');
  const parsed = parsePattern(text);
  if (!parsed.ok) throw new UsageError(`--pattern ${patternProblemText(parsed.problem)}`);
  if (isOverForm(text.trim()) && !over)
    throw new UsageError(`--pattern ${text} goes over a form: give --over a tune or chords like "Dm7 | G7 | Cmaj7"`);
  return text.trim();
}

function keysOf(given: Arguments, toConcert: Interval | undefined): KeyOrder | readonly PitchClass[] | undefined {
  const text = given.options.get('keys');
  if (text === undefined) return undefined;
  const order = KEY_ORDERS.find((known) => known === text.trim());
  if (order) return order;
  const words = text.split(',');
  if (words.length > DRILL_LIMITS.keys)
    throw new UsageError(`--keys names ${words.length} keys: at most ${DRILL_LIMITS.keys} are gone through`);
  return words.map((word) => tonicOf('--keys', word, toConcert));
}

/** A tonic; a mode after it says what the set says already, and is left out. */
function tonicOf(option: string, text: string, toConcert: Interval | undefined): PitchClass {
  const sounding = (tonic: PitchClass) => nameWithoutDouble(toConcert ? transposeClass(tonic, toConcert) : tonic);
  const parsed = parseKey(text);
  if (parsed.ok) return sounding(parsed.value.tonic);
  const [, letter, signs = ''] = /^\s*([A-Ga-g])([#♯]|[b♭])?\s*$/.exec(text) ?? [];
  const step = letter?.toUpperCase();
  if (isStep(step)) return sounding({ step, alter: alterOf(signs) });
  throw new UsageError(
    `${option} "${text.trim().slice(0, 40)}" is no tonic: give concert tonics like C,F,Bb or one of ${KEY_ORDERS.join(', ')}`,
  );
}

function extentOf(given: Arguments): DrillWishes['extent'] | undefined {
  const text = given.options.get('extent');
  if (text === undefined) return undefined;
  const name = DRILL_EXTENTS.find((known) => known === text);
  if (name) return name;
  const [, lowText = '', highText = ''] = /^\s*([A-Ga-g][#b♯♭]*\d)\s*-\s*([A-Ga-g][#b♯♭]*\d)\s*$/.exec(text) ?? [];
  const [low, high] = [parsePitch(lowText), parsePitch(highText)];
  if (!low.ok || !high.ok)
    throw new UsageError(
      `--extent ${text.slice(0, 40)} is unknown: use ${DRILL_EXTENTS.join(', ')} or two written pitches like C4-A5`,
    );
  const range: WrittenRange = { low: low.value, high: high.value };
  if (semitones(range.low) >= semitones(range.high))
    throw new UsageError(`--extent ${text}: the lowest pitch comes first and lies below the other, like C4-A5`);
  return range;
}

export function seedOf(given: Arguments): number {
  const text = given.options.get('seed') ?? '0';
  const seed = Number(text);
  if (!/^\d{1,9}$/.test(text) || !Number.isSafeInteger(seed))
    throw new UsageError(`--seed ${text}: give a whole number from 0 to 999999999`);
  return seed;
}

const METER = { count: 4, unit: 4 } as const;

/** The form after `--over`: a tune's chords, or those that stand on the command line. */
function overOf(given: Arguments): DrillForm | undefined {
  const text = given.options.get('over');
  if (text === undefined) return undefined;
  if (!existsSync(text) && looksLikeChords(text)) {
    const parsed = parseProgression(text);
    if (!parsed.ok) {
      const [first] = parsed.problem;
      throw new UsageError(`--over ${first ? progressionProblemText(first) : 'cannot be read'}`);
    }
    const chords = progressionChords(parsed.value, METER);
    const bars = parsed.value.map((_, bar) => ({
      chords: chords.filter((chord) => chord.bar === bar).map(({ at, symbol }) => ({ at, symbol })),
    }));
    return { title: '', key: readForm(chords, { bars: bars.length }).home, meter: METER, bars };
  }
  const { tune, warnings } = readInput(text);
  warnings.forEach((warning) => process.stderr.write(`${warning}\n`));
  const harmonised = withProposedChords(tune);
  if (harmonised !== tune)
    process.stderr.write(`${text} has no chord symbols: the chords are proposals that fit the melody\n`);
  const form = formOfTune(harmonised);
  if (!form)
    throw new UsageError(`--over ${text} has no chords, and none could be proposed: write chord symbols into it`);
  return form;
}
