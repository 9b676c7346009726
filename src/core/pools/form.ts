import { derived } from '../derived';
import {
  type FormReading,
  readForm,
  type ReadingCorrection,
  type TimedChord,
  transposeChord,
  withReadableRoot,
} from '../harmony';
import { type Interval, type Key, transposeKey } from '../pitch';
import { barNumbers, barSpans, hasPickup, type Style, type Tune } from '../score';
import { beatNumberAt, type Meter, type Ticks } from '../time';
import { styleOf } from '../analysis';

/** Where a chord stands. */
interface FormPlace {
  /** As printed. */
  readonly bar: number;
  readonly barIndex: number;
  /** Counted from 1. */
  readonly beat: number;
  /** By which a tune's chord is found again; none for bare chords. */
  readonly chord?: { readonly bar: string; readonly at: Ticks };
}

/** What is improvised over: chords with their places, read. Pitches are concert until `formIn` moves them. */
export interface ImprovisingForm {
  readonly key: Key;
  readonly meter: Meter;
  /** Of every chord: number of its bar as printed, beat counted from 1. */
  readonly places: readonly FormPlace[];
  readonly reading: FormReading;
  readonly style: Style;
  readonly because: string;
  /** Printed numbers of all bars, a pickup left out. */
  readonly bars: readonly number[];
}

/** The chords of a tune as printed: repeats are not played out, a chord lasts until the next one or the end. */
function timedChordsOf(tune: Pick<Tune, 'bars' | 'meter'>): readonly TimedChord[] {
  const spans = barSpans(tune);
  const from = hasPickup(tune) ? 1 : 0;
  const end = spans.reduce((sum, { length }) => sum + length, 0);
  const placed = tune.bars.flatMap((bar, index) =>
    bar.chords.map((chord) => ({
      symbol: chord.symbol,
      bar: index - from,
      at: chord.at + (spans[index]?.offset ?? 0),
      start: (spans[index]?.start ?? 0) + chord.at,
      barLength: Math.max(1, (spans[index]?.length ?? 1) + (spans[index]?.offset ?? 0)),
    })),
  );
  return placed.flatMap(({ start, ...chord }, k): TimedChord[] => {
    const length = (placed[k + 1]?.start ?? end) - start;
    return length > 0 ? [{ ...chord, length }] : [];
  });
}

/** A tune's form: its chords, how they are read (with what the teacher says), and its style. */
export const formOf = derived(makeForm);

function makeForm(tune: Tune): ImprovisingForm {
  const chords = timedChordsOf(tune);
  const from = hasPickup(tune) ? 1 : 0;
  const numbers = barNumbers(tune);
  const spans = barSpans(tune);
  const corrections = (tune.harmony?.readings ?? []).flatMap(({ bar, at, ...said }): readonly ReadingCorrection[] => {
    const index = tune.bars.findIndex(({ id }) => id === bar);
    return index < 0 ? [] : [{ bar: index - from, at: at + (spans[index]?.offset ?? 0), ...said }];
  });
  const reading = readForm(chords, { key: tune.key, bars: tune.bars.length - from, corrections });
  const { style, because } = styleOf(tune, reading);
  return {
    key: tune.key,
    meter: tune.meter,
    places: reading.chords.map(({ chord }) => {
      const barIndex = chord.bar + from;
      const meter = spans[barIndex]?.meter ?? tune.meter;
      const bar = tune.bars[barIndex];
      return {
        bar: numbers[barIndex] ?? 0,
        barIndex,
        beat: beatNumberAt(meter, chord.at),
        ...(bar && { chord: { bar: bar.id, at: chord.at - (spans[barIndex]?.offset ?? 0) } }),
      };
    }),
    reading,
    style,
    because,
    bars: numbers.slice(from),
  };
}

/** The same form moved: chords, keys and readings alike. What was read stays as it was read. */
export function formIn(form: ImprovisingForm, interval: Interval): ImprovisingForm {
  const { reading } = form;
  const key = (one: Key) => transposeKey(one, interval);
  return {
    ...form,
    key: key(form.key),
    reading: {
      home: key(reading.home),
      chords: reading.chords.map((one) => ({
        ...one,
        key: key(one.key),
        chord: { ...one.chord, symbol: withReadableRoot(transposeChord(one.chord.symbol, interval)) },
      })),
      patterns: reading.patterns.map((one) => ({ ...one, key: key(one.key) })),
      areas: reading.areas.map((one) => ({ ...one, key: key(one.key) })),
    },
  };
}
