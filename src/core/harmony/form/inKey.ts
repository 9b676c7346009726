import { chroma } from '../../pitch';
import type { ChordFunction } from './reading';
import { classOfChord, type ChordClass, type TimedChord } from './timedChord';

/** A chord with what is looked at again and again. */
export interface HeardChord {
  readonly root: number;
  readonly class: ChordClass;
}

export function heardChord({ symbol }: TimedChord): HeardChord | undefined {
  return symbol.kind === 'chord' ? { root: chroma(symbol.root), class: classOfChord(symbol.quality) } : undefined;
}

/** The families of keys between which a tune moves. Modes are read by the one whose third they share. */
export type KeyFamily = 'major' | 'minor';

export interface Sense {
  readonly function: ChordFunction;
  /**
   * How little it is expected: 0 for what belongs to the key, about 1 for a borrowed chord, more for one that does not
   * belong.
   */
  readonly cost: number;
  /** Semitones above the tonic. */
  readonly target?: number;
  readonly targetIsMinor?: boolean;
}

type Table = Readonly<Record<number, Readonly<Partial<Record<ChordClass, readonly [number, ChordFunction]>>>>>;

/**
 * What belongs to a key, and what is usually borrowed into it: cost and function by semitones above the tonic. Sources:
 * S. Kostka and D. Payne, Tonal Harmony (2013), ch. 7, 16 and 21; M. Levine, The Jazz Theory Book (1995), ch. 2 and 13;
 * the numbers are ours, set by trial on the forms of `readForm.test.ts`.
 */
const EXPECTED: Readonly<Record<KeyFamily, Table>> = {
  major: {
    0: {
      major: [0, 'tonic'],
      suspended: [0.1, 'tonic'],
      power: [0, 'tonic'],
      augmented: [0.4, 'tonic'],
      dominant: [0.7, 'tonic'],
      minor: [1.1, 'borrowed'],
      diminished: [0.6, 'passing'],
    },
    1: { diminished: [0.5, 'passing'], dominant: [0.6, 'tritone substitute'], major: [0.9, 'borrowed'] },
    2: {
      minor: [0, 'predominant'],
      'half-diminished': [0.6, 'predominant'],
      suspended: [0.3, 'predominant'],
      dominant: [0.7, 'secondary dominant'],
      major: [0.8, 'secondary dominant'],
      power: [0.1, 'predominant'],
    },
    3: { diminished: [0.5, 'passing'], major: [0.8, 'borrowed'], dominant: [0.9, 'borrowed'] },
    4: {
      minor: [0, 'tonic'],
      'half-diminished': [0.7, 'related ii'],
      dominant: [0.8, 'secondary dominant'],
      major: [1, 'secondary dominant'],
      power: [0.2, 'tonic'],
    },
    5: {
      major: [0, 'predominant'],
      suspended: [0.2, 'predominant'],
      power: [0, 'predominant'],
      minor: [0.6, 'borrowed'],
      dominant: [0.45, 'predominant'],
    },
    6: { 'half-diminished': [0.6, 'predominant'], diminished: [0.5, 'passing'] },
    7: {
      dominant: [0, 'dominant'],
      suspended: [0, 'dominant'],
      major: [0, 'dominant'],
      augmented: [0.2, 'dominant'],
      power: [0, 'dominant'],
      minor: [0.8, 'borrowed'],
    },
    8: { major: [0.8, 'borrowed'], dominant: [0.8, 'tritone substitute'], diminished: [0.6, 'passing'] },
    9: {
      minor: [0, 'tonic'],
      power: [0.1, 'tonic'],
      suspended: [0.3, 'tonic'],
      dominant: [0.7, 'secondary dominant'],
      major: [0.9, 'secondary dominant'],
    },
    10: { dominant: [0.7, 'backdoor'], major: [0.6, 'borrowed'], power: [0.4, 'borrowed'] },
    11: {
      'half-diminished': [0, 'dominant'],
      diminished: [0.1, 'dominant'],
      dominant: [0.9, 'secondary dominant'],
    },
  },
  minor: {
    0: {
      minor: [0, 'tonic'],
      power: [0, 'tonic'],
      suspended: [0.2, 'tonic'],
      major: [0.8, 'borrowed'],
      dominant: [0.8, 'secondary dominant'],
      'half-diminished': [0.8, 'tonic'],
    },
    1: { major: [0.6, 'borrowed'], dominant: [0.6, 'tritone substitute'], diminished: [0.6, 'passing'] },
    2: {
      'half-diminished': [0, 'predominant'],
      diminished: [0.2, 'predominant'],
      minor: [0.5, 'predominant'],
      power: [0.2, 'predominant'],
      dominant: [0.8, 'secondary dominant'],
      major: [0.9, 'secondary dominant'],
    },
    3: { major: [0, 'tonic'], augmented: [0.3, 'tonic'], power: [0, 'tonic'], dominant: [0.9, 'secondary dominant'] },
    4: { diminished: [0.5, 'passing'] },
    5: {
      minor: [0, 'predominant'],
      power: [0, 'predominant'],
      suspended: [0.2, 'predominant'],
      dominant: [0.5, 'predominant'],
      major: [0.4, 'predominant'],
    },
    6: { diminished: [0.5, 'passing'], 'half-diminished': [0.6, 'predominant'] },
    7: {
      dominant: [0, 'dominant'],
      suspended: [0, 'dominant'],
      major: [0, 'dominant'],
      augmented: [0, 'dominant'],
      power: [0, 'dominant'],
      minor: [0.3, 'dominant'],
      'half-diminished': [0.8, 'related ii'],
    },
    8: { major: [0, 'predominant'], power: [0.1, 'predominant'], dominant: [0.4, 'tritone substitute'] },
    9: { 'half-diminished': [0.4, 'tonic'], diminished: [0.5, 'passing'] },
    10: {
      dominant: [0.4, 'dominant'],
      major: [0.2, 'dominant'],
      power: [0.1, 'dominant'],
      suspended: [0.3, 'dominant'],
      minor: [0.9, 'borrowed'],
    },
    11: { diminished: [0, 'dominant'], 'half-diminished': [0.5, 'dominant'] },
  },
};

const IN_SCALE: Readonly<Record<KeyFamily, ReadonlySet<number>>> = {
  major: new Set([0, 2, 4, 5, 7, 9, 11]),
  minor: new Set([0, 2, 3, 5, 7, 8, 10]),
};

/** Which degrees carry a minor chord of their own. */
const MINOR_DEGREES: Readonly<Record<KeyFamily, ReadonlySet<number>>> = {
  major: new Set([2, 4, 9]),
  minor: new Set([0, 2, 5]),
};

/** Costs of chords that are explained by where they go. */
const COST = {
  secondary: 0.35,
  farSecondary: 0.8,
  substitute: 0.5,
  related: 0.45,
  leading: 0.45,
  outside: 2.2,
} as const;

export interface Surroundings {
  /** The next chord on another root. */
  readonly next: HeardChord | undefined;
  /** The one after that. */
  readonly afterNext: HeardChord | undefined;
}

/** What a chord does in a key, and how much it is expected there. */
export function senseIn(chord: HeardChord, tonic: number, family: KeyFamily, around: Surroundings): Sense {
  const degree = (chord.root - tonic + 12) % 12;
  const expected = EXPECTED[family][degree]?.[chord.class];
  const leading = leadingSense(chord, degree, tonic, family, around);
  // A half-diminished seventh degree before the dominant of the sixth is that one's ii, though it belongs to the key.
  const prepares = leading?.function === 'related ii' && chord.class === 'half-diminished' && leading.targetIsMinor;
  if (expected && expected[0] === 0 && !prepares) return { function: expected[1], cost: 0 };
  if (leading && expected && prepares) return { ...leading, cost: expected[0] };
  if (leading && (!expected || leading.cost <= expected[0])) return leading;
  if (!expected) return { function: 'outside', cost: COST.outside };
  // A dominant whose chord does not come is one all the same.
  const target = expected[1] === 'secondary dominant' ? (degree + 5) % 12 : undefined;
  return {
    function: expected[1],
    cost: expected[0],
    ...(target !== undefined && { target, targetIsMinor: MINOR_DEGREES[family].has(target) }),
  };
}

/** A chord explained by the one it leads to: secondary dominant, substitute, related ii, leading diminished chord. */
function leadingSense(
  chord: HeardChord,
  degree: number,
  tonic: number,
  family: KeyFamily,
  { next, afterNext }: Surroundings,
): Sense | undefined {
  if (!next) return undefined;
  const goes = (next.root - chord.root + 12) % 12;
  const target = (next.root - tonic + 12) % 12;
  const belongs = IN_SCALE[family].has(target);
  const targetIsMinor = isMinorTarget(next, target, family);
  if (chord.class === 'dominant' || (chord.class === 'augmented' && goes === 5)) {
    if (goes === 5)
      return {
        function: 'secondary dominant',
        cost: belongs ? COST.secondary : COST.farSecondary,
        target,
        targetIsMinor,
      };
    if (goes === 11 && belongs) return { function: 'tritone substitute', cost: COST.substitute, target, targetIsMinor };
  }
  if ((chord.class === 'minor' || chord.class === 'half-diminished') && next.class === 'dominant') {
    const onward = afterNext ? (afterNext.root - next.root + 12) % 12 : undefined;
    // The target of the dominant that follows, also where it is replaced by its substitute.
    if (goes === 5) {
      const goal = (next.root + 5 - tonic + 12) % 12;
      const isMinor =
        onward === 5 && afterNext ? isMinorTarget(afterNext, goal, family) : MINOR_DEGREES[family].has(goal);
      if (goal !== 0 && IN_SCALE[family].has(goal))
        return { function: 'related ii', cost: COST.related, target: goal, targetIsMinor: isMinor };
    }
  }
  if (chord.class === 'diminished' && goes === 1 && degree !== 11)
    return { function: 'passing', cost: COST.leading, target, targetIsMinor };
  return undefined;
}

function isMinorTarget(next: HeardChord, target: number, family: KeyFamily): boolean {
  if (next.class === 'minor' || next.class === 'half-diminished') return true;
  return next.class === 'major' || next.class === 'augmented' ? false : MINOR_DEGREES[family].has(target);
}
