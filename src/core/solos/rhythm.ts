import type { Chance } from '../chance';
import { type Level, profileOf } from '../instruments';
import type { Bar } from '../score';
import { beatsOf, isCompound, type Meter, type Ticks, TICKS_PER_QUARTER as QUARTER } from '../time';
import { timesOf, USUAL, type Amount, type SoloWishes } from './wishes';

/** A place for a note in a solo, from the start of the solo. */
export interface Slot {
  readonly at: Ticks;
  readonly length: Ticks;
  /** One of three in the time of two. */
  readonly isTriplet?: true;
  /** Begins an eighth before the chord that it belongs to. */
  readonly isEarly?: true;
  /** Its place in a bar of triplets that go in groups of four across the beats, from 0. */
  readonly inFours?: number;
}

/** A bar of the form in time. */
export interface FormBar {
  readonly start: Ticks;
  readonly length: Ticks;
  readonly meter: Meter;
  /** Repeats and endings of the tune, so that the form is played as often as it is there. */
  readonly signs?: Partial<Pick<Bar, 'repeatStart' | 'repeatEnd' | 'ending' | 'endingStops'>>;
}

/** What a beat (or two) is filled with: lengths in parts of a beat, rests negative; and how readily it is taken. */
interface Cell {
  readonly parts: readonly number[];
  readonly likes: number;
  readonly beats?: 2 | 4;
  readonly isTriplet?: true;
  /** Its notes go in groups of four, whatever the beats do. */
  readonly isFours?: true;
}

/**
 * Rhythm words by level, for beats of two halves and beats of three thirds. First few values and much space; then
 * eighths and off-beats; then running eighths, now and then double time or a triplet. Likes are ours.
 */
const CELLS: Readonly<Record<Level, { readonly simple: readonly Cell[]; readonly compound: readonly Cell[] }>> = {
  beginner: {
    simple: [
      { parts: [1], likes: 5 },
      { parts: [0.5, 0.5], likes: 2.5 },
      { parts: [2], likes: 1.4, beats: 2 },
    ],
    compound: [
      { parts: [1], likes: 2 },
      { parts: [2 / 3, 1 / 3], likes: 4 },
      { parts: [1 / 3, 1 / 3, 1 / 3], likes: 1.2 },
    ],
  },
  intermediate: {
    simple: [
      { parts: [0.5, 0.5], likes: 5 },
      { parts: [1], likes: 2.6 },
      { parts: [1.5, 0.5], likes: 1.4, beats: 2 },
      { parts: [-0.5, 0.5], likes: 0.8 },
      { parts: [0.5, 1, 0.5], likes: 0.8, beats: 2 },
    ],
    compound: [
      { parts: [2 / 3, 1 / 3], likes: 3 },
      { parts: [1 / 3, 1 / 3, 1 / 3], likes: 3.4 },
      { parts: [1], likes: 0.8 },
      { parts: [-1 / 3, 1 / 3, 1 / 3], likes: 0.6 },
    ],
  },
  advanced: {
    simple: [
      { parts: [0.5, 0.5], likes: 6 },
      { parts: [1], likes: 1.3 },
      { parts: [1.5, 0.5], likes: 1.1, beats: 2 },
      { parts: [0.5, 1, 0.5], likes: 0.9, beats: 2 },
      { parts: [0.25, 0.25, 0.25, 0.25], likes: 1.1 },
      { parts: [1 / 3, 1 / 3, 1 / 3], likes: 0.9, isTriplet: true },
      { parts: Array<number>(12).fill(1 / 3), likes: 0.5, beats: 4, isTriplet: true, isFours: true },
      { parts: [-0.5, 0.5], likes: 0.8 },
      { parts: [0.5, 0.25, 0.25], likes: 0.5 },
    ],
    compound: [
      { parts: [1 / 3, 1 / 3, 1 / 3], likes: 6 },
      { parts: [2 / 3, 1 / 3], likes: 1.4 },
      { parts: [1 / 3, 1 / 6, 1 / 6, 1 / 3], likes: 0.9 },
      { parts: [1 / 6, 1 / 6, 1 / 6, 1 / 6, 1 / 3], likes: 0.5 },
    ],
  },
};

interface TimedBeat {
  readonly start: Ticks;
  readonly length: Ticks;
  readonly isCompound: boolean;
}

/** The beats of some bars, one after the other. */
export function beatsIn(bars: readonly FormBar[]): readonly TimedBeat[] {
  return bars.flatMap(({ start, length, meter }) =>
    beatsOf(meter)
      .filter((beat) => beat.start < length)
      .map((beat) => ({
        start: start + beat.start,
        length: Math.min(beat.length, length - beat.start),
        isCompound: isCompound(meter) || beat.length * 2 === 3 * QUARTER,
      })),
  );
}

/**
 * The rhythm of a phrase over some bars: it may begin after the beat, runs in words of its level, comes to rest on a
 * note held near the end, and leaves space to breathe.
 * @param until where its last note shall be struck at the latest; the end of the bars by default
 * @param shortest the shortest note that the instrument speaks at the tempo
 */
export function phraseRhythm(
  bars: readonly FormBar[],
  level: Level,
  density: number,
  chance: Chance,
  until?: Ticks,
  tools?: SoloWishes['tools'],
  shortest: Ticks = 0,
): readonly Slot[] {
  const beats = beatsIn(bars);
  const end = bars.at(-1);
  if (!end || beats.length === 0) return [];
  const stop = end.start + end.length;
  const late = beats.filter(({ start }) => until === undefined || start <= until);
  // It comes to rest on the first beat of its last bar, or one or two later, and two beats before the end at the
  // latest.
  const arrivals = late.filter(
    ({ start, length }) => start >= end.start && (start + 2 * length <= stop || beats.length < 4),
  );
  const last =
    until === undefined ? pick(arrivals.length > 0 ? arrivals.slice(0, 3) : late.slice(-1), chance) : late.at(-1);
  if (!last) return [];
  const { rest, held: beatsHeld } = profileOf(level).solo;
  const space = rest * last.length;
  const held = Math.min(stop - last.start - space, (beatsHeld === 2 ? 2 : 1 + Math.floor(chance() * 2)) * last.length);
  const slots: Slot[] = [];
  const leads = chance();
  const skip = beats.length >= 6 && leads < 0.4 ? 1 : beats.length >= 8 && leads < 0.5 ? 2 : 0;
  const { simple, compound } = CELLS[level];
  const airless = 0.45 + LESS_SPACE[tools?.space ?? USUAL];
  for (let k = skip; k < beats.length;) {
    const beat = beats[k];
    if (!beat || beat.start >= last.start) break;
    const room = beatsAhead(beats, k, last.start, bars);
    const isSlowEnough = ({ parts }: Cell) => Math.min(...parts.map(Math.abs)) * beat.length >= shortest * 0.99;
    const fitting = (beat.isCompound ? compound : simple).filter((cell) => (cell.beats ?? 1) <= room);
    const slow = fitting.filter(isSlowEnough);
    const words = slow.length > 0 ? slow : fitting.filter(({ parts }) => parts.length === 1);
    // Now and then a beat of air inside the phrase.
    if (slots.length > 1 && chance() > density + airless) {
      k += 1;
      continue;
    }
    const cell = weighted(words, chance, density, tools);
    slots.push(...slotsOfCell(cell, beat));
    k += cell.beats ?? 1;
  }
  return [...slots, { at: last.start, length: Math.max(last.length / 2, held) }];
}

/** How many beats of one length there are from one on, in its bar and before the last note. */
function beatsAhead(beats: readonly TimedBeat[], from: number, until: Ticks, bars: readonly FormBar[]): number {
  const { length } = beats[from] ?? { length: 0 };
  const goesOn = (beat: TimedBeat | undefined) =>
    beat !== undefined && beat.start < until && beat.length === length && !isBarBreak(bars, beat.start);
  let other = from + 1;
  while (goesOn(beats[other])) other += 1;
  return other - from;
}

function isBarBreak(bars: readonly FormBar[], at: Ticks): boolean {
  return bars.some(({ start }) => start === at);
}

function weighted(cells: readonly Cell[], chance: Chance, density: number, tools: SoloWishes['tools']): Cell {
  const likes = cells.map(
    (cell) => cell.likes * timesOfCell(cell, tools) * (cell.parts.length >= 2 ? 0.5 + density : 1.5 - density),
  );
  let left = chance() * likes.reduce((sum, like) => sum + like, 0);
  const found = cells.find((_, k) => (left -= likes[k] ?? 0) < 0);
  return found ?? cells[0] ?? { parts: [1], likes: 1 };
}

function slotsOfCell({ parts, isTriplet, isFours }: Cell, { start, length: span }: TimedBeat): readonly Slot[] {
  const slots: Slot[] = [];
  let at = start;
  for (const [k, part] of parts.entries()) {
    const length = Math.round(Math.abs(part) * span);
    if (part > 0)
      slots.push({ at, length, ...(isTriplet && { isTriplet: true as const }), ...(isFours && { inFours: k }) });
    at += length;
  }
  return slots;
}

/** How much oftener a word is taken where its kind is wanted: triplets, sixteenths, notes off the beat. */
function timesOfCell({ parts, isTriplet, isFours }: Cell, tools: SoloWishes['tools']): number {
  if (isFours) return timesOf(tools, 'triplets') * timesOf(tools, 'fours');
  if (isTriplet) return timesOf(tools, 'triplets');
  if (parts.some((part) => part > 0 && part < 0.3)) return timesOf(tools, 'double-time');
  const isOff = (parts[0] ?? 1) < 0 || (parts.length === 3 && parts[0] === 0.5 && parts[1] === 1 && parts[2] === 0.5);
  return isOff ? timesOf(tools, 'off-beat') : 1;
}

/** How much less often a beat of air comes, by the amount that is wanted. */
const LESS_SPACE: Readonly<Record<Amount, number>> = { 0: 0.6, 1: 0.2, 2: 0, 3: -0.25 };

/**
 * A borrowed rhythm as the slots of a phrase: round and round, the last note struck at `until` at the latest, with room
 * to breathe before the end.
 */
export function borrowedSlots(
  lengths: readonly Ticks[],
  bars: readonly FormBar[],
  level: Level,
  until?: Ticks,
): readonly Slot[] {
  const [first, end] = [bars[0], bars.at(-1)];
  if (!first || !end || lengths.length === 0) return [];
  const stop = end.start + end.length - profileOf(level).solo.rest * QUARTER;
  const slots: Slot[] = [];
  let at = first.start;
  for (let k = 0; at < stop && k < MAX_SLOTS; k += 1) {
    const length = lengths[k % lengths.length] ?? QUARTER;
    if (length > 0 && (until === undefined || at < until)) slots.push({ at, length: Math.min(length, stop - at) });
    at += Math.abs(length);
  }
  if (until === undefined) return slots.filter(({ length }) => length >= QUARTER / 4);
  const before = slots.filter((slot) => slot.at + slot.length <= until);
  return [...before, { at: until, length: Math.max(QUARTER, stop - until) }];
}

const MAX_SLOTS = 256;

/** Slots with one on each of the moments that want a note; what sounds over such a moment ends there. */
export function withSlotsAt(slots: readonly Slot[], moments: readonly Ticks[]): readonly Slot[] {
  let made = [...slots];
  for (const at of moments) {
    const last = made.at(-1);
    if (!last || at > last.at || made.some((slot) => slot.at === at)) continue;
    const over = made.find((slot) => slot.at < at && slot.at + slot.length > at);
    const next = made.find((slot) => slot.at > at);
    const room = (next?.at ?? at + QUARTER) - at;
    const length = over ? over.at + over.length - at : Math.min(QUARTER, room);
    made = [
      ...made.map((slot) => (slot === over ? { ...slot, length: at - slot.at } : slot)),
      { at, length: Math.min(length, room) },
    ].toSorted((a, b) => a.at - b.at);
  }
  return made;
}

function pick<Value>(values: readonly Value[], chance: Chance): Value | undefined {
  return values[Math.floor(chance() * values.length)];
}

/**
 * Notes on a change of chord come an eighth early, where the note before is long enough to make room; where much is
 * wanted, an eighth before gives way.
 */
export function withEarlyNotes(
  slots: readonly Slot[],
  changes: ReadonlySet<Ticks>,
  chance: Chance,
  share: number,
  isMuch = false,
): readonly Slot[] {
  const early = QUARTER / 2;
  const made = [...slots];
  for (let k = 1; k < made.length; k += 1) {
    const [before, here] = [made[k - 1], made[k]];
    if (!before || !here || !changes.has(here.at) || here.isTriplet || before.isTriplet) continue;
    const givesWay = isMuch && k > 1 && before.length === early;
    const isJoined = before.at + before.length === here.at && !before.isEarly;
    if (!isJoined || (before.length < QUARTER && !givesWay) || chance() > share) continue;
    if (givesWay) {
      made.splice(k - 1, 2, { at: here.at - early, length: here.length + early, isEarly: true });
      continue;
    }
    made[k - 1] = { ...before, length: before.length - early };
    made[k] = { at: here.at - early, length: here.length + early, isEarly: true };
  }
  return made;
}
