import type { Instrument, Level } from '../instruments';

/** Somebody who plays at a level. */
export interface KeyPlayer {
  readonly name?: string;
  readonly instrument: Instrument;
  readonly level: Level;
  /** Written heights (semitones above C0) the player knows; without it, all of the range. */
  readonly known?: ReadonlySet<number>;
}
