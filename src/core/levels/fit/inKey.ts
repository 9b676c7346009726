import { transposeChord, withReadableRoot } from '../../harmony';
import { derived } from '../../derived';
import {
  addIntervals,
  type Interval,
  intervalBetweenTonics,
  type Key,
  octaves,
  type PitchClass,
  readableInterval,
  transposeKey,
  transposeReadably,
} from '../../pitch';
import { type Bar, barsByOctaves, beforeOctaves, isNote, keysOf, type ScoreEvent, type Tune } from '../../score';

/** Bars with the key at their head; what a transposition needs and gives. */
export interface KeyedBars {
  readonly key: Key;
  readonly bars: readonly Bar[];
}

/**
 * Moves notes, grace notes, chord symbols and keys by an interval. Wherever a key would need more accidentals than its
 * enharmonic twin, that stretch moves to the twin as a whole (never past six sharps or flats).
 * Rule (hard): a part's key signature has at most six sharps or flats; past that the whole part, chord symbols and
 * all, moves to the other spelling.
 */
export function transposeBars({ key, bars }: KeyedBars, interval: Interval): KeyedBars {
  const { bars: origin, octaves: by } = beforeOctaves(bars);
  if (by !== 0 && isOneLine(origin)) return transposeBars({ key, bars: origin }, addIntervals(interval, octaves(by)));
  return movedBars({ key, bars }, interval);
}

/** Ten instruments read in six keys, and three levels share most bars. */
const MAX_MOVES = 16;

const movedBars = derived(
  ({ key, bars }: KeyedBars, interval: Interval): KeyedBars => {
    const up = Math.floor(interval.diatonic / 7);
    if (up !== 0 && isOneLine(bars)) {
      // Moved by less than an octave first: that is the same for all who read it in some octave or other.
      const near = transposeBars({ key, bars }, addIntervals(interval, octaves(-up)));
      return { key: near.key, bars: barsByOctaves(near.bars, up) };
    }
    const keys = keysOf({ key, bars });
    const byKey = new Map<Key, Interval>();
    const readable = (one: Key) => {
      const made = byKey.get(one) ?? readableInterval(one, interval);
      byKey.set(one, made);
      return made;
    };
    const moved = bars.map((bar, index) => transposedBar(bar, readable(keys[index] ?? key)));
    return {
      key: transposeKey(key, readable(key)),
      bars: moved.every((bar, index) => bar === bars[index]) ? bars : moved,
    };
  },
  {
    most: MAX_MOVES,
    by: ({ key: { tonic, mode }, bars }, { diatonic, chromatic }) => [
      bars,
      tonic.step,
      tonic.alter,
      mode,
      diatonic,
      chromatic,
    ],
  },
);

/** Whether `barsByOctaves` moves all of the notes: there is no second part and nothing is sounded together. */
function isOneLine(bars: readonly Bar[]): boolean {
  return bars.every(({ second, events }) => !second && events.every((event) => !isNote(event) || !event.chord));
}

const transposedBar = derived(
  (bar: Bar, interval: Interval): Bar => {
    if (interval.diatonic === 0 && interval.chromatic === 0 && isReadable(bar)) return bar;
    const events = bar.events.map((event) => moved(event, interval));
    const chords = bar.chords.map(({ at, symbol }) => ({
      at,
      symbol: withReadableRoot(transposeChord(symbol, interval)),
    }));
    // Most bars have neither, and a copy alone is made far more quickly.
    if (!bar.key && !bar.second) return { ...bar, events, chords };
    return {
      ...bar,
      ...(bar.key && { key: transposeKey(bar.key, interval) }),
      events,
      ...(bar.second && { second: bar.second.map((event) => moved(event, interval)) }),
      chords,
    };
  },
  { most: MAX_MOVES, by: (bar, { diatonic, chromatic }) => [bar, diatonic, chromatic] },
);

/** Whether a bar is spelled as `transposedBar` would spell it: then it is the same bar in its own key. */
function isReadable({ events, second = [], chords }: Bar): boolean {
  const isPlain = ({ alter }: PitchClass) => Math.abs(alter) <= 2;
  return (
    [...events, ...second].every(
      (event) =>
        !isNote(event) ||
        (isPlain(event.pitch) &&
          (event.graces?.every(({ pitch }) => isPlain(pitch)) ?? true) &&
          (event.chord?.every(isPlain) ?? true)),
    ) && chords.every(({ symbol }) => withReadableRoot(symbol) === symbol)
  );
}

function moved(event: ScoreEvent, interval: Interval): ScoreEvent {
  if (!isNote(event)) return event;
  const pitch = transposeReadably(event.pitch, interval);
  // Most notes have neither, and a copy alone is made far more quickly.
  if (!event.graces && !event.chord) return { ...event, pitch };
  return {
    ...event,
    pitch,
    ...(event.graces && {
      graces: event.graces.map((grace) => ({ ...grace, pitch: transposeReadably(grace.pitch, interval) })),
    }),
    ...(event.chord && { chord: event.chord.map((one) => transposeReadably(one, interval)) }),
  };
}

/** The key with the fewest accidentals on the same sounding tonic: C♯ major becomes D♭ major. */
export function readableKey(key: Key): Key {
  return transposeKey(key, readableInterval(key, { diatonic: 0, chromatic: 0 }));
}

/** The tune in another concert key of its own mode, moved the shorter way; octaves are the business of `fit`. */
export function inKey(tune: Tune, key: Key): KeyedBars {
  return transposeBars(tune, intervalBetweenTonics(tune.key.tonic, readableKey(key).tonic));
}
