import type { PitchClass } from '../pitch/pitch';
import { chroma } from '../pitch/pitch';
import { transposeClass } from '../pitch/transpose';
import type { Interval } from '../pitch/interval';

export const SCALE_NAMES = [
  'major pentachord',
  'minor pentachord',
  'major pentatonic',
  'minor pentatonic',
  'major hexachord',
  'minor hexachord',
  'blues scale',
  'major',
  'natural minor',
  'dorian',
  'mixolydian',
  'lydian',
  'phrygian',
  'harmonic minor',
  'melodic minor',
  'locrian',
  'whole-tone',
] as const;
export type ScaleName = (typeof SCALE_NAMES)[number];

type Degree = readonly [diatonic: number, chromatic: number];

/**
 * Letters and semitones above the tonic. Sets of seven have one letter a degree. The blues scale is given with its lowered
 * fifth; going up it is written as a raised fourth. Source: common theory texts, e.g. D. Terefenko, Jazz Theory (2014), ch. 8
 * and 10; pentachord and hexachord are the first five and six degrees of the scale.
 */
const DEGREES: Readonly<Record<ScaleName, readonly Degree[]>> = {
  'major pentachord': [
    [0, 0],
    [1, 2],
    [2, 4],
    [3, 5],
    [4, 7],
  ],
  'minor pentachord': [
    [0, 0],
    [1, 2],
    [2, 3],
    [3, 5],
    [4, 7],
  ],
  'major pentatonic': [
    [0, 0],
    [1, 2],
    [2, 4],
    [4, 7],
    [5, 9],
  ],
  'minor pentatonic': [
    [0, 0],
    [2, 3],
    [3, 5],
    [4, 7],
    [6, 10],
  ],
  'major hexachord': [
    [0, 0],
    [1, 2],
    [2, 4],
    [3, 5],
    [4, 7],
    [5, 9],
  ],
  'minor hexachord': [
    [0, 0],
    [1, 2],
    [2, 3],
    [3, 5],
    [4, 7],
    [6, 10],
  ],
  'blues scale': [
    [0, 0],
    [2, 3],
    [3, 5],
    [4, 6],
    [4, 7],
    [6, 10],
  ],
  major: [
    [0, 0],
    [1, 2],
    [2, 4],
    [3, 5],
    [4, 7],
    [5, 9],
    [6, 11],
  ],
  'natural minor': [
    [0, 0],
    [1, 2],
    [2, 3],
    [3, 5],
    [4, 7],
    [5, 8],
    [6, 10],
  ],
  dorian: [
    [0, 0],
    [1, 2],
    [2, 3],
    [3, 5],
    [4, 7],
    [5, 9],
    [6, 10],
  ],
  mixolydian: [
    [0, 0],
    [1, 2],
    [2, 4],
    [3, 5],
    [4, 7],
    [5, 9],
    [6, 10],
  ],
  lydian: [
    [0, 0],
    [1, 2],
    [2, 4],
    [3, 6],
    [4, 7],
    [5, 9],
    [6, 11],
  ],
  phrygian: [
    [0, 0],
    [1, 1],
    [2, 3],
    [3, 5],
    [4, 7],
    [5, 8],
    [6, 10],
  ],
  'harmonic minor': [
    [0, 0],
    [1, 2],
    [2, 3],
    [3, 5],
    [4, 7],
    [5, 8],
    [6, 11],
  ],
  'melodic minor': [
    [0, 0],
    [1, 2],
    [2, 3],
    [3, 5],
    [4, 7],
    [5, 9],
    [6, 11],
  ],
  locrian: [
    [0, 0],
    [1, 1],
    [2, 3],
    [3, 5],
    [4, 6],
    [5, 8],
    [6, 10],
  ],
  'whole-tone': [
    [0, 0],
    [1, 2],
    [2, 4],
    [3, 6],
    [4, 8],
    [5, 10],
  ],
};

/** A named set of notes on a tonic. */
export interface Scale {
  readonly tonic: PitchClass;
  readonly name: ScaleName;
  /** From the tonic upwards. */
  readonly notes: readonly PitchClass[];
}

/**
 * Rule: scales are spelled one letter a degree where they have seven notes.
 */
export function scaleOn(tonic: PitchClass, name: ScaleName): Scale {
  return { tonic, name, notes: scaleIntervals(name).map((interval) => transposeClass(tonic, interval)) };
}

export function scaleIntervals(name: ScaleName): readonly Interval[] {
  return DEGREES[name].map(([diatonic, chromatic]) => ({ diatonic, chromatic }));
}

/** The scale that a mode is, for a key. */
export const SCALE_OF_MODE = {
  major: 'major',
  ionian: 'major',
  minor: 'natural minor',
  aeolian: 'natural minor',
  dorian: 'dorian',
  phrygian: 'phrygian',
  lydian: 'lydian',
  mixolydian: 'mixolydian',
  locrian: 'locrian',
} as const satisfies Readonly<Record<string, ScaleName>>;

/** Semitones above C in a scale, as bits 0–11. */
export function chromaBits(notes: readonly PitchClass[]): number {
  return notes.reduce((bits, note) => bits | (1 << chroma(note)), 0);
}
