import type { Pitch } from '../../pitch';
import { beatsOf, isCompound, type Meter, plainValues, type Ticks, TICKS_PER_WHOLE, type Tuplet } from '../../time';
import type { RawEvent } from '../assemble';

/** A span of a bar in which a note sounds or nothing does. */
export interface Segment {
  readonly start: Ticks;
  readonly length: Ticks;
  readonly pitch?: Pitch;
  /** Goes on in the next segment. */
  readonly tied?: boolean;
}

/** A half note: three quarters in its time are the largest group of three that is usual. */
const LARGEST_THIRDS: Ticks = 20_160;

/** A 128th: places that are no multiple of it need a tuplet. */
const PLAIN: Ticks = 315;

/**
 * Writes the segments of a bar (they fill it) as events, with tuplets where places ask for them. A tuplet takes the
 * smallest half, beat, part of a beat or pair of beats in which its notes lie; what sounds over its edge is tied.
 * @param offset where the first segment stands in the full bar
 */
export function barEvents(
  segments: readonly Segment[],
  offset: Ticks,
  meter: Meter,
  freshTuplet: () => string,
): readonly RawEvent[] {
  const placed = segments.map((segment) => ({ ...segment, start: segment.start + offset }));
  const end = placed.reduce((latest, { start, length }) => Math.max(latest, start + length), offset);
  const points = new Set(placed.flatMap(({ start, length }) => [start, start + length]));
  const groups = windowsOf(meter)
    .filter((window) => window.start < end && window.start + window.length > offset)
    .flatMap((window) => tupletWindows(window, [...points]));
  const events: RawEvent[] = [];
  for (const segment of placed) {
    for (const piece of cut(segment, groups)) {
      const isLast = piece.start + piece.length === segment.start + segment.length;
      const tied = segment.pitch !== undefined && (!isLast || segment.tied === true);
      events.push(...piecesOf(piece, segment.pitch, tied, freshTuplet));
    }
  }
  return events;
}

interface Window {
  readonly start: Ticks;
  readonly length: Ticks;
}

interface TupletWindow extends Window {
  readonly actual: number;
  readonly normal: number;
  mark?: Tuplet;
}

/** Pairs of beats where the bar falls into pairs of equal ones, else single beats; thirds of a beat of three. */
function windowsOf(meter: Meter): readonly Window[] {
  const beats = beatsOf(meter);
  const isUneven = beats.some(({ length }) => length !== beats[0]?.length);
  const unit = TICKS_PER_WHOLE / meter.unit;
  if (isCompound(meter) || isUneven)
    return beats.flatMap(({ start, length }) =>
      length === 3 * unit ? [0, 1, 2].map((k) => ({ start: start + k * unit, length: unit })) : [{ start, length }],
    );
  if (beats.length % 4 === 0) return pairs(pairs(beats));
  return beats.length % 2 === 0 ? pairs(beats) : beats;
}

function pairs(windows: readonly Window[]): readonly Window[] {
  return windows.flatMap((window, k) =>
    k % 2 === 0 ? [{ start: window.start, length: window.length + (windows[k + 1]?.length ?? 0) }] : [],
  );
}

function tupletWindows(window: Window, points: readonly Ticks[]): readonly TupletWindow[] {
  const inside = points.filter((point) => point > window.start && point < window.start + window.length);
  if (inside.every((point) => (point - window.start) % PLAIN === 0)) return [];
  const middle = window.start + window.length / 2;
  const whole = ratioFor(window, inside);
  const halves = () =>
    [
      { start: window.start, length: window.length / 2 },
      { start: middle, length: window.length / 2 },
    ].flatMap((half) => tupletWindows(half, points));
  const oddIn = (from: Ticks, to: Ticks) =>
    inside.some((point) => point > from && point < to && (point - window.start) % PLAIN !== 0);
  const isSpread =
    oddIn(window.start, middle) && oddIn(middle, window.start + window.length) && !inside.includes(middle);
  // Long and short of a swung pair are thirds of one beat, not a half with a tie into a smaller group.
  const isInThirds = inside.every((point) => ((point - window.start) * 3) % window.length === 0);
  if (whole?.actual === 3 && isInThirds && window.length <= LARGEST_THIRDS) return [{ ...window, ...whole }];
  // Three over the whole window reads better than two groups tied in the middle.
  if (whole && isSpread && whole.actual === 3 && inside.length <= 5) return [{ ...window, ...whole }];
  const canHalve = window.length % (2 * PLAIN) === 0 && window.length / 2 >= 4 * PLAIN;
  if (
    canHalve &&
    (inside.includes(middle) ||
      !whole ||
      !oddIn(window.start, middle) ||
      !oddIn(middle, window.start + window.length) ||
      window.length > 10_080)
  ) {
    const parts = halves();
    const fine = parts.every(({ actual }) => actual < 24);
    if (fine || !whole) return parts;
  }
  if (whole) return [{ ...window, ...whole }];
  return canHalve ? halves() : [];
}

/** The odd number of parts that all places need, in the time of the next smaller power of two. */
function ratioFor(
  window: Window,
  inside: readonly Ticks[],
): { readonly actual: number; readonly normal: number } | undefined {
  for (const actual of [3, 5, 7, 9, 11, 13, 15, 21]) {
    const normal = 2 ** Math.floor(Math.log2(actual));
    const unit = (PLAIN * normal) / actual;
    if (isWhole(window.length / unit) && inside.every((point) => isWhole((point - window.start) / unit)))
      return { actual, normal };
  }
  return undefined;
}

function isWhole(value: number): boolean {
  return Math.abs(value - Math.round(value)) < 1e-9;
}

interface Piece extends Window {
  readonly group?: TupletWindow;
}

/** A segment cut at the edges of tuplets. */
function cut({ start, length }: Window, groups: readonly TupletWindow[]): readonly Piece[] {
  const pieces: Piece[] = [];
  let at = start;
  const end = start + length;
  for (const group of groups) {
    const [from, to] = [Math.max(at, group.start), Math.min(end, group.start + group.length)];
    if (to <= from) continue;
    // A note that fills a tuplet's whole time from before it needs no share in it.
    if (from > at) pieces.push({ start: at, length: from - at });
    pieces.push({ start: from, length: to - from, group });
    at = to;
  }
  if (at < end) pieces.push({ start: at, length: end - at });
  return pieces;
}

function piecesOf(
  { length, group }: Piece,
  pitch: Pitch | undefined,
  tied: boolean,
  freshTuplet: () => string,
): readonly RawEvent[] {
  if (!group) return [{ length, ...(pitch && { pitch }), ...(tied && { tied }) }];
  group.mark ??= { id: freshTuplet(), actual: group.actual, normal: group.normal };
  const tuplet = group.mark;
  const notated = Math.round((length * group.actual) / group.normal);
  const values = plainValues(notated);
  return values.map((value, k) => {
    const isLast = k === values.length - 1;
    return {
      length: Math.round((value * group.normal) / group.actual),
      tuplet,
      ...(pitch && { pitch }),
      ...((tied || !isLast) && pitch && { tied: true }),
    };
  });
}
