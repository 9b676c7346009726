import { derived } from '../derived';
import { type Pitch, printPitch, semitones } from '../pitch';
import { LEVELS, type Instrument, type Level, type WrittenRange } from './instrument';

/** Limits of one player, in written pitch: "top note A for now". */
export interface PlayerLimits {
  readonly low?: Pitch;
  readonly high?: Pitch;
}

/** Why a player's limits do not go together, if they do not. */
export function limitsProblem({ low, high }: PlayerLimits): string | undefined {
  return low && high && semitones(low) >= semitones(high)
    ? `the lowest note ${printPitch(low)} is not below the highest, ${printPitch(high)}`
    : undefined;
}

/**
 * The instrument as this player has it: their level's range cut or widened to their limits, the levels below cut to it,
 * those above and the full range widened if need be, so that ranges stay nested.
 */
export function withLimits(instrument: Instrument, level: Level, limits: PlayerLimits): Instrument {
  return !limits.low && !limits.high ? instrument : limited(instrument, level, limits);
}

/** Equal limits give the same object: what was worked out for an instrument is kept with it. */
const limited = derived(limitedTo, {
  most: 64,
  by: (instrument, level, { low, high }) => [instrument, level, low && printPitch(low), high && printPitch(high)],
});

function limitedTo(instrument: Instrument, level: Level, { low, high }: PlayerLimits): Instrument {
  const own = instrument.range[level];
  const range: WrittenRange = { low: low ?? own.low, high: high ?? own.high };
  const at = LEVELS.indexOf(level);
  const cut = (other: WrittenRange): WrittenRange => {
    const inner = { low: higher(other.low, range.low), high: lower(other.high, range.high) };
    // Limits beside a lower level's range leave nothing of it; then the player's own range is all there is.
    return semitones(inner.low) < semitones(inner.high) ? inner : range;
  };
  const widen = (other: WrittenRange): WrittenRange => ({
    low: lower(other.low, range.low),
    high: higher(other.high, range.high),
  });
  const ranges = Object.fromEntries(
    LEVELS.map((one, index) => [
      one,
      index === at ? range : index < at ? cut(instrument.range[one]) : widen(instrument.range[one]),
    ]),
  ) as Record<Level, WrittenRange>;
  return { ...instrument, range: { ...ranges, full: widen(instrument.range.full) } };
}

function higher(a: Pitch, b: Pitch): Pitch {
  return semitones(a) >= semitones(b) ? a : b;
}

function lower(a: Pitch, b: Pitch): Pitch {
  return semitones(a) <= semitones(b) ? a : b;
}
