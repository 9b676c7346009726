import { chroma, type Key, printPitchClass } from '../pitch';
import { SCALE_OF_MODE, scaleOn } from './scales';

/** Thirds above a root, in semitones, and the triad they make. */
const TRIADS: Readonly<Record<string, string>> = { '4/7': '', '3/7': 'm', '3/6': '°', '4/8': '+' };

/** The triads on the seven degrees of a key, as they are written; in minor also the dominant with its raised third. */
export function diatonicChords(key: Key): readonly string[] {
  const { notes } = scaleOn(key.tonic, SCALE_OF_MODE[key.mode]);
  const chords = notes.map((root, degree) => {
    const above = (steps: number) => (chroma(notes[(degree + steps) % 7] ?? root) - chroma(root) + 12) % 12;
    return `${printPitchClass(root)}${TRIADS[`${above(2)}/${above(4)}`] ?? ''}`;
  });
  const fifth = notes[4];
  const isMinor = key.mode === 'minor' || key.mode === 'aeolian';
  return isMinor && fifth ? [...chords, `${printPitchClass(fifth)}7`] : chords;
}
