import { diatonicChords, parseChord, printChord } from '../../../core/harmony';
import type { Key } from '../../../core/pitch';
import type { Tune } from '../../../core/score';

/** Kinds offered for a root, the plainest first. */
const KINDS = [
  '',
  'm',
  '7',
  'm7',
  'maj7',
  '6',
  'm6',
  'sus4',
  '7sus4',
  'm7b5',
  '°7',
  '9',
  'm9',
  'maj9',
  '13',
  '7b9',
  '7#9',
  'add9',
  '+',
];
const MOST = 8;

/**
 * What may be meant by the beginning of a chord symbol: those of the tune first, then the key's, then other kinds on
 * the root typed.
 */
export function chordSuggestions(typed: string, tune: Tune, key: Key): readonly string[] {
  const counts = new Map<string, number>();
  for (const { symbol } of tune.bars.flatMap(({ chords }) => chords))
    counts.set(printChord(symbol), (counts.get(printChord(symbol)) ?? 0) + 1);
  const used = [...counts].toSorted((a, b) => b[1] - a[1]).map(([name]) => name);
  const root = /^[A-G][#b]?/.exec(typed)?.[0];
  const onRoot = root ? KINDS.map((kind) => root + kind) : [];
  const all = [...new Set([...used, ...diatonicChords(key), ...onRoot])];
  return all.filter((name) => name.startsWith(typed) && name !== typed && parseChord(name).ok).slice(0, MOST);
}

/** A small first letter is a slip of the key, not another chord. */
export function chordTyped(text: string): string {
  const trimmed = text.trim();
  return /^[a-g]/.test(trimmed) ? trimmed.replace(/^[a-g]/, (letter) => letter.toUpperCase()) : trimmed;
}
