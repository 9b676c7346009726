import {
  barTicks,
  beatsOf,
  isCompound,
  isMeterUnit,
  type Meter,
  type Ticks,
  TICKS_PER_QUARTER,
  weightAt,
} from '../../time';
import { MAX_BARS } from '../../score';
import type { ReadOptions } from '../readResult';
import type { GuessSource } from './guesses';
import type { MidiFile } from './midiFile';
import type { GridBeat, TimedNote } from './quantise';

export const COMMON_TIME: Meter = { count: 4, unit: 4 };

export interface MeterChange {
  readonly at: Ticks;
  readonly meter: Meter;
}

/** The meters that were set, or those of the file, or the likeliest for its notes. */
export function metersOfFile(
  file: MidiFile,
  notes: readonly TimedNote[],
  options: ReadOptions,
): { readonly changes: readonly MeterChange[]; readonly source: GuessSource } {
  const set = options.midi?.meter;
  if (set) return { changes: [{ at: 0, meter: set }], source: 'set' };
  const changes: MeterChange[] = [];
  for (const { at, count, unit } of file.meters) {
    const ticks = Math.round((at * TICKS_PER_QUARTER) / file.division);
    if (!isMeterUnit(unit) || count < 1 || count > 32) continue;
    const meter: Meter = { count, unit };
    if (changes.at(-1)?.at === ticks) changes.pop();
    changes.push({ at: ticks, meter });
  }
  if (changes[0]?.at === 0) return { changes, source: 'file' };
  return { changes: [{ at: 0, meter: likelyMeter(notes) }, ...changes], source: 'guess' };
}

/** Meters that a file without one may be in, and how readily each is believed. */
const LIKELY_METERS: readonly (readonly [Meter, number])[] = [
  [{ count: 4, unit: 4 }, 1.06],
  [{ count: 3, unit: 4 }, 1],
  [{ count: 6, unit: 8 }, 0.97],
  [{ count: 2, unit: 4 }, 0.94],
];

/** The meter on whose strong places long notes begin. */
function likelyMeter(notes: readonly TimedNote[]): Meter {
  const scores = LIKELY_METERS.map(([meter, readiness]) => {
    const bar = barTicks(meter);
    let [sum, total] = [0, 0];
    notes.forEach((note, index) => {
      const reach = Math.min(2 * TICKS_PER_QUARTER, (notes[index + 1]?.start ?? note.end) - note.start);
      const grid = TICKS_PER_QUARTER / 4;
      const place = (Math.round(note.start / grid) * grid) % bar;
      sum += reach * weightAt(meter, place);
      total += reach;
    });
    const usual = beatsOf(meter).length === 2 ? 0.62 : 0.55;
    return { meter, score: total === 0 ? 0 : (sum / total / usual) * readiness };
  });
  return scores.reduce((best, next) => (next.score > best.score ? next : best)).meter;
}

/**
 * The beats of a bar; longer ones of a simple meter in quarters, so that each may have its own grid. A pickup has the
 * last beats of its bar.
 */
export function gridBeats({ start, length, meter }: GridBar, index: number): readonly GridBeat[] {
  const offset = index === 0 ? Math.max(0, barTicks(meter) - length) : 0;
  const beats = beatsOf(meter).flatMap((beat): readonly GridBeat[] => {
    const parts = isCompound(meter) ? 1 : Math.max(1, beat.length / TICKS_PER_QUARTER);
    return Array.from({ length: parts }, (_, k) => ({
      start: beat.start + (k * beat.length) / parts,
      length: beat.length / parts,
      isCompound: isCompound(meter),
    }));
  });
  return beats.flatMap((beat): readonly GridBeat[] => {
    const [from, to] = [Math.max(beat.start, offset), Math.min(beat.start + beat.length, offset + length)];
    return to > from
      ? [{ start: start - offset + from, length: to - from, isCompound: beat.isCompound && to - from === beat.length }]
      : [];
  });
}

export interface GridBar {
  readonly start: Ticks;
  readonly length: Ticks;
  readonly meter: Meter;
  readonly changesMeter: boolean;
}

/**
 * Bars from the start of the file until its end. A change inside a bar cuts it. A short first meter is a pickup to the
 * next.
 */
export function barsUntil(changes: readonly MeterChange[], end: Ticks): readonly GridBar[] {
  const bars: GridBar[] = [];
  changes.forEach(({ at, meter }, index) => {
    const until = changes[index + 1]?.at ?? Infinity;
    for (let start = at; start < Math.min(until, end) && bars.length <= MAX_BARS; start += barTicks(meter)) {
      bars.push({
        start,
        length: Math.min(barTicks(meter), until - start),
        meter,
        changesMeter: start === at && index > 0,
      });
    }
  });
  const [first, next] = [bars[0], bars[1]];
  if (first && next?.changesMeter && first.length < barTicks(next.meter)) {
    bars[0] = { ...first, meter: next.meter };
    bars[1] = { ...next, changesMeter: false };
  }
  return bars;
}

export interface Lead {
  readonly bars: readonly GridBar[];
  readonly dropped: number;
  readonly pickup: Ticks;
}

/** Without empty bars at the head; a first bar that is silent for half its length or more is a pickup. */
export function withoutLead(grid: readonly GridBar[], notes: readonly TimedNote[], options: ReadOptions): Lead {
  const start = notes[0]?.start ?? 0;
  const dropped = Math.max(
    0,
    grid.findIndex((bar) => bar.start + bar.length > start),
  );
  const bars = grid.slice(dropped);
  const first = bars[0];
  if (!first) return { bars, dropped, pickup: 0 };
  const full = barTicks(first.meter);
  const set = options.midi?.pickup;
  if (set !== undefined) {
    if (set > 0 && set < first.length)
      return {
        bars: [{ ...first, start: first.start + first.length - set, length: set }, ...bars.slice(1)],
        dropped,
        pickup: set,
      };
    return { bars, dropped, pickup: first.length < full ? first.length : 0 };
  }
  const silent = start - first.start;
  if (silent * 2 >= first.length && silent > 0 && bars.length > 1) {
    return {
      bars: [{ ...first, start, length: first.length - silent }, ...bars.slice(1)],
      dropped,
      pickup: first.length - silent,
    };
  }
  return { bars, dropped, pickup: first.length < full ? first.length : 0 };
}
