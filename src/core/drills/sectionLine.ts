import type { WrittenRange } from '../instruments';
import { chroma, type Pitch, type PitchClass, pitchClassOf, semitones } from '../pitch';
import type { Message } from './message';

/** One key of a drill, written pitches in playing order. */
export interface SectionLine {
  readonly notes: readonly Pitch[];
  /** Notes in a group; the last note may stand alone. */
  readonly group: number;
  readonly messages: readonly Message[];
  /** How much of the pattern is not there as it should be: the more, the less the key suits it. */
  readonly left?: number;
}

/** A line comes home to the note that it began on over a fifth at most; from farther away the nearest tonic is better. */
const FAR_FROM_HOME = 7;

/**
 * The tonic added where a line does not end on it: where it comes back, the one it began on, else the nearest there is.
 */
export function endingOn(
  notes: readonly Pitch[],
  tonic: PitchClass,
  range: WrittenRange,
  home: Pitch,
  isRound = true,
): readonly Pitch[] {
  const last = notes.at(-1);
  if (!last || chroma(last) === chroma(tonic)) return notes;
  const candidates = [-2, -1, 0, 1, 2, 3]
    .map((octaves): Pitch => ({ ...pitchClassOf(tonic), octave: home.octave + octaves }))
    .filter((pitch) => fits([pitch], range));
  const [first] = candidates;
  if (!first) return notes;
  const away = (pitch: Pitch) => Math.abs(semitones(pitch) - semitones(last));
  if (isRound && away(home) <= FAR_FROM_HOME && fits([home], range)) return [...notes, home];
  return [...notes, candidates.reduce((best, next) => (away(next) < away(best) ? next : best), first)];
}

/** Whether all notes lie in a range. */
export function fits(notes: readonly Pitch[], range: WrittenRange): boolean {
  return notes.every((note) => semitones(note) >= semitones(range.low) && semitones(note) <= semitones(range.high));
}
