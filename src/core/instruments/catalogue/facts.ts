import { type Interval, parsePitch, type Pitch } from '../../pitch';
import type { Instrument, Mechanism, WrittenRange } from '../instrument';

/*
 * Sources
 *   Full ranges and transpositions: S. Adler, The Study of Orchestration, 4th ed. (2016), chapters on each family, rounded to what is
 *     commonly expected of an amateur at the top end. Recorders, tin whistle, brass band, plucked and free-reed instruments: what their makers' charts give.
 *   Ranges by level, home keys: common practice of first and second tutor books and of graded examinations; rules of thumb
 *     that a teacher may change for each player.
 *   Register breaks: fingering systems themselves (all fingers off to all on, or the partial that needs another embouchure).
 *   Playing time and breath: teachers' rules of thumb; a teacher or clinician decides.
 */
export const ADLER =
  'Full range: Adler, The Study of Orchestration (2016); ranges by level: common practice of tutor books and graded examinations.';
export const MAKERS =
  "Full range: makers' fingering charts; ranges by level: common practice of tutor books and graded examinations.";

export const AT_PITCH: Interval = { diatonic: 0, chromatic: 0 };
/** Reads an octave above what sounds. */
export const READS_OCTAVE_UP: Interval = { diatonic: 7, chromatic: 12 };
/** Reads an octave below what sounds. */
export const READS_OCTAVE_DOWN: Interval = { diatonic: -7, chromatic: -12 };
/** In B♭: reads a whole step above. */
export const IN_BB: Interval = { diatonic: 1, chromatic: 2 };
/** In B♭, an octave lower still. */
export const IN_LOW_BB: Interval = { diatonic: 8, chromatic: 14 };
export const IN_EB: Interval = { diatonic: 5, chromatic: 9 };
export const IN_LOW_EB: Interval = { diatonic: 12, chromatic: 21 };

export function pitch(text: string): Pitch {
  const parsed = parsePitch(text);
  if (!parsed.ok) throw new Error(`catalogue: ${text} is no pitch`);
  return parsed.value;
}

/** `E2 A2 D3 G3`, lowest first as the instrument counts them. */
export function pitches(text: string): readonly Pitch[] {
  return text.split(' ').map(pitch);
}

function range(text: string): WrittenRange {
  const [low = '', high = ''] = text.split(' ');
  return { low: pitch(low), high: pitch(high) };
}

export function ranges(beginner: string, intermediate: string, advanced: string, full: string): Instrument['range'] {
  return { beginner: range(beginner), intermediate: range(intermediate), advanced: range(advanced), full: range(full) };
}

export function breaks(...pairs: readonly string[]): Instrument['breaks'] {
  return pairs.map((pair) => {
    const { low, high } = range(pair);
    return [low, high];
  });
}

export const VALVES = (open: string, valves: 3 | 4 = 3): Mechanism => ({ kind: 'valves', valves, open: pitch(open) });
