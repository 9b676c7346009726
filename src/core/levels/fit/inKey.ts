import { transposeChord, withReadableRoot } from '../../harmony/chordSymbol';
import type { Interval } from '../../pitch/interval';
import { intervalBetweenTonics, transposeKey, type Key } from '../../pitch/key';
import { readableInterval, transposeReadably } from '../../pitch/respell';
import { isNote, keysOf, type Bar, type ScoreEvent, type Tune } from '../../score/tune';

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
  const keys = keysOf({ key, bars });
  const movedBars = bars.map((bar, index): Bar => {
    const here = readableInterval(keys[index] ?? key, interval);
    return {
      ...bar,
      ...(bar.key && { key: transposeKey(bar.key, here) }),
      events: bar.events.map((event) => moved(event, here)),
      ...(bar.second && { second: bar.second.map((event) => moved(event, here)) }),
      chords: bar.chords.map((chord) => ({ ...chord, symbol: withReadableRoot(transposeChord(chord.symbol, here)) })),
    };
  });
  return { key: transposeKey(key, readableInterval(key, interval)), bars: movedBars };
}

function moved(event: ScoreEvent, interval: Interval): ScoreEvent {
  if (!isNote(event)) return event;
  const pitch = transposeReadably(event.pitch, interval);
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
