import { ordinal } from '../fingering';
import type { Instrument, Level, WrittenRange } from '../instruments';
import { namePitchClass, type Pitch, semitones, transpose, withoutDoubleAccidental } from '../pitch';
import { handAt } from './hand';
import { namePitch } from './message';

/** A stretch of an instrument that a drill may keep to. */
export interface Place {
  readonly name: string;
  readonly range: WrittenRange;
  /** Where the hand stays: a position, or the fret of the first finger. */
  readonly hand?: number;
}

/**
 * Semitones that the fingers reach on a string without a shift: a fifth on bowed strings (with the fourth finger), four
 * frets on plucked ones.
 */
const REACH = { bowed: 7, fretted: 4 } as const;
/**
 * Positions that are drilled by themselves: the first five of a bowed string; on frets those under the neck's usual
 * dots.
 */
const HANDS = { bowed: [1, 2, 3, 4, 5], fretted: [1, 2, 3, 5, 7, 9] } as const;
/** How far to both sides a drill goes that crosses a break: a fifth. */
const AROUND_BREAK = 7;

/**
 * The places of an instrument that are practised by themselves: neighbouring strings, positions of the hand, the break
 * of a woodwind.
 */
export function placesOf(instrument: Instrument, level: Level): readonly Place[] {
  const { mechanism } = instrument;
  if (mechanism.kind === 'bowed' || mechanism.kind === 'fretted')
    return [...stringPairs(instrument), ...positions(instrument, level)];
  return acrossBreaks(instrument, level);
}

/** Pairs of neighbouring strings in the lowest position; none on other instruments. */
function stringPairs({ mechanism }: Instrument): readonly Place[] {
  if (mechanism.kind !== 'bowed' && mechanism.kind !== 'fretted') return [];
  const strings = mechanism.strings.toSorted((a, b) => semitones(a) - semitones(b));
  return strings.slice(1).flatMap((upper, index): readonly Place[] => {
    const lower = strings[index];
    return lower
      ? [
          {
            name: `on the ${namePitchClass(lower)} and ${namePitchClass(upper)} strings`,
            range: { low: lower, high: reached(upper, REACH[mechanism.kind]) },
          },
        ]
      : [];
  });
}

function reached(open: Pitch, semis: number): Pitch {
  const diatonic = semis === 7 ? 4 : 2;
  return withoutDoubleAccidental(transpose(open, { diatonic, chromatic: semis }));
}

/** What lies under a hand that does not move, as far as the level's range goes. */
function positions(instrument: Instrument, level: Level): readonly Place[] {
  const { kind } = instrument.mechanism;
  if (kind !== 'bowed' && kind !== 'fretted') return [];
  return HANDS[kind].flatMap((hand): readonly Place[] => {
    const found = handAt(instrument, instrument.range[level], hand, false);
    const name = kind === 'bowed' ? `in ${ordinal(hand)} position` : `with the hand at fret ${hand}`;
    return found ? [{ name, range: found.range, hand }] : [];
  });
}

/** A fifth to both sides of each break that the level's range holds; neighbouring pairs count as one break. */
function acrossBreaks({ breaks, range }: Instrument, level: Level): readonly Place[] {
  const { low, high } = range[level];
  const found: Place[] = [];
  let last = -Infinity;
  for (const [under, over] of breaks.toSorted(([a], [b]) => semitones(a) - semitones(b))) {
    if (semitones(under) <= semitones(low) || semitones(over) >= semitones(high) || semitones(under) - last < 3)
      continue;
    last = semitones(under);
    const down = withoutDoubleAccidental(transpose(under, { diatonic: -4, chromatic: -AROUND_BREAK }));
    const up = withoutDoubleAccidental(transpose(over, { diatonic: 4, chromatic: AROUND_BREAK }));
    found.push({
      name: `across the break at ${namePitch(over)}`,
      range: {
        low: semitones(down) > semitones(low) ? down : low,
        high: semitones(up) < semitones(high) ? up : high,
      },
    });
  }
  return found;
}
