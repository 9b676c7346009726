import { derived } from '../derived';
import { type PitchClass, transposeClass } from '../pitch';
import type { ChordKind, ChordSymbol } from './chordSymbol';

export interface ChordTone {
  /** 1, 3, 5, 7, or 2, 4, 6, 9, 11, 13 where the chord has them. */
  readonly degree: number;
  readonly pitchClass: PitchClass;
}

/** Semitones of the unaltered degrees above the root (major scale, minor seventh). */
const DEGREE_SEMITONES: Readonly<Record<number, number>> = {
  1: 0,
  2: 2,
  3: 4,
  4: 5,
  5: 7,
  6: 9,
  7: 10,
  9: 14,
  11: 17,
  13: 21,
};

/**
 * The notes of a chord, spelled from its root one letter a degree: the third of E♭m is G♭, the seventh of B°7 is A♭.
 * An `alt` chord gives 1 3 7 and its usual tensions ♭9 ♯9 ♭13. `N.C.` has none. The slash bass is not among them.
 * Rule: chord tones are spelled from the root (the third of E♭m is G♭).
 */
export function chordTones(chord: ChordSymbol): readonly ChordTone[] {
  if (chord.kind === 'no chord') return NO_TONES;
  return spelledTones(chord.root, chord.quality);
}

const NO_TONES: readonly ChordTone[] = [];

/** The notes of a chord without their degrees; equal chords share the list. */
export function chordNotes(chord: ChordSymbol): readonly PitchClass[] {
  return notesOf(chordTones(chord));
}

const notesOf = derived((tones: readonly ChordTone[]): readonly PitchClass[] =>
  tones.map(({ pitchClass }) => pitchClass),
);

/** Chords of one kind share it, and there are few roots. */
const spelledTones = derived(
  (root: PitchClass, quality: ChordKind): readonly ChordTone[] =>
    chordDegrees(quality).map(({ degree, alter }) => ({
      degree,
      pitchClass: transposeClass(root, {
        diatonic: degree - 1,
        chromatic: (DEGREE_SEMITONES[degree] ?? 0) + alter,
      }),
    })),
  { most: 49, by: ({ step, alter }, quality) => [quality, step, alter] },
);

interface Degree {
  readonly degree: number;
  readonly alter: number;
}

/** Degrees with their alteration against the major scale with a minor seventh, lowest first. */
const chordDegrees = derived(degreesOf);

function degreesOf(kind: ChordKind): readonly Degree[] {
  if (kind.altered) return [d(1), d(3), d(7), d(9, -1), d(9, 1), d(13, -1)];
  const degrees: Degree[] = [d(1), ...triadDegrees(kind.triad)];
  if (kind.sixth) degrees.push(d(6));
  if (kind.seventh) degrees.push(d(7, { minor: 0, major: 1, diminished: -1 }[kind.seventh]));
  for (const extension of [9, 11, 13] as const) {
    // In a 13 chord the natural 11 is left out: it rubs against the third.
    if (kind.extension && extension <= kind.extension && !(extension === 11 && kind.extension === 13))
      degrees.push(d(extension));
  }
  degrees.push(
    ...kind.added.filter((degree) => !degrees.some((other) => other.degree === degree)).map((degree) => d(degree)),
  );
  const altered = kind.alterations.map(({ degree, alter }) => d(degree, alter));
  return [...degrees.filter(({ degree }) => !altered.some((other) => other.degree === degree)), ...altered]
    .filter(({ degree }) => !kind.omitted.some((omitted) => omitted === degree))
    .toSorted((a, b) => a.degree - b.degree || a.alter - b.alter);
}

function d(degree: number, alter = 0): Degree {
  return { degree, alter };
}

function triadDegrees(triad: ChordKind['triad']): readonly Degree[] {
  switch (triad) {
    case 'major':
      return [d(3), d(5)];
    case 'minor':
      return [d(3, -1), d(5)];
    case 'diminished':
      return [d(3, -1), d(5, -1)];
    case 'augmented':
      return [d(3), d(5, 1)];
    case 'sus2':
      return [d(2), d(5)];
    case 'sus4':
      return [d(4), d(5)];
    case 'power':
      return [d(5)];
  }
}
