import { MARK_SCHOOLS } from '../fingering';
import {
  customInstrument,
  type CustomInstrument,
  type Instrument,
  instrumentById,
  type Level,
  withLimits,
} from '../instruments';
import { MAX_KNOWN_NOTES, type Pitch, semitones } from '../pitch';
import type { PackChoice } from './pack';
import type { KeyPlayer } from './player';
import type { Aid } from '../work';

/** Finger marks a player wants; `level` leaves it to the level. */
export const WANTED_MARKS = ['level', ...MARK_SCHOOLS] as const;
export type WantedMarks = (typeof WANTED_MARKS)[number];

/** Somebody in a group. Only a first name is asked for: nothing else is needed to write a part for them. */
export interface GroupPlayer {
  readonly id: string;
  readonly name: string;
  /** Id in the catalogue, or of a custom instrument of the studio, given in `custom`. */
  readonly instrument: string;
  readonly custom?: CustomInstrument;
  readonly level: Level;
  /** Written pitches: top note A for now. */
  readonly low?: Pitch;
  readonly high?: Pitch;
  /** Written pitches the player knows; none says nothing. */
  readonly known?: readonly Pitch[];
  readonly marks?: WantedMarks;
  /** What else this player wants printed, everywhere; as the level has it where absent. */
  readonly aids?: readonly Aid[];
  /** The pupil who it is, and which of their instruments they play here: then name and limits are the pupil's. */
  readonly pupil?: string;
  readonly playing?: string;
}

/** Players who play together. */
export interface Group {
  readonly name: string;
  readonly players: readonly GroupPlayer[];
  /** What was handed out last. */
  readonly pack?: PackChoice;
}

export const GROUP_LIMITS = { players: 60, name: 80, knownNotes: MAX_KNOWN_NOTES } as const;

/** The instrument a player plays, with their limits; `undefined` where it is not in the catalogue any more. */
export function instrumentOfPlayer(player: GroupPlayer): Instrument | undefined {
  const instrument = player.custom ? customInstrument(player.custom) : instrumentById(player.instrument);
  return (
    instrument &&
    withLimits(instrument, player.level, {
      ...(player.low && { low: player.low }),
      ...(player.high && { high: player.high }),
    })
  );
}

/** The players of a group as the ranking of keys wants them; those without an instrument are left out. */
export function keyPlayers({ players }: Group): readonly KeyPlayer[] {
  return players.flatMap((player) => {
    const instrument = instrumentOfPlayer(player);
    return instrument
      ? [
          {
            name: player.name,
            instrument,
            level: player.level,
            ...(player.known && player.known.length > 0 && { known: new Set(player.known.map(semitones)) }),
          },
        ]
      : [];
  });
}
