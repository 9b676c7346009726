import { derived } from '../derived';
import type { Pitch } from '../pitch';
import { barTicks, type Meter, type Ticks } from '../time';
import { barLength, barOffset, isNote, metersOf, type Note, type Tune } from './tune';

/** A note as it is heard: tied notes are one. */
export interface SoundingNote {
  /** The event in which it is struck; its id stands for the whole. */
  readonly first: Note;
  readonly pitch: Pitch;
  /** From the start of the tune, a pickup beginning at 0. */
  readonly start: Ticks;
  readonly length: Ticks;
  /** Index of the bar in which it is struck. */
  readonly bar: number;
  /** Where it is struck in the full bar, as the meter counts. */
  readonly inBar: Ticks;
}

/**
 * Where each bar begins, its meter, and how much of a full bar lies before it (a pickup hangs at the end of its bar).
 */
export interface BarSpan {
  readonly start: Ticks;
  readonly length: Ticks;
  readonly offset: Ticks;
  readonly meter: Meter;
}

/** Where the bars of a tune lie. A line is asked for them, and for its notes, by every room that it goes through. */
export const barSpans = derived(freshSpans, { by: ({ bars, meter }) => [bars, meter] });

function freshSpans(tune: Pick<Tune, 'bars' | 'meter'>): readonly BarSpan[] {
  const meters = metersOf(tune);
  let start = 0;
  return tune.bars.map((bar, index) => {
    const meter = meters[index] ?? tune.meter;
    const length = barLength(bar, meter);
    const span = { start, length, offset: Math.min(barOffset(tune, index, meter), barTicks(meter)), meter };
    start += length;
    return span;
  });
}

/** The notes of a tune in order as they are heard, repeats not unfolded. */
export const soundingNotes = derived(freshNotes, { by: ({ bars, meter }) => [bars, meter] });

function freshNotes(tune: Pick<Tune, 'bars' | 'meter'>): readonly SoundingNote[] {
  const spans = barSpans(tune);
  const notes: { -readonly [K in keyof SoundingNote]: SoundingNote[K] }[] = [];
  let continues = false;
  tune.bars.forEach((bar, index) => {
    const span = spans[index];
    if (!span) return;
    let at = 0;
    for (const event of bar.events) {
      const last = notes.at(-1);
      if (!isNote(event)) continues = false;
      else if (continues && last) {
        last.length += event.length;
        continues = event.tied === true;
      } else {
        notes.push({
          first: event,
          pitch: event.pitch,
          start: span.start + at,
          length: event.length,
          bar: index,
          inBar: span.offset + at,
        });
        continues = event.tied === true;
      }
      at += event.length;
    }
  });
  return notes;
}
