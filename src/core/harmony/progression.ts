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

const MOST_BARS = 1_000;
const MOST_IN_BAR = 16;

/**
 * Reads a progression as it is written on paper: `Dm7 | G7 | Cmaj7 | %`, chords of one bar with spaces between them, bars
 * with `|` or on lines of their own; `%` repeats the bar before. All that cannot be read is told at once.
 */
export function parseProgression(text: string): Result<readonly ProgressionBar[], readonly ProgressionProblem[]> {
  const bars: ProgressionBar[] = [];
  const problems: ProgressionProblem[] = [];
  for (const [index, { words, at }] of cells(text).entries()) {
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
    if (words.length > MOST_IN_BAR) problems.push({ code: 'too-many', found: `${words.length} chords`, ...here });
    bars.push(
      words.flatMap(({ text: word, at: from }): ChordSymbol[] => {
        const chord = parseChord(word);
        if (chord.ok) return [chord.value];
        problems.push({ code: 'unreadable-chord', found: word, bar: number, from, to: from + word.length });
        return [];
      }),
    );
    if (bars.length > MOST_BARS) return failure([{ code: 'too-many', found: `more than ${MOST_BARS} bars`, ...here }]);
  }
  if (bars.length === 0 && problems.length === 0)
    return failure([{ code: 'empty', found: text, bar: 1, from: 0, to: text.length }]);
  return problems.length > 0 ? failure(problems) : success(bars);
}

interface Word {
  readonly text: string;
  readonly at: number;
}

/** The text between barlines. Barlines at either end and on both sides of a line's end count once. */
function cells(text: string): readonly { readonly words: readonly Word[]; readonly at: number }[] {
  const found: { words: Word[]; at: number }[] = [];
  for (const line of text.matchAll(/[^\n\r]+/g)) {
    const start = line.index ?? 0;
    const inner = line[0].replace(/^[\s|:[\]]+/, (lead) => ' '.repeat(lead.length)).replace(/[\s|:[\]]+$/, '');
    if (inner.trim() === '') continue;
    let at = start;
    for (const cell of inner.split(/[|]+/)) {
      const words = [...cell.replace(/[:[\]]/g, ' ').matchAll(/\S+/g)].map((word) => ({
        text: word[0],
        at: at + (word.index ?? 0),
      }));
      found.push({ words, at });
      at += cell.length + 1;
    }
  }
  return found;
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
      return `bar ${bar}: ${found} are too many; a bar holds ${MOST_IN_BAR} at most`;
  }
}

/** Where so many chords stand in a bar of so many beats: equally far apart where that falls on beats, else on the nearest ones. */
export function sharedBeats(count: number, beats: number): readonly number[] {
  if (count <= 1) return [0];
  if (count > beats) return Array.from({ length: count }, (_, k) => (k * beats) / count);
  return Array.from({ length: count }, (_, k) => Math.round((k * beats) / count));
}
