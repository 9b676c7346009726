import { LEVELS, type Instrument, type Level, type WrittenRange } from '../instruments/instrument';
import { semitones, type Pitch } from '../pitch/pitch';

/** Limits of one player, in written pitch: "top note A for now". */
export interface PlayerLimits {
  readonly low?: Pitch;
  readonly high?: Pitch;
}

/** Somebody who plays at a level. */
export interface KeyPlayer {
  readonly name?: string;
  readonly instrument: Instrument;
  readonly level: Level;
  /** Written heights (semitones above C0) the player knows; without it, all of the range. */
  readonly known?: ReadonlySet<number>;
}

/**
 * The instrument as this player has it: their level's range cut or widened to their limits, the levels below cut to it, those above
 * and the full range widened if need be, so that ranges stay nested.
 */
export function withLimits(instrument: Instrument, level: Level, { low, high }: PlayerLimits): Instrument {
  if (!low && !high) return instrument;
  const own = instrument.range[level];
  const range: WrittenRange = { low: low ?? own.low, high: high ?? own.high };
  const at = LEVELS.indexOf(level);
  const cut = (other: WrittenRange): WrittenRange => {
    const inner = { low: higher(other.low, range.low), high: lower(other.high, range.high) };
    // Limits beside a lower level's range leave nothing of it; then the player's own range is all there is.
    return semitones(inner.low) < semitones(inner.high) ? inner : range;
  };
  const widen = (other: WrittenRange): WrittenRange => ({ low: lower(other.low, range.low), high: higher(other.high, range.high) });
  const ranges = Object.fromEntries(LEVELS.map((one, index) => [one, index === at ? range : index < at ? cut(instrument.range[one]) : widen(instrument.range[one])])) as Record<Level, WrittenRange>;
  return { ...instrument, range: { ...ranges, full: widen(instrument.range.full) } };
}

function higher(a: Pitch, b: Pitch): Pitch {
  return semitones(a) >= semitones(b) ? a : b;
}

function lower(a: Pitch, b: Pitch): Pitch {
  return semitones(a) <= semitones(b) ? a : b;
}
