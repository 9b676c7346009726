import { failure, success, type Result } from '../result';
import { parseChord, type ChordSymbol } from './chordSymbol';

export interface ProgressionProblem {
  readonly code: 'unreadable-chord' | 'nothing-to-repeat' | 'empty' | 'too-many';
  readonly found: string;
  /** Of the progression, counted from 1. */
  readonly bar: number;
  /** In the text, counted from 0. */
  readonly from: number;
  readonly to: number;
}

/** The chords of a bar in order; they share it equally. An empty bar goes on with the chord before. */
export type ProgressionBar = readonly ChordSymbol[];

/** What else is written at a bar: a section's name in square brackets, repeat signs. */
export interface ProgressionMarks {
  readonly section?: string;
  readonly repeatStart?: true;
  readonly repeatEnd?: true;
}

/** A progression with the marks of its bars, as many as there are bars. */
export interface ProgressionForm {
  readonly bars: readonly ProgressionBar[];
  readonly marks: readonly ProgressionMarks[];
}

const MAX_BARS = 1_000;
const MAX_IN_BAR = 16;

/**
 * Reads a progression as it is written on paper: `Dm7 | G7 | Cmaj7 | %`, chords of one bar with spaces between them,
 * bars with `|` or on lines of their own; `%` repeats the bar before. All that cannot be read is told at once.
 */
export function parseProgression(text: string): Result<readonly ProgressionBar[], readonly ProgressionProblem[]> {
  const form = parseProgressionForm(text);
  return form.ok ? success(form.value.bars) : form;
}

/** The same with sections and repeats: `[A] |: Dm7 | G7 :| [B] C | %`. */
export function parseProgressionForm(text: string): Result<ProgressionForm, readonly ProgressionProblem[]> {
  const bars: ProgressionBar[] = [];
  const marks: ProgressionMarks[] = [];
  const problems: ProgressionProblem[] = [];
  for (const [index, { words, at, mark }] of cells(text).entries()) {
    marks.push(mark);
    const number = index + 1;
    const here = {
      bar: number,
      from: at,
      to:
        at +
        Math.max(
          1,
          words.reduce((end, word) => Math.max(end, word.at + word.text.length - at), 0),
        ),
    };
    if (words.length === 1 && words[0]?.text === '%') {
      const before = bars.at(-1);
      if (before) bars.push(before);
      else problems.push({ code: 'nothing-to-repeat', found: '%', ...here });
      continue;
    }
    if (words.length > MAX_IN_BAR) problems.push({ code: 'too-many', found: `${words.length} chords`, ...here });
    bars.push(
      words.flatMap(({ text: word, at: from }): ChordSymbol[] => {
        const chord = parseChord(word);
        if (chord.ok) return [chord.value];
        problems.push({ code: 'unreadable-chord', found: word, bar: number, from, to: from + word.length });
        return [];
      }),
    );
    if (bars.length > MAX_BARS) return failure([{ code: 'too-many', found: `more than ${MAX_BARS} bars`, ...here }]);
  }
  if (bars.length === 0 && problems.length === 0)
    return failure([{ code: 'empty', found: text, bar: 1, from: 0, to: text.length }]);
  return problems.length > 0 ? failure(problems) : success({ bars, marks });
}

interface Word {
  readonly text: string;
  readonly at: number;
}

interface Cell {
  readonly words: readonly Word[];
  readonly at: number;
  readonly mark: ProgressionMarks;
}

/** The text between barlines. Barlines at either end and on both sides of a line's end count once. */
function cells(text: string): readonly Cell[] {
  const found: Cell[] = [];
  // A section's name may stand before the barline, or on a line of its own.
  let section: string | undefined;
  for (const line of text.matchAll(/[^\n\r]+/g)) {
    if (!/[^\s|:[\]]/.test(line[0])) continue;
    const pieces: { text: string; at: number }[] = [];
    let at = line.index ?? 0;
    for (const piece of line[0].split('|')) {
      pieces.push({ text: piece, at });
      at += piece.length + 1;
    }
    // Nothing stands before the first line and after the last, and between the two lines of a double one.
    const isOutside = (k: number, piece: string) =>
      piece === '' || ((k === 0 || k === pieces.length - 1) && /^[\s:[\]]*$/.test(piece));
    pieces.forEach((piece, k) => {
      if (isOutside(k, piece.text)) return;
      const cell = cellOf(piece.text, piece.at);
      if (cell.words.length === 0 && cell.mark.section !== undefined && k === 0) {
        section = cell.mark.section;
        return;
      }
      found.push(section === undefined ? cell : { ...cell, mark: { section, ...cell.mark } });
      section = undefined;
    });
  }
  return found;
}

const MAX_SECTION = 40;

function cellOf(text: string, at: number): Cell {
  const [lead = '', name] = /^[\s:]*\[\s*([^\][|]*?)\s*\][\s:]*/.exec(text) ?? [];
  const bare = ' '.repeat(lead.length) + text.slice(lead.length).replace(/[:[\]]/g, ' ');
  const section = name?.slice(0, MAX_SECTION);
  return {
    words: [...bare.matchAll(/\S+/g)].map((word) => ({ text: word[0], at: at + (word.index ?? 0) })),
    at,
    mark: {
      ...(section && { section }),
      ...(/^\s*:|^\s*\[[^\]]*\]\s*:/.test(text) && { repeatStart: true as const }),
      ...(/:\s*$/.test(text) && { repeatEnd: true as const }),
    },
  };
}

/** What is wrong, where, and what would be right. */
export function progressionProblemText({ code, found, bar }: ProgressionProblem): string {
  switch (code) {
    case 'unreadable-chord':
      return `bar ${bar}: the chord symbol "${found.slice(0, 40)}" cannot be read; write it like Am7 or F#m7b5/C`;
    case 'nothing-to-repeat':
      return `bar ${bar}: % repeats the bar before, and there is none; write its chord`;
    case 'empty':
      return 'there are no chords; write bars like Dm7 | G7 | Cmaj7';
    case 'too-many':
      return `bar ${bar}: ${found} are too many; a bar holds ${MAX_IN_BAR} at most`;
  }
}

/**
 * Where so many chords stand in a bar of so many beats: equally far apart where that falls on beats, else on the
 * nearest ones.
 */
export function sharedBeats(count: number, beats: number): readonly number[] {
  if (count <= 1) return [0];
  if (count > beats) return Array.from({ length: count }, (_, k) => (k * beats) / count);
  return Array.from({ length: count }, (_, k) => Math.round((k * beats) / count));
}
