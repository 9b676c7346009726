import { failure, success, type Result } from '../../result';
import { type Tempo, usualTempo } from '../../score';
import type { RawBar } from '../assemble';
import { spend } from '../effort';
import { finishedTune, sizeProblems } from '../finish';
import type { FormatProblem } from '../problem';
import { lineOf, rawPitches, type ReadOptions, type ReadResult } from '../readResult';
import { titleOf, tunesOfBook, voicesOf, withoutComment, type AbcTune, type NumberedLine } from './tuneBook';
import { type Meter, parseMeter, type Ticks } from '../../time';
import { defaultUnit, parseAbcKey, parseAbcTempo, parseUnit, type AbcKey } from './header';
import { readMusic } from './music';

interface Header {
  readonly title: string;
  readonly composer?: string;
  readonly source?: string;
  readonly meter?: Meter;
  readonly unit: Ticks;
  readonly tempo?: Tempo;
  readonly key: AbcKey;
  readonly body: readonly NumberedLine[];
}

/** The voice of our own files that is the second part, by its name. */
export const SECOND_VOICE = 'Second part';

/**
 * Reads one tune, one voice, of a text in ABC 2.1; another voice may be taken as second part.
 * What it cannot hold is named in the warnings; what cannot be read is a problem with its line and column.
 */
export function readAbc(text: string, options: ReadOptions = {}): ReadResult {
  const book = tunesOfBook(text);
  const tune = tuneOfBook(book, options.tune);
  if (!tune.ok) return tune;
  const { lines, number, warnings: ofBook } = tune.value;
  const warnings = [...ofBook];
  const problems: FormatProblem[] = [];
  const header = readHeader(lines, warnings, problems);
  if (!header) return failure(problems);
  const voices = chosenVoices(lines, options);
  if (!voices.ok) return voices;
  const { names, line, second } = voices.value;
  const read = (voice: number, told: FormatProblem[]) => {
    const start = { key: header.key, meter: header.meter, unit: header.unit, firstVoice: names[0]?.id ?? '1' };
    return readMusic(header.body, start, told, names[voice - 1]?.id);
  };
  const music = read(line, warnings);
  const meter = header.meter ?? music.bars.find((bar) => bar.meter)?.meter;
  for (const problem of music.problems) problems.push(problem);
  problems.push(...musicProblems(music.bars, meter, lines[0]?.number ?? 1, music.problems));
  if (problems.length > 0 || !meter) return failure(problems);
  // A tune without voice fields is one line, and is read once.
  const bars = names.map((_, index) => (index + 1 === line ? music.bars : read(index + 1, []).bars));
  const found = names.map(({ name }, index) => lineOf(index + 1, name, rawPitches(bars[index] ?? [])));
  const left = found.filter((one) => one.number !== line && one.number !== second && one.notes > 0);
  if (left.length > 0)
    warnings.push({
      code: 'other-voices',
      place: {},
      found: `also ${left.map(({ name }) => name).join(', ')}`,
      right: `"${found[line - 1]?.name}" was taken`,
    });
  const finished = finishedTune(
    {
      ...header,
      key: header.key.key,
      meter,
      tempo: music.tempo ?? header.tempo ?? usualTempo(meter),
      bars: music.bars,
      second: second === undefined ? undefined : bars[second - 1],
    },
    warnings,
  );
  if (!finished.ok) return finished;
  return success({
    ...finished.value,
    choices: {
      tunes: book.map(titleOf),
      tune: number,
      lines: found,
      line,
      ...(second !== undefined && { second }),
    },
  });
}

/** The tune of a book that is asked for, or the first. */
function tuneOfBook(
  book: readonly AbcTune[],
  wanted: number | undefined,
): Result<
  { readonly lines: readonly NumberedLine[]; readonly number: number; readonly warnings: readonly FormatProblem[] },
  readonly FormatProblem[]
> {
  if (book.length === 0)
    return failure([
      {
        code: 'no-tune',
        place: { line: 1 },
        found: 'no X: and no K: field',
        right: 'a tune begins with X:1 and its header ends with K:',
      },
    ]);
  const number = wanted ?? 1;
  const tune = book[number - 1];
  if (!tune)
    return failure([{ code: 'no-such-tune', place: {}, found: String(number), right: `it holds ${book.length}` }]);
  const others: FormatProblem = {
    code: 'other-tunes',
    place: {},
    found: `${book.length} tunes`,
    right: `number ${number} was taken`,
  };
  return success({ lines: tune.lines, number, warnings: book.length > 1 && wanted === undefined ? [others] : [] });
}

/** The voices of a tune, and which of them are followed. */
function chosenVoices(
  lines: readonly NumberedLine[],
  options: ReadOptions,
): Result<
  { readonly names: ReturnType<typeof voicesOf>; readonly line: number; readonly second: number | undefined },
  readonly FormatProblem[]
> {
  const named = voicesOf(lines);
  // Each voice goes through the lines once.
  const size = sizeProblems({ bars: 0, notes: 0, lines: named.length });
  if (size.length > 0) return failure(size);
  spend(named.length * lines.length);
  const names = named.length > 0 ? named : [{ id: '1', name: 'Melody' }];
  const line = options.line ?? 1;
  const own = names.findIndex(({ name }) => name === SECOND_VOICE) + 1;
  const second = options.second === 'none' ? undefined : (options.second ?? (own > 1 ? own : undefined));
  const missing = [line, second].find((number) => number !== undefined && !names[number - 1]);
  return missing === undefined
    ? success({ names, line, second })
    : failure([{ code: 'no-such-tune', place: {}, found: String(missing), right: `it holds ${names.length} lines` }]);
}

/** What makes the music of a tune no tune: nothing in it, no meter, or too much of it. */
function musicProblems(
  bars: readonly RawBar[],
  meter: Meter | undefined,
  line: number,
  before: readonly FormatProblem[],
): readonly FormatProblem[] {
  const problems: FormatProblem[] = [];
  if (bars.length === 0 && before.length === 0)
    problems.push({
      code: 'no-tune',
      place: { line },
      found: 'a header without notes',
      right: 'the music follows the K: field',
    });
  if (!meter) problems.push({ code: 'bar-without-meter', place: { line }, right: 'write a field like M:4/4 or M:6/8' });
  const notes = bars.reduce((sum, { events }) => sum + events.length, 0);
  return [...problems, ...sizeProblems({ bars: bars.length, notes })];
}

/** What a header says so far. */
interface HeaderDraft {
  readonly texts: Readonly<Record<'T' | 'C' | 'S', string[]>>;
  meter?: Meter | undefined;
  unit?: Ticks | undefined;
  tempo?: { readonly value: string; readonly line: number };
}

const FIELD = /^([A-Za-z]):(.*)$/;

/** The fields up to the key, which ends the header; nothing where any of it cannot be read. */
function readHeader(
  lines: readonly NumberedLine[],
  warnings: FormatProblem[],
  problems: FormatProblem[],
): Header | undefined {
  const draft: HeaderDraft = { texts: { T: [], C: [], S: [] } };
  for (const [index, line] of lines.entries()) {
    const field = FIELD.exec(withoutComment(line.text));
    const [name = '', value = ''] = [field?.[1], field?.[2]?.trim().replaceAll('\\%', '%')];
    if (!field) noField(line, warnings, problems);
    else if (name === 'K') return endOfHeader(draft, value, line, lines.slice(index + 1), warnings, problems);
    else headerField(draft, name, value, line, warnings, problems);
  }
  problems.push({
    code: 'missing-field',
    place: { line: lines.at(-1)?.number ?? 1 },
    found: 'K:',
    right: 'the header ends with the key, like K:D',
  });
  return undefined;
}

function noField({ text, number }: NumberedLine, warnings: FormatProblem[], problems: FormatProblem[]): void {
  const place = { line: number };
  if (text.startsWith('%%')) warnings.push({ code: 'left-out', place, found: `the layout directive "${text.trim()}"` });
  else if (text.trim() !== '' && !text.startsWith('%'))
    problems.push({
      code: 'unreadable-field',
      place,
      found: text,
      right: 'a header line is a letter, a colon and a value',
    });
}

function headerField(
  draft: HeaderDraft,
  name: string,
  value: string,
  line: NumberedLine,
  warnings: FormatProblem[],
  problems: FormatProblem[],
): void {
  const place = { line: line.number };
  const wrong = (right: string) => problems.push({ code: 'unreadable-field', place, found: line.text.trim(), right });
  switch (name) {
    case 'X':
    case 'V':
      return;
    case 'T':
    case 'C':
    case 'S':
      if (value) draft.texts[name].push(value);
      return;
    case 'M':
      draft.meter = parseMeter(value);
      if (!draft.meter && value.toLowerCase() !== 'none') wrong('a meter is written like 4/4, 6/8, C or C|');
      return;
    case 'L':
      draft.unit = parseUnit(value);
      if (draft.unit === undefined) wrong('a unit length is written like 1/8');
      return;
    case 'Q':
      draft.tempo = { value, line: line.number };
      return;
    default:
      if (value) warnings.push({ code: 'left-out', place, found: `the field "${line.text.trim()}"` });
  }
}

function endOfHeader(
  { texts, meter, unit, tempo }: HeaderDraft,
  value: string,
  line: NumberedLine,
  body: readonly NumberedLine[],
  warnings: FormatProblem[],
  problems: FormatProblem[],
): Header | undefined {
  const place = { line: line.number };
  const key = parseAbcKey(value);
  if (!key) {
    const right = 'a key is written like D, Bb, Em or A dorian';
    problems.push({ code: 'unreadable-field', place, found: line.text.trim(), right });
    return undefined;
  }
  for (const word of key.ignored) warnings.push({ code: 'left-out', place, found: `"${word}" in the key field` });
  const length = unit ?? defaultUnit(meter);
  const speed = tempo && parseAbcTempo(tempo.value, length);
  if (tempo && !speed)
    warnings.push({
      code: 'unreadable-field',
      place: { line: tempo.line },
      found: `Q:${tempo.value}`,
      right: 'a usual tempo was set; write one like 1/4=96',
    });
  if (problems.length > 0) return undefined;
  return {
    title: texts.T.join(' – '),
    composer: texts.C.join(', '),
    source: texts.S.join(', '),
    ...(meter && { meter }),
    unit: length,
    ...(speed && { tempo: speed }),
    key,
    body,
  };
}
