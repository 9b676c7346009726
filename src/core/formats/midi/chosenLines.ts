import { failure, success, type Result } from '../../result';
import { sizeProblems } from '../finish';
import type { FormatProblem } from '../problem';
import type { ReadOptions } from '../readResult';
import { hasPercussion, likelyMelody, type MidiLine } from './lines';
import type { MidiFile } from './midiFile';

/** The line that is read, and the one under it. */
export function chosenLines(
  file: MidiFile,
  lines: readonly MidiLine[],
  options: ReadOptions,
): Result<
  {
    readonly number: number;
    readonly second: number | undefined;
    readonly line: MidiLine;
    readonly under: MidiLine | undefined;
  },
  readonly FormatProblem[]
> {
  if (lines.length === 0)
    return failure([
      {
        code: 'no-tune',
        place: {},
        found: hasPercussion(file) ? 'percussion alone' : 'no notes',
        right: 'it needs a track with notes',
      },
    ]);
  const number = options.line ?? likelyMelody(lines) + 1;
  const second = typeof options.second === 'number' ? options.second : secondOf(lines, options);
  const [line, under] = [lines[number - 1], second === undefined ? undefined : lines[second - 1]];
  if (!line || (second !== undefined && !under))
    return failure([
      {
        code: 'no-such-tune',
        place: {},
        found: String(line ? second : number),
        right: `it holds ${lines.length} lines`,
      },
    ]);
  const size = sizeProblems({ bars: 0, notes: line.notes.length });
  return size.length > 0 ? failure(size) : success({ number, second, line, under });
}

/** What of the file is not in the line that is read. */
export function lineWarnings(
  file: MidiFile,
  lines: readonly MidiLine[],
  line: MidiLine,
  under: MidiLine | undefined,
): readonly FormatProblem[] {
  const warnings: FormatProblem[] = [];
  const tell = (code: FormatProblem['code'], found: string, right?: string) =>
    warnings.push({ code, place: {}, found, ...(right && { right }) });
  if (line.covered > 0) tell('chord-of-notes', `${line.covered} under others`, 'the top ones were taken');
  if (lines.some((one) => one !== line && one !== under))
    tell('other-voices', `${lines.length} lines`, `"${line.name}" was taken`);
  if (hasPercussion(file)) tell('left-out', 'percussion');
  if (file.lyrics.length > 0) tell('left-out', `${file.lyrics.length} syllables`, 'add the words on the bench');
  return warnings;
}

/** A file of our own names its second track. */
function secondOf(lines: readonly MidiLine[], options: ReadOptions): number | undefined {
  if (options.second === 'none' || options.line !== undefined) return undefined;
  const index = lines.findIndex(({ name }) => name === 'Second part');
  return index > 0 ? index + 1 : undefined;
}
