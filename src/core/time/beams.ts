import { beatsOf, isCompound, middleOf, type Meter } from './meter';
import { NOTE_TYPES, notatedTicks, valueOfTicks, type Tuplet } from './noteValue';
import { TICKS_PER_QUARTER, type Ticks } from './ticks';

/** What each beam of a note does, outermost (eighth) first. Empty for a note without beams. */
export type BeamMark = 'begin' | 'continue' | 'end' | 'forward hook' | 'backward hook';

export interface BeamedItem {
  readonly start: Ticks;
  readonly length: Ticks;
  readonly isRest: boolean;
  readonly tuplet?: Tuplet;
}

/**
 * Beams for the events of one bar, by the meter: a beam never crosses a beat, but for plain eighths,
 * which join to half bars in 4/4, 2/2 and 2/4 (E. Gould, Behind Bars, 2011, "Beaming").
 * Rests break a beam.
 */
export function beamsFor(items: readonly BeamedItem[], meter: Meter): readonly (readonly BeamMark[])[] {
  const marks: BeamMark[][] = items.map(() => []);
  for (const group of beamGroups(items, meter)) {
    const levels = group.map((index) => hooksOf(items[index]));
    group.forEach((index, place) => {
      const own = levels[place] ?? 0;
      marks[index] = Array.from({ length: own }, (_, level) => markAt(levels, place, level + 1));
    });
  }
  return marks;
}

/** Hooks (flags) that a length takes: 0 down to a quarter, 1 for an eighth, 2 for a sixteenth. */
function hooksOf(item: BeamedItem | undefined): number {
  const value = item && valueOfTicks(notatedTicks(item.length, item.tuplet));
  return value ? Math.max(0, NOTE_TYPES.indexOf(value.type) - NOTE_TYPES.indexOf('quarter')) : 0;
}

function markAt(levels: readonly number[], place: number, level: number): BeamMark {
  const before = (levels[place - 1] ?? 0) >= level;
  const after = (levels[place + 1] ?? 0) >= level;
  if (before && after) return 'continue';
  if (before) return 'end';
  if (after) return 'begin';
  return place === 0 ? 'forward hook' : 'backward hook';
}

function beamGroups(items: readonly BeamedItem[], meter: Meter): readonly (readonly number[])[] {
  const groups: number[][] = [];
  let current: number[] = [];
  let window = -1;
  const close = () => {
    if (current.length > 1) groups.push(current);
    current = [];
  };
  items.forEach((item, index) => {
    if (item.isRest || hooksOf(item) === 0) return close();
    const here = windowAt(items, item, meter);
    if (here !== window) close();
    window = here;
    current.push(index);
  });
  close();
  return groups;
}

/** Number of the beam window an item starts in: the half bar for plain eighths, else the beat. */
function windowAt(items: readonly BeamedItem[], item: BeamedItem, meter: Meter): number {
  const beats = beatsOf(meter);
  const beat = Math.max(
    0,
    beats.findLastIndex((candidate) => candidate.start <= item.start),
  );
  if (isCompound(meter) || meter.unit !== 4) return beat;
  const half = middleOf(meter) ?? (beats.length === 2 ? Infinity : undefined);
  if (half === undefined || beats.length > 4) return beat;
  const [from, to] = item.start < half ? [0, half] : [half, Infinity];
  const inHalf = items.filter((other) => other.start >= from && other.start < to);
  const plainEighths = inHalf.every(
    (other) => other.length === TICKS_PER_QUARTER / 2 && !other.tuplet && !other.isRest,
  );
  return plainEighths ? 100 + (from === 0 ? 0 : 1) : beat;
}
