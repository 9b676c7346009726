import type { Instrument, Level } from '../instruments';
import { outsideBy, profileOf } from '../instruments';
import { fingeringsFor, isFingered } from '../fingering';
import { type Pitch, semitones, transpose } from '../pitch';
import type { PartRole } from '../score';
import type { Recipe } from '../work';

/** Somebody who plays along. */
export interface EnsemblePlayer {
  /** Names the player through changes; unique in the ensemble. */
  readonly id: string;
  readonly name?: string;
  /** Its range is the player's already. */
  readonly instrument: Instrument;
  readonly level: Level;
  /** Written heights (half steps above C0) that the player knows; without it, all of the range. */
  readonly known?: ReadonlySet<number>;
  /** What was asked of them; the program decides where nothing was. */
  readonly role?: PartRole;
  /** How their level plays the tune, where a teacher set it. */
  readonly recipe?: Recipe;
}

/**
 * The concert pitches that a player has for an accompanying part: in the level's range, known, and to be fingered.
 *
 * @returns a test of a pitch; it is asked for the same few dozen pitches again and again
 */
export function reachOf({ instrument, level, known }: EnsemblePlayer): (pitch: Pitch) => boolean {
  const answers = new Map<Pitch, boolean>();
  return (pitch) => {
    const before = answers.get(pitch);
    if (before !== undefined) return before;
    const read = transpose(pitch, instrument.transposition);
    const answer =
      outsideBy(read, instrument.range[level]) === 0 &&
      (!known || known.has(semitones(read))) &&
      (!isFingered(instrument) || fingeringsFor(instrument, read).length > 0);
    answers.set(pitch, answer);
    return answer;
  };
}

/** Lowest and highest sounding half step (above C0) of a player's level, full range aside. */
export function soundingRange({
  instrument,
  level,
}: Pick<EnsemblePlayer, 'instrument' | 'level'>): readonly [number, number] {
  const { low, high } = instrument.range[level];
  const by = instrument.transposition.chromatic;
  return [semitones(low) - by, semitones(high) - by];
}

/** Whether a player is in their first year: their parts are few long notes. */
export function isFirstYear({ level }: Pick<EnsemblePlayer, 'level'>): boolean {
  return profileOf(level).phrasing === 'first';
}
