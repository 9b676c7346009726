import { type Instrument, type Level, outsideBy } from '../../instruments';
import { type Pitch, semitones, transpose } from '../../pitch';
import type { Tune } from '../../score';
import type { Change, Recipe } from '../../work';
import type { Round } from '../embellish/embellish';
import type { NoteOutside } from '../fit/fit';
import type { KnownNotes } from '../fit/placing';

/** What decides a level's line: the groups of its recipe, for one instrument. */
export interface LineRequest extends Pick<
  Recipe,
  'melody' | 'keyAndTempo' | 'rhythm' | 'embellish' | 'limits' | 'articulation' | 'bars' | 'drill'
> {
  readonly level: Level;
  /** Its range is the player's already. */
  readonly instrument: Instrument;
  /** The tune's second part is played. */
  readonly ofSecond?: true;
  /** Figures to a hundred beats that are put in on top of all that, as for a second time through. */
  readonly more?: number;
  /** `none` leaves the line as it is, whatever the level does: only key, octave and written pitch are worked out. */
  readonly shape?: 'level' | 'none';
}

/** A level's line in concert pitch, as it sounds. */
export interface LevelLine {
  readonly tune: Tune;
  readonly octaves: number;
  readonly outside: readonly NoteOutside[];
  readonly changes: readonly Change[];
  /** The same line as it was before it was moved by `shift` octaves; notes have the same names. */
  readonly base: Tune;
  readonly shift: number;
  /** How it was embellished, time by time; the level above begins with the same. */
  readonly rounds: readonly Round[];
  /** Its end grows broader, and says so. */
  readonly broadens?: true;
}

/** A line and how hard it is. */
export interface MeasuredLine {
  readonly line: LevelLine;
  /** Difficulty, 0–10. */
  readonly total: number;
  /** Struck notes. */
  readonly notes: number;
}

/** Heights (semitones above C0, written) of the notes a player knows; without any, all of the range. */
export function knownNotes({ limits = {} }: Pick<LineRequest, 'limits'>): KnownNotes | undefined {
  const { known = [] } = limits;
  return known.length > 0 ? new Set(known.map(semitones)) : undefined;
}

/** Whether a concert pitch is one that the player has. */
export function isPlayable({ instrument, level, limits }: LineRequest): (pitch: Pitch) => boolean {
  const known = knownNotes({ limits });
  return (pitch) => {
    const read = transpose(pitch, instrument.transposition);
    return outsideBy(read, instrument.range[level]) === 0 && (!known || known.has(semitones(read)));
  };
}
