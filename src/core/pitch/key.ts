import { failure, success, type Result } from '../result';
import { fifthsOf, pitchClassAtFifths } from './fifths';
import { UNISON, type Interval } from './interval';
import {
  alterOf,
  isStep,
  namePitchClass,
  printPitchClass,
  semitones,
  staffPosition,
  stepIndex,
  LETTERS,
  type PitchClass,
} from './pitch';
import { transposeClass } from './transpose';

export const MODES = [
  'major',
  'minor',
  'dorian',
  'phrygian',
  'lydian',
  'mixolydian',
  'aeolian',
  'locrian',
  'ionian',
] as const;
export type Mode = (typeof MODES)[number];

/** A tonic and a mode. Its signature is worked out, never stored. */
export interface Key {
  readonly tonic: PitchClass;
  readonly mode: Mode;
}

export interface KeyProblem {
  readonly code: 'unknown-tonic' | 'unknown-mode' | 'too-many-accidentals';
  readonly found: string;
}

export function sameKey(a: Key, b: Key): boolean {
  return a.mode === b.mode && a.tonic.step === b.tonic.step && a.tonic.alter === b.tonic.alter;
}

/**
 * How far a mode's signature lies from that of the major key on the same tonic, in fifths.
 * Follows from each mode being a rotation of the major scale: dorian begins on its second degree, two fifths up.
 */
const FIFTHS_FROM_MAJOR: Readonly<Record<Mode, number>> = {
  lydian: 1,
  major: 0,
  ionian: 0,
  mixolydian: -1,
  dorian: -2,
  minor: -3,
  aeolian: -3,
  phrygian: -4,
  locrian: -5,
};

/** Sharps (positive) or flats (negative) of the key signature. */
export function signatureOf(key: Key): number {
  return fifthsOf(key.tonic) + FIFTHS_FROM_MAJOR[key.mode];
}

export function keyWithSignature(signature: number, mode: Mode): Key {
  return { tonic: pitchClassAtFifths(signature - FIFTHS_FROM_MAJOR[mode]), mode };
}

export function transposeKey(key: Key, interval: Interval): Key {
  return { tonic: transposeClass(key.tonic, interval), mode: key.mode };
}

/** The alteration that a key gives a letter. */
export function alterInKey(step: PitchClass['step'], key: Key): number {
  return signatureAlters(signatureOf(key))[stepIndex(step)] ?? 0;
}

/** More sharps or flats than any key has that can be named. */
const MAX_SIGNS = 40;
/** By signature, from the most flats: asked for at every bar. */
const ALTERS: readonly (readonly number[])[] = Array.from({ length: 2 * MAX_SIGNS + 1 }, (_, k) =>
  LETTERS.map((step) => alterInSignature(step, k - MAX_SIGNS)),
);

/** The alteration that a signature gives each letter, from C. */
export function signatureAlters(signature: number): readonly number[] {
  return ALTERS[signature + MAX_SIGNS] ?? LETTERS.map((step) => alterInSignature(step, signature));
}

/** The alteration that a signature gives a letter: with two flats, B and E are −1. */
export function alterInSignature(step: PitchClass['step'], signature: number): number {
  const place = fifthsOf({ step, alter: 0 });
  // The first sharp is F (−1), the first flat B (5); each further one is a fifth on.
  if (signature > 0) return place + 1 < signature ? 1 : 0;
  if (signature < 0) return 5 - place < -signature ? -1 : 0;
  return 0;
}

/**
 * The interval that carries one tonic to another by the shorter way (up to a tritone; the tritone itself rises).
 * Modes are not looked at: D dorian to E dorian is a major second.
 */
export function intervalBetweenTonics(from: PitchClass, to: PitchClass): Interval {
  const low = { ...from, octave: 4 };
  const candidates = [3, 4, 5].map((octave) => ({ ...to, octave }));
  const intervals = candidates.map((high) => ({
    diatonic: staffPosition(high) - staffPosition(low),
    chromatic: semitones(high) - semitones(low),
  }));
  return intervals.reduce((best, next) => {
    const nearer = Math.abs(next.chromatic) - Math.abs(best.chromatic);
    return nearer < 0 || (nearer === 0 && next.chromatic > best.chromatic) ? next : best;
  }, intervals[0] ?? UNISON);
}

/** The interval that carries one note name up to another, within an octave. */
export function intervalUp(from: PitchClass, to: PitchClass): Interval {
  const interval = intervalBetweenTonics(from, to);
  return interval.chromatic < 0 || interval.diatonic < 0
    ? { diatonic: interval.diatonic + 7, chromatic: interval.chromatic + 12 }
    : interval;
}

const MODE_WORDS: Readonly<Record<string, Mode>> = {
  '': 'major',
  major: 'major',
  maj: 'major',
  minor: 'minor',
  min: 'minor',
  m: 'minor',
  dorian: 'dorian',
  dor: 'dorian',
  phrygian: 'phrygian',
  phr: 'phrygian',
  lydian: 'lydian',
  lyd: 'lydian',
  mixolydian: 'mixolydian',
  mix: 'mixolydian',
  aeolian: 'aeolian',
  aeo: 'aeolian',
  locrian: 'locrian',
  loc: 'locrian',
  ionian: 'ionian',
  ion: 'ionian',
};

/**
 * Reads `C`, `Bb`, `F#`, `Am`, `F#m`, `D dorian`, `B♭ major`. Signatures go to seven sharps or flats.
 * A capital `M` after the tonic means major, a small one minor.
 */
export function parseKey(text: string): Result<Key, KeyProblem> {
  const match = /^\s*([A-Ga-g])([#♯]|[b♭])?\s*([A-Za-z]*)\s*$/.exec(text);
  const step = match?.[1]?.toUpperCase();
  if (!match || !isStep(step)) return failure({ code: 'unknown-tonic', found: text });
  const word = match[3] ?? '';
  const mode =
    word === 'M' ? 'major' : Object.hasOwn(MODE_WORDS, word.toLowerCase()) ? MODE_WORDS[word.toLowerCase()] : undefined;
  if (mode === undefined) return failure({ code: 'unknown-mode', found: text });
  const key: Key = { tonic: { step, alter: alterOf(match[2] ?? '') }, mode };
  if (Math.abs(signatureOf(key)) > 7) return failure({ code: 'too-many-accidentals', found: text });
  return success(key);
}

/** What is wrong with a key and what would be right, as the end of a sentence. */
export function keyProblemText(problem: KeyProblem): string {
  switch (problem.code) {
    case 'unknown-tonic':
      return `"${problem.found}" is no key: write a tonic and a mode, like C, Bb, F#m or D dorian`;
    case 'unknown-mode':
      return `"${problem.found}" has no known mode: use major, minor (m), ${MODES.slice(2, 6).join(', ')}, aeolian, locrian or ionian`;
    case 'too-many-accidentals':
      return `"${problem.found}" would need more than seven sharps or flats: use its enharmonic twin`;
  }
}

/** `C`, `Bb`, `Am`, `D dorian`: for files and the command line; read back by `parseKey`. */
export function printKey(key: Key): string {
  const tonic = printPitchClass(key.tonic);
  if (key.mode === 'major') return tonic;
  return key.mode === 'minor' ? `${tonic}m` : `${tonic} ${key.mode}`;
}

/** `B♭ major`, `F♯ minor`, `D dorian`: for people. */
export function nameKey(key: Key): string {
  return `${namePitchClass(key.tonic)} ${key.mode}`;
}
