import { limitsProblem } from '../../core/instruments';
import type { GroupPlayer, WantedMarks } from '../../core/keys';
import { parseNotes, parsePitch, type Pitch } from '../../core/pitch';
import { failure, type Result, success } from '../../core/result';

export const MARKS_TEXT: Readonly<Record<WantedMarks, string>> = {
  level: 'as the level',
  all: 'every note',
  change: 'on change',
  unusual: 'unusual only',
  none: 'none',
};

/** A player's lowest or highest note as it was typed; nothing where the field was emptied. */
export function readLimit(
  player: Pick<GroupPlayer, 'low' | 'high'>,
  end: 'low' | 'high',
  text: string,
): Result<Pitch | undefined, string> {
  if (text.trim() === '') return success(undefined);
  const pitch = parsePitch(text);
  if (!pitch.ok) return failure(`"${text}" is no note: write letter, sign and octave, like G4 or Bb4`);
  const problem = limitsProblem({ ...player, [end]: pitch.value });
  return problem ? failure(problem) : success(pitch.value);
}

/** The notes that a player knows, as they were typed; nothing where the field was emptied. */
export function readKnown(text: string): Result<readonly Pitch[] | undefined, string> {
  const known = parseNotes(text);
  if (!known.ok) return failure(`Known notes: ${known.problem}`);
  return success(known.value.length > 0 ? known.value : undefined);
}
