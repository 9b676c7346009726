import type { ProgressionBar, ProgressionMarks } from '../../harmony';
import type { Key } from '../../pitch';
import { barTicks, type Meter, spellRestLength, type Ticks } from '../../time';
import { idMaker } from '../identify';
import { TUNE_SCHEMA, type Bar, type Tune } from '../tune';
import { layOutProgression } from './chordEdits';
import { usualTempo } from '../usualTempo';

/** A tune that is to be written from nothing. */
export interface NewTune {
  readonly title: string;
  /** Concert. */
  readonly key: Key;
  readonly meter: Meter;
  /** Length of the pickup; 0 for none, less than a bar. */
  readonly pickup: Ticks;
  /** Full bars, at least 1. */
  readonly bars: number;
}

/** More than a page of paper begins with; bars are added as one writes. */
export const MAX_NEW_BARS = 400;

/**
 * Bars of rest under a key and a meter. The last bar is full even after a pickup: what it lacks shows when the ending
 * is written.
 * @throws RangeError for a pickup that is no part of a bar, or a number of bars out of bounds
 */
export function newTune({ title, key, meter, pickup, bars }: NewTune): Tune {
  const whole = barTicks(meter);
  if (!Number.isInteger(pickup) || pickup < 0 || pickup >= whole) throw new RangeError(`no pickup of ${pickup} ticks`);
  if (!Number.isInteger(bars) || bars < 1 || bars > MAX_NEW_BARS) throw new RangeError(`no tune of ${bars} bars`);
  const ids = idMaker();
  const restBar = (offset: Ticks, length: Ticks): Bar => ({
    id: ids.bar(),
    events: spellRestLength(offset, length, meter).map((part) => ({ kind: 'rest', id: ids.event(), length: part })),
    chords: [],
    ...(length < whole && { partial: length }),
  });
  return {
    schema: TUNE_SCHEMA,
    title,
    rights: 'own',
    key,
    meter,
    tempo: usualTempo(meter),
    bars: [
      ...(pickup > 0 ? [restBar(whole - pickup, pickup)] : []),
      ...Array.from({ length: bars }, () => restBar(0, whole)),
    ],
  };
}

/** A progression as a form without a melody: its chords over bars of rest, with sections and repeats. */
export function tuneOfProgression(
  head: Pick<NewTune, 'title' | 'key' | 'meter'>,
  progression: readonly ProgressionBar[],
  marks: readonly ProgressionMarks[] = [],
): Tune {
  const empty = newTune({ ...head, pickup: 0, bars: progression.length });
  const laid = layOutProgression(empty, 0, progression, { bar: 0, at: 0 });
  if (!laid.ok) throw new RangeError('a progression does not fit bars of its own number');
  const { tune } = laid.value;
  return {
    ...tune,
    bars: tune.bars.map((bar, index): Bar => {
      const { section, repeatStart, repeatEnd } = marks[index] ?? {};
      return {
        ...bar,
        ...(section !== undefined && { section }),
        ...(repeatStart && { repeatStart }),
        ...(repeatEnd && { repeatEnd: 2 }),
      };
    }),
  };
}
