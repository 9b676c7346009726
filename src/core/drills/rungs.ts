import { derived } from '../derived';
import { hasLetterForEach, intervalsGoing, type Scale } from '../harmony';
import type { WrittenRange } from '../instruments';
import { chroma, type Pitch, type PitchClass, semitones, transpose, withoutDoubleAccidental } from '../pitch';

/**
 * All notes of a set from far below to far above any instrument, as the rungs of a ladder: a drill is worked out in
 * rungs, and pitches come last. Coming down a note may be spelled otherwise (the blue note), but lies on the same rung.
 */
export interface Rungs {
  readonly up: readonly Pitch[];
  readonly down: readonly Pitch[];
  readonly perOctave: number;
  /** Whether each rung has a letter of its own, seven to the octave. */
  readonly isLettered: boolean;
  readonly tonic: PitchClass;
}

const OCTAVES = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9] as const;

export const rungsOf = derived(freshRungs);

function freshRungs(scale: Scale): Rungs {
  const isLettered = hasLetterForEach(scale.name);
  const going = (direction: 'up' | 'down') =>
    OCTAVES.flatMap((octave) =>
      intervalsGoing(scale.name, direction).map((interval) => {
        const pitch = transpose({ ...scale.tonic, octave }, interval);
        return isLettered ? pitch : withoutDoubleAccidental(pitch);
      }),
    );
  return {
    up: going('up'),
    down: going('down'),
    perOctave: intervalsGoing(scale.name, 'up').length,
    isLettered,
    tonic: scale.tonic,
  };
}

/** The melodic minor of the schools: raised going up, natural coming down. */
export function melodicRungs(scale: Scale): Rungs {
  return { ...rungsOf(scale), down: rungsOf({ ...scale, name: 'natural minor' }).down };
}

/** The notes of a chord as rungs, from its root. */
export function rungsOfChord(root: PitchClass, tones: readonly PitchClass[]): Rungs {
  const above = (tone: PitchClass) => (chroma(tone) - chroma(root) + 12) % 12;
  const inOrder = tones.toSorted((a, b) => above(a) - above(b));
  const up = OCTAVES.flatMap((octave) =>
    inOrder.map((tone): Pitch => {
      const pitch: Pitch = { step: tone.step, alter: tone.alter, octave };
      // A letter below the root's belongs to the octave that the root begins.
      return semitones(pitch) < semitones({ ...root, octave }) ? { ...pitch, octave: octave + 1 } : pitch;
    }),
  );
  return { up, down: up, perOctave: inOrder.length, isLettered: false, tonic: root };
}

/** The first and the last rung in a range; `undefined` where none is in it. */
export function rungsWithin(
  { up }: Rungs,
  { low, high }: WrittenRange,
): { readonly from: number; readonly to: number } | undefined {
  const from = up.findIndex((pitch) => semitones(pitch) >= semitones(low));
  const to = up.findLastIndex((pitch) => semitones(pitch) <= semitones(high));
  return from < 0 || to < from ? undefined : { from, to };
}

/** Rungs of the tonic between two rungs. */
export function tonicsWithin({ perOctave }: Rungs, from: number, to: number): readonly number[] {
  const first = Math.ceil(from / perOctave) * perOctave;
  return Array.from({ length: Math.max(0, Math.floor((to - first) / perOctave) + 1) }, (_, k) => first + k * perOctave);
}

/** Whether a set has a degree for every letter, or more: its intervals are those of the key. */
export function isOfSeven({ notes }: Pick<Scale, 'notes'>): boolean {
  return notes.length >= 7;
}

/**
 * The rung so many letters above another. In sets of seven and more notes so many rungs; in smaller ones an octave is
 * an octave, and what lies within counts steps of the set, as those who practise them do: thirds are each note with the
 * next but one.
 */
export function rungAbove({ perOctave }: Rungs, rung: number, letters: number): number {
  const octaves = Math.floor(letters / 7);
  return rung + octaves * perOctave + (letters - 7 * octaves);
}
