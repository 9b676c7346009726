import { failure, success, type Result } from '../result';
import { parsePitch, printPitch, semitones, type Pitch } from './pitch';

/** How many notes a player may be said to know; more than any instrument has. */
export const MAX_KNOWN_NOTES = 40;

/** Reads `G4, A4 Bb4`: pitches with their octaves. Nothing typed is no notes. */
export function parseNotes(text: string): Result<readonly Pitch[], string> {
  const words = text.split(/[\s,;]+/).filter((word) => word !== '');
  if (words.length > MAX_KNOWN_NOTES) return failure(`at most ${MAX_KNOWN_NOTES} notes`);
  const pitches: Pitch[] = [];
  for (const word of words) {
    const parsed = parsePitch(word);
    if (!parsed.ok) return failure(`"${word}" is no note: write letter, sign and octave, like G4 or Bb4`);
    pitches.push(parsed.value);
  }
  return success(pitches.toSorted((a, b) => semitones(a) - semitones(b)));
}

export function printNotes(pitches: readonly Pitch[]): string {
  return pitches.map(printPitch).join(' ');
}
