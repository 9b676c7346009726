import { TICKS_PER_WHOLE, type Ticks } from './ticks';

export const METER_UNITS = [1, 2, 4, 8, 16, 32] as const;
export type MeterUnit = (typeof METER_UNITS)[number];

/** A time signature: `count` notes of 1/`unit`. `sign` says that C or cut C is printed for 4/4 or 2/2. */
export interface Meter {
  readonly count: number;
  readonly unit: MeterUnit;
  readonly sign?: 'common' | 'cut';
}

export interface Beat {
  readonly start: Ticks;
  readonly length: Ticks;
}

export function isMeterUnit(unit: number): unit is MeterUnit {
  return METER_UNITS.some((known) => known === unit);
}

export function sameMeter(a: Meter, b: Meter): boolean {
  return a.count === b.count && a.unit === b.unit && a.sign === b.sign;
}

export function barTicks(meter: Meter): Ticks {
  return (meter.count * TICKS_PER_WHOLE) / meter.unit;
}

/** Beats of three: 6/8, 9/8, 12/8, 6/16 … (3/8 is one or three in a bar and counts as simple). */
export function isCompound(meter: Meter): boolean {
  return meter.unit >= 8 && meter.count > 3 && meter.count % 3 === 0;
}

/** How many units each beat holds. Eighths in fives and sevens go in twos with the three last, as commonly grouped. */
function unitsPerBeat(meter: Meter): readonly number[] {
  if (isCompound(meter)) return Array<number>(meter.count / 3).fill(3);
  if (meter.unit < 8 || meter.count <= 4) return Array<number>(meter.count).fill(1);
  const pairs = Math.floor(meter.count / 2);
  const groups = Array<number>(pairs).fill(2);
  return meter.count % 2 === 0 ? groups : [...groups.slice(0, -1), 3];
}

/** By count and unit; asked for at every note. */
const beatTable = new Map<number, readonly Beat[]>();

/** More than a meter's unit can be. */
const MAX_UNITS = 1_024;

/** The beats of a full bar, in order. In 6/8 there are two, each a dotted quarter; in 7/8 three (2+2+3). */
export function beatsOf(meter: Meter): readonly Beat[] {
  const name = meter.count * MAX_UNITS + meter.unit;
  const known = beatTable.get(name);
  if (known) return known;
  const unit = TICKS_PER_WHOLE / meter.unit;
  let start = 0;
  const beats = unitsPerBeat(meter).map((units) => {
    const beat = { start, length: units * unit };
    start += beat.length;
    return beat;
  });
  beatTable.set(name, beats);
  return beats;
}

/**
 * Where a bar of four beats, or of six in two halves, falls into halves; 5/4 falls 3+2. Absent for two and three beats.
 */
export function middleOf(meter: Meter): Ticks | undefined {
  const beats = beatsOf(meter);
  if (beats.length === 4 || beats.length === 6) return beats[beats.length / 2]?.start;
  return beats.length === 5 ? beats[3]?.start : undefined;
}

/**
 * How strong a place in the bar is: 1 the downbeat, 0.75 the middle, 0.5 any other beat,
 * 0.25 the half of a beat (the thirds of a compound beat), 0.1 what lies between.
 */
export function weightAt(meter: Meter, at: Ticks): number {
  const name = meter.count * MAX_UNITS + meter.unit;
  let known = weightTable.get(name);
  if (!known) weightTable.set(name, (known = new Map()));
  let weight = known.get(at);
  if (weight === undefined) {
    weight = freshWeight(meter, at);
    if (known.size < MAX_PLACES) known.set(at, weight);
  }
  return weight;
}

/** By count and unit, then by place; asked for at every note. */
const weightTable = new Map<number, Map<Ticks, number>>();
/** Places of one meter that are remembered: tunes have a few dozen, whatever else is asked for. */
const MAX_PLACES = 4_096;

function freshWeight(meter: Meter, at: Ticks): number {
  if (at === 0) return 1;
  if (at === middleOf(meter)) return 0.75;
  for (const beat of beatsOf(meter)) {
    if (at === beat.start) return 0.5;
    if (at > beat.start && at < beat.start + beat.length) {
      const parts = isCompound(meter) ? 3 : 2;
      return (at - beat.start) % (beat.length / parts) === 0 ? 0.25 : 0.1;
    }
  }
  return 0.1;
}

/** Bar position as people count: beat from 1, and whether it falls on the beat. */
export function beatNumberAt(meter: Meter, at: Ticks): number {
  const beats = beatsOf(meter);
  const index = beats.findLastIndex((beat) => beat.start <= at);
  const beat = beats[index];
  if (!beat) return 1;
  return Math.round((index + 1 + (at - beat.start) / beat.length) * 1000) / 1000;
}

export function printMeter(meter: Meter): string {
  return `${meter.count}/${meter.unit}`;
}

/** Reads `4/4`, `6/8`, `C`, `C|`. Absent when it is no meter this program can hold (1–32 over 1–32). */
export function parseMeter(text: string): Meter | undefined {
  const trimmed = text.trim();
  if (trimmed === 'C') return { count: 4, unit: 4, sign: 'common' };
  if (trimmed === 'C|') return { count: 2, unit: 2, sign: 'cut' };
  const match = /^(\d{1,2}(?:\+\d{1,2})*)\s*\/\s*(\d{1,2})$/.exec(trimmed.replace(/[()]/g, ''));
  if (!match) return undefined;
  const count = (match[1] ?? '').split('+').reduce((sum, part) => sum + Number(part), 0);
  const unit = Number(match[2]);
  return isMeterUnit(unit) && count >= 1 && count <= 32 ? { count, unit } : undefined;
}
