import { failure, success, type Result } from '../result';
import { DRILL_LIMITS } from '../score';

/** What is done on every step of a set. Offsets count its steps, 0 the step itself. */
export type Pattern =
  | {
      readonly kind: 'cell';
      readonly name: string;
      readonly offsets: readonly number[];
      /** Comes down as it went up, turned round. */
      readonly isWave?: boolean;
    }
  /** Degrees that are played once in each key, in the inversion and octave that moves least. */
  | { readonly kind: 'group'; readonly name: string; readonly offsets: readonly number[] }
  | ArpeggioPattern
  /** With the note that lies so many letters above. */
  | { readonly kind: 'interval'; readonly name: string; readonly letters: number }
  /** The chord of thirds on the step, of so many notes. */
  | { readonly kind: 'stack'; readonly name: string; readonly offsets: readonly number[] }
  | { readonly kind: 'inversions' | 'cadence' | 'ways-in' | 'lip-slurs'; readonly name: string }
  /** Two chords under one hand, of three tones or four. */
  | { readonly kind: 'chord-pairs'; readonly name: string; readonly tones: 3 | 4 }
  /** Over the chords of a form. */
  | { readonly kind: 'chords' | 'guide-tones'; readonly name: string };

/** The key's chord as one arpeggio over the whole extent. */
export interface ArpeggioPattern {
  readonly kind: 'arpeggio';
  readonly name: string;
  /** The tone that it begins on: 0 the root, 1 the third … */
  readonly inversion: number;
  /** Tones beyond the octave. */
  readonly more: number;
}

export const PATTERN_GROUPS = [
  'Scales',
  'Intervals',
  'Cells',
  'Chords on each step',
  'One group a key',
  'Arpeggios',
  'Ways in',
  'Over a tune',
] as const;
type PatternGroup = (typeof PATTERN_GROUPS)[number];

export interface PatternEntry {
  /** As on the command line. */
  readonly id: string;
  readonly name: string;
  readonly group: PatternGroup;
  readonly pattern: Pattern;
}

const cell = (id: string, name: string, group: PatternGroup, degrees: string): PatternEntry => ({
  id,
  name,
  group,
  pattern: { kind: 'cell', name, offsets: degrees.split(' ').map((degree) => Number(degree) - 1) },
});

const interval = (id: string, letters: number, name = id): PatternEntry => ({
  id,
  name,
  group: 'Intervals',
  pattern: { kind: 'interval', name, letters },
});

const stack = (id: string, name: string, offsets: readonly number[]): PatternEntry => ({
  id,
  name,
  group: 'Chords on each step',
  pattern: { kind: 'stack', name, offsets },
});

const group = (degrees: string): PatternEntry => ({
  id: `group:${degrees}`,
  name: `${degrees}, once in each key`,
  group: 'One group a key',
  pattern: groupPattern(degrees),
});

function groupPattern(degrees: string): Pattern {
  const words = degrees.trim().split(/[\s,]+/);
  return {
    kind: 'group',
    name: `${words.join(' ')}, once in each key`,
    offsets: words.map((word) => Number(word) - 1),
  };
}

const arpeggio = (id: string, name: string, inversion: number, more: number): PatternEntry => ({
  id,
  name,
  group: 'Arpeggios',
  pattern: { kind: 'arpeggio', name, inversion, more },
});

const pairs = (id: string, name: string, tones: 3 | 4): PatternEntry => ({
  id,
  name,
  group: 'Arpeggios',
  pattern: { kind: 'chord-pairs', name, tones },
});

const special = (
  id: Exclude<Pattern['kind'], 'cell' | 'interval' | 'stack' | 'group' | 'arpeggio' | 'chord-pairs'>,
  name: string,
  group: PatternGroup,
): PatternEntry => ({
  id,
  name,
  group,
  pattern: { kind: id, name },
});

/** Every pattern that has a name, in the order of the shelf: from the plain scale to what goes over a tune. */
export const PATTERNS: readonly PatternEntry[] = [
  cell('scale', 'scale', 'Scales', '1'),
  cell('five-notes', 'five notes up and down, from each step', 'Scales', '1 2 3 4 5 4 3 2'),
  cell('groups-of-four', 'four notes from each step', 'Scales', '1 2 3 4'),
  interval('thirds', 2),
  interval('fourths', 3),
  interval('fifths', 4),
  interval('sixths', 5),
  interval('interval-sevenths', 6, 'sevenths, as intervals'),
  interval('octaves', 7),
  interval('interval-ninths', 8, 'ninths, as intervals'),
  interval('tenths', 9),
  interval('elevenths', 10),
  interval('twelfths', 11),
  interval('thirteenths', 12),
  cell('thirds-down', 'thirds, each pair down', 'Intervals', '3 1'),
  cell('fourths-down', 'fourths, each pair down', 'Intervals', '4 1'),
  {
    id: 'up-two-down-one',
    name: 'up two, down one',
    group: 'Cells',
    pattern: { kind: 'cell', name: 'up two, down one', offsets: [0, 1, 2], isWave: true },
  },
  cell('1-2-3-5', '1 2 3 5', 'Cells', '1 2 3 5'),
  cell('1-3-2-4', '1 3 2 4', 'Cells', '1 3 2 4'),
  cell('1-2-3-1', '1 2 3 1', 'Cells', '1 2 3 1'),
  cell('turns', 'turns, above and below', 'Cells', '1 2 0 1'),
  cell('return', 'skip and return: 1 3 1 2', 'Cells', '1 3 1 2'),
  stack('triads', 'triads', [0, 2, 4]),
  stack('sevenths', 'seventh chords', [0, 2, 4, 6]),
  stack('ninths', 'ninth chords', [0, 2, 4, 6, 8]),
  stack('eleventh-chords', 'eleventh chords', [0, 2, 4, 6, 8, 10]),
  stack('thirteenth-chords', 'thirteenth chords', [0, 2, 4, 6, 8, 10, 12]),
  cell('triads-down', 'triads, from the top', 'Chords on each step', '5 3 1'),
  cell('sevenths-down', 'seventh chords, from the top', 'Chords on each step', '7 5 3 1'),
  cell('broken-triads', 'broken triads', 'Chords on each step', '1 5 3 5'),
  cell('turned-triads', 'triads there and back', 'Chords on each step', '1 3 5 3'),
  group('1 3 5 3'),
  group('1 5 3 5'),
  group('1 3 5 1'),
  arpeggio('arpeggio', 'the arpeggio, over all of the extent', 0, 0),
  arpeggio('arpeggio-and-one', 'the arpeggio, one note more', 0, 1),
  arpeggio('arpeggio-from-3', 'the arpeggio from its third', 1, 0),
  arpeggio('arpeggio-from-5', 'the arpeggio from its fifth', 2, 0),
  special('inversions', 'inversions of the chord', 'Arpeggios'),
  special('cadence', 'tonic, dominant seventh, tonic', 'Arpeggios'),
  pairs('chord-pairs', 'pairs of chords that lie together', 3),
  pairs('seventh-pairs', 'pairs of seventh chords in one position', 4),
  special('lip-slurs', 'lip slurs on one length of tube', 'Arpeggios'),
  special('ways-in', 'half step below, scale step above', 'Ways in'),
  special('chords', 'the chords as they go by', 'Over a tune'),
  special('guide-tones', 'guide tones as long notes', 'Over a tune'),
];

export interface PatternProblem {
  readonly code: 'unknown-pattern' | 'bad-cell' | 'bad-group';
  readonly found: string;
}

/**
 * Reads a pattern: a name of the list, `cell:` with degrees (`cell:1 2 3 5`; 0 and below lie under the step), or `group:`
 * with those that are played once in each key (`group:1 3 5 3`).
 */
export function parsePattern(text: string): Result<Pattern, PatternProblem> {
  const entry = PATTERNS.find(({ id }) => id === text.trim());
  if (entry) return success(entry.pattern);
  const [, kind, degrees] = /^\s*(cell|group):\s*(.*)$/s.exec(text) ?? [];
  if (degrees === undefined) return failure({ code: 'unknown-pattern', found: text });
  const words = degrees.split(/[\s,]+/).filter(Boolean);
  const isCell =
    words.length > 0 && words.length <= DRILL_LIMITS.cell && words.every((word) => /^-?\d{1,2}$/.test(word));
  const offsets = words.map((word) => Number(word) - 1);
  const code = kind === 'group' ? 'bad-group' : 'bad-cell';
  if (!isCell || offsets.some((offset) => offset < -8 || offset > 14)) return failure({ code, found: degrees });
  return success(kind === 'group' ? groupPattern(words.join(' ')) : { kind: 'cell', name: words.join(' '), offsets });
}

/** What is wrong with a pattern and what would be right, as the end of a sentence. */
export function patternProblemText({ code, found }: PatternProblem): string {
  switch (code) {
    case 'bad-cell':
      return `"cell:${found.slice(0, 60)}" is no cell: give one to ${DRILL_LIMITS.cell} degrees from -7 to 15, like cell:1 2 3 5`;
    case 'bad-group':
      return `"group:${found.slice(0, 60)}" is no group: give one to ${DRILL_LIMITS.cell} degrees from -7 to 15, like group:1 3 5 3`;
    case 'unknown-pattern':
      return `"${found.slice(0, 60)}" is unknown: use ${PATTERNS.map(({ id }) => id).join(', ')}, cell:1 2 3 5 or group:1 3 5 3`;
  }
}

/** Notes in a group of the pattern; 1 where notes stand alone. */
export function groupSize(pattern: Pattern): number {
  switch (pattern.kind) {
    case 'cell':
    case 'group':
    case 'stack':
      return pattern.offsets.length;
    case 'interval':
      return 2;
    default:
      return 4;
  }
}
