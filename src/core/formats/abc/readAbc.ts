import { success } from '../../result';
import { RIGHTS, TUNE_SCHEMA, type Tempo, type Tune } from '../../score/tune';
import { usualTempo } from '../../score/usualTempo';
import { scoreProblems } from '../../score/validate';
import { parseMeter, type Meter } from '../../time/meter';
import type { Ticks } from '../../time/ticks';
import { assembleBars, withSecondPart } from '../assemble';
import { LONGEST_TEXT, MOST_BARS, MOST_NOTES } from '../limits';
import { fromScoreProblem, type FormatProblem } from '../problem';
import { fewWarnings, lineOf, rawPitches, unreadable, type ReadOptions, type ReadResult } from '../readResult';
import { defaultUnit, parseAbcKey, parseAbcTempo, parseUnit, type AbcKey } from './header';
import { readMusic } from './music';
import { titleOf, tunesOfBook, voicesOf, type NumberedLine } from './tuneBook';

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
  const wanted = options.tune ?? 1;
  const tune = book[wanted - 1];
  if (book.length === 0)
    return unreadable({
      code: 'no-tune',
      place: { line: 1 },
      found: 'no X: and no K: field',
      right: 'a tune begins with X:1 and its header ends with K:',
    });
  if (!tune)
    return unreadable({ code: 'no-such-tune', place: {}, found: String(wanted), right: `it holds ${book.length}` });
  const warnings: FormatProblem[] = [];
  if (book.length > 1 && options.tune === undefined)
    warnings.push({
      code: 'other-tunes',
      place: {},
      found: `${book.length} tunes`,
      right: `number ${wanted} was taken`,
    });
  const problems: FormatProblem[] = [];
  const header = readHeader(tune.lines, warnings, problems);
  if (!header) return { ok: false, problem: problems };
  const named = voicesOf(tune.lines);
  const voices = named.length > 0 ? named : [{ id: '1', name: 'Melody' }];
  const line = options.line ?? 1;
  const own = voices.findIndex(({ name }) => name === SECOND_VOICE) + 1;
  const second = options.second === 'none' ? undefined : (options.second ?? (own > 1 ? own : undefined));
  const missing = [line, second].find((number) => number !== undefined && !voices[number - 1]);
  if (missing !== undefined)
    return unreadable({
      code: 'no-such-tune',
      place: {},
      found: String(missing),
      right: `it holds ${voices.length} lines`,
    });
  const read = (number: number, told: FormatProblem[]) => {
    const reader = { key: header.key, meter: header.meter, unit: header.unit, firstVoice: voices[0]?.id ?? '1' };
    return readMusic(header.body, reader, told, voices[number - 1]?.id);
  };
  const music = read(line, warnings);
  problems.push(...music.problems);
  const meter = header.meter ?? music.bars.find((bar) => bar.meter)?.meter;
  if (music.bars.length === 0 && problems.length === 0) {
    problems.push({
      code: 'no-tune',
      place: { line: tune.lines[0]?.number ?? 1 },
      found: 'a header without notes',
      right: 'the music follows the K: field',
    });
  }
  if (!meter)
    problems.push({
      code: 'bar-without-meter',
      place: { line: tune.lines[0]?.number ?? 1 },
      right: 'write a field like M:4/4 or M:6/8',
    });
  if (music.bars.length > MOST_BARS)
    problems.push({
      code: 'too-many-notes',
      place: {},
      found: `${music.bars.length} bars`,
      right: `at most ${MOST_BARS} are read`,
    });
  const notes = music.bars.reduce((sum, bar) => sum + bar.events.length, 0);
  if (notes > MOST_NOTES)
    problems.push({
      code: 'too-many-notes',
      place: {},
      found: `${notes} notes`,
      right: `at most ${MOST_NOTES} are read`,
    });
  if (problems.length > 0 || !meter) return { ok: false, problem: problems };
  const assembled = assembleBars(music.bars, meter);
  if (assembled.problems.length > 0) return { ok: false, problem: assembled.problems };
  const others = voices.map((_, index) =>
    index === line - 1 ? music.bars : named.length > 0 ? read(index + 1, []).bars : [],
  );
  const lines = voices.map(({ name }, index) => lineOf(index + 1, name, rawPitches(others[index] ?? [])));
  const left = lines.filter(({ number, notes: count }) => number !== line && number !== second && count > 0);
  if (left.length > 0)
    warnings.push({
      code: 'other-voices',
      place: {},
      found: `also ${left.map(({ name }) => name).join(', ')}`,
      right: `"${lines[line - 1]?.name}" was taken`,
    });
  const under = second !== undefined ? withSecondPart(assembled.bars, others[second - 1] ?? [], meter) : undefined;
  if (under && under.problems.length > 0) return { ok: false, problem: under.problems };
  const value: Tune = {
    schema: TUNE_SCHEMA,
    title: header.title,
    ...(header.composer && { composer: header.composer }),
    ...(header.source && { source: header.source }),
    rights: RIGHTS[3],
    key: header.key.key,
    meter,
    tempo: music.tempo ?? header.tempo ?? usualTempo(meter),
    bars: under?.bars ?? assembled.bars,
  };
  const broken = scoreProblems(value);
  if (broken.length > 0) return { ok: false, problem: broken.map(fromScoreProblem) };
  return success({
    tune: value,
    warnings: fewWarnings([...warnings, ...assembled.warnings, ...(under?.warnings ?? [])]),
    choices: { tunes: book.map(titleOf), tune: wanted, lines, line, ...(second !== undefined && { second }) },
  });
}

function readHeader(
  lines: readonly NumberedLine[],
  warnings: FormatProblem[],
  problems: FormatProblem[],
): Header | undefined {
  const texts: Record<'T' | 'C' | 'S', string[]> = { T: [], C: [], S: [] };
  let meter: Meter | undefined;
  let unit: Ticks | undefined;
  let tempo: { readonly value: string; readonly line: number } | undefined;
  for (const [index, line] of lines.entries()) {
    const field = /^([A-Za-z]):(.*)$/.exec(line.text.replace(/(^|[^\\])%.*$/, '$1'));
    if (!field) {
      if (line.text.trim() !== '' && !line.text.startsWith('%'))
        problems.push({
          code: 'unreadable-field',
          place: { line: line.number },
          found: line.text,
          right: 'a header line is a letter, a colon and a value',
        });
      else if (line.text.startsWith('%%'))
        warnings.push({
          code: 'left-out',
          place: { line: line.number },
          found: `the layout directive "${line.text.trim()}"`,
        });
      continue;
    }
    const name = field[1] ?? '';
    const value = (field[2] ?? '').trim().replaceAll('\\%', '%');
    const wrong = (right: string) =>
      problems.push({ code: 'unreadable-field', place: { line: line.number }, found: line.text.trim(), right });
    switch (name) {
      case 'X':
      case 'V':
        break;
      case 'T':
      case 'C':
      case 'S':
        if (value) texts[name].push(value);
        break;
      case 'M':
        meter = parseMeter(value);
        if (!meter && value.toLowerCase() !== 'none') wrong('a meter is written like 4/4, 6/8, C or C|');
        break;
      case 'L':
        unit = parseUnit(value);
        if (unit === undefined) wrong('a unit length is written like 1/8');
        break;
      case 'Q':
        tempo = { value, line: line.number };
        break;
      case 'K': {
        const key = parseAbcKey(value);
        if (!key) {
          wrong('a key is written like D, Bb, Em or A dorian');
          return undefined;
        }
        key.ignored.forEach((word) =>
          warnings.push({ code: 'left-out', place: { line: line.number }, found: `"${word}" in the key field` }),
        );
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
          title: cut(texts.T.join(' – '), 'title', warnings),
          composer: cut(texts.C.join(', '), 'composer', warnings),
          source: cut(texts.S.join(', '), 'source', warnings),
          ...(meter && { meter }),
          unit: length,
          ...(speed && { tempo: speed }),
          key,
          body: lines.slice(index + 1),
        };
      }
      default:
        if (value)
          warnings.push({ code: 'left-out', place: { line: line.number }, found: `the field "${line.text.trim()}"` });
    }
  }
  problems.push({
    code: 'missing-field',
    place: { line: lines.at(-1)?.number ?? 1 },
    found: 'K:',
    right: 'the header ends with the key, like K:D',
  });
  return undefined;
}

function cut(text: string, what: string, warnings: FormatProblem[]): string {
  if (text.length <= LONGEST_TEXT) return text;
  warnings.push({
    code: 'left-out',
    place: {},
    found: `the end of a ${what} of ${text.length} characters`,
    right: `${LONGEST_TEXT} are kept`,
  });
  return text.slice(0, LONGEST_TEXT);
}
