import type { Instrument } from '../instruments';
import type { Pitch } from '../pitch';
import { fingeringId, markOf, type Fingering } from './fingering';
import { chartOf, fingeringsFor, type CostedFingering } from './options';
import { FINGER_SCHOOLS, isCrossing, isShift, moveCost, moveCosts, schoolCost, type FingerSchool } from './travel';

/** A note of a line as the hand meets it: written pitch, and the time until the next one. */
export interface FingerNote {
  readonly id: string;
  readonly pitch: Pitch;
  /** From its onset to the next one's. */
  readonly seconds: number;
}

/**
 * By note id: a fingering's id, its short mark, or the place of the hand (`hand 5`: position, or fret of the first
 * finger; `hand 5 stopped` without open strings).
 */
export type FingerPins = ReadonlyMap<string, string>;

export interface FingeredNote {
  readonly id: string;
  /** None where the instrument or its chart has none. */
  readonly fingering?: Fingering;
  readonly pinned?: true;
  readonly shift: boolean;
  readonly crossing: boolean;
  /** Of the way itself and of coming to it. */
  readonly cost: number;
}

export interface FingeredLine {
  readonly notes: readonly FingeredNote[];
  readonly shifts: number;
  readonly crossings: number;
  readonly cost: number;
  /** Notes whose pin names no fingering of their pitch. */
  readonly lostPins: readonly string[];
}

/** Moves within a quarter of a second count fully, slower ones less, for there is time; never less than this share. */
const USUAL_SECONDS = 0.25;
const LEAST_SHARE = 0.35;

function haste(seconds: number): number {
  return Math.max(LEAST_SHARE, Math.min(2, USUAL_SECONDS / Math.max(0.05, seconds)));
}

/**
 * Fingers a whole line by the shortest path: each note's ways, what they cost by themselves and what going from one to
 * the next costs at the tempo. Of equally good paths the one that is lower in position wins. A pinned note keeps its
 * pin and the others follow. Grows linearly with the number of notes. Rule: a line's fingering is a shortest path, not
 * note by note; ties are broken towards the lower position; a pair of chords that fits one position stays in it.
 */
export function fingerLine(
  notes: readonly FingerNote[],
  instrument: Pick<Instrument, 'mechanism'>,
  school: FingerSchool = FINGER_SCHOOLS[0],
  pins: FingerPins = new Map(),
): FingeredLine {
  const chart = chartOf(instrument);
  const lostPins: string[] = [];
  const ways = notes.map(({ id, pitch }) => {
    const all = fingeringsFor(instrument, pitch);
    const pin = pins.get(id);
    if (pin === undefined) return all;
    const kept = pinnedWays(all, pin);
    if (kept.length === 0) lostPins.push(id);
    return kept.length > 0 ? kept : all;
  });
  // For each note and way: the cheapest cost of arriving there, and from which way of the last fingered note.
  const costs: Float64Array[] = [];
  const from: Int32Array[] = [];
  let last = -1;
  ways.forEach((here, k) => {
    const total = Float64Array.from(here, ({ fingering, cost }) => cost + schoolCost(fingering, school));
    const origin = new Int32Array(here.length).fill(-1);
    const before = last >= 0 ? ways[last] : undefined;
    const arrived = last >= 0 ? costs[last] : undefined;
    if (here.length > 0 && before && arrived) {
      const moves = pins.size === 0 ? moveCosts(before, here, school, chart) : freshCosts(before, here, school, chart);
      const share = haste(notes[last]?.seconds ?? USUAL_SECONDS);
      for (let to = 0; to < here.length; to += 1) {
        let least = Infinity;
        for (let w = 0; w < before.length; w += 1) {
          const cost = (arrived[w] ?? Infinity) + (moves[w * here.length + to] ?? 0) * share;
          if (cost < least - 1e-9) {
            least = cost;
            origin[to] = w;
          }
        }
        total[to] = (total[to] ?? 0) + least;
      }
    }
    costs.push(total);
    from.push(origin);
    if (here.length > 0) last = k;
  });
  return walkBack(notes, ways, costs, from, last, pins, lostPins);
}

/** Shortened lists of pinned notes would fill the kept matrices; they are worked out on the spot. */
function freshCosts(
  before: readonly CostedFingering[],
  after: readonly CostedFingering[],
  school: FingerSchool,
  chart: ReturnType<typeof chartOf>,
): Float64Array {
  return Float64Array.from({ length: before.length * after.length }, (_, k) => {
    const [a, b] = [before[Math.floor(k / after.length)], after[k % after.length]];
    return a && b ? moveCost(a.fingering, b.fingering, school, chart) : 0;
  });
}

/** Ways that a pin means: its id, its mark, or for strings the bare finger or the place of the hand. */
export function pinnedWays(ways: readonly CostedFingering[], pin: string): readonly CostedFingering[] {
  const wanted = pin.trim();
  const [, hand, stopped] = /^hand (\d+)( stopped)?$/.exec(wanted) ?? [];
  if (hand !== undefined)
    return ways.filter(({ fingering }) => isUnderHand(fingering, Number(hand), stopped !== undefined));
  const byId = ways.filter(({ fingering }) => fingeringId(fingering) === wanted);
  if (byId.length > 0) return byId;
  const byMark = ways.filter(({ fingering }) => markOf(fingering).replaceAll(' ', '') === wanted.replaceAll(' ', ''));
  if (byMark.length > 0) return byMark;
  return ways.filter(
    ({ fingering }) =>
      (fingering.kind === 'bowed' || fingering.kind === 'fretted') && String(fingering.finger) === wanted,
  );
}

/**
 * Whether a fingering on strings leaves the hand where it is, at a position or with the first finger at a fret; without
 * open strings where the shape is to be moved.
 */
export function isUnderHand(fingering: Fingering, hand: number, isStopped: boolean): boolean {
  return handOf(fingering) === hand && !(isStopped && isOpen(fingering));
}

/** The pin that keeps a note under a hand. */
export function handPin(hand: number, isStopped: boolean): string {
  return `hand ${hand}${isStopped ? ' stopped' : ''}`;
}

function handOf(fingering: Fingering): number | undefined {
  return fingering.kind === 'bowed' ? fingering.position : fingering.kind === 'fretted' ? fingering.hand : undefined;
}

function isOpen(fingering: Fingering): boolean {
  return (fingering.kind === 'bowed' || fingering.kind === 'fretted') && fingering.finger === 0;
}

function walkBack(
  notes: readonly FingerNote[],
  ways: readonly (readonly CostedFingering[])[],
  costs: readonly Float64Array[],
  from: readonly Int32Array[],
  last: number,
  pins: FingerPins,
  lostPins: readonly string[],
): FingeredLine {
  const chosen = new Map<number, { readonly fingering: Fingering; readonly total: number }>();
  let at = last >= 0 ? cheapest(costs[last] ?? new Float64Array()) : -1;
  for (let k = last; k >= 0; k -= 1) {
    const way = ways[k]?.[at];
    if (!way) continue;
    chosen.set(k, { fingering: way.fingering, total: costs[k]?.[at] ?? 0 });
    at = from[k]?.[at] ?? -1;
    if (at < 0) break;
  }
  let before: { readonly fingering: Fingering; readonly total: number } | undefined;
  let [shifts, crossings, total] = [0, 0, 0];
  const lost = new Set(lostPins);
  const fingered = notes.map(({ id }, k): FingeredNote => {
    const here = chosen.get(k);
    if (!here) return { id, shift: false, crossing: false, cost: 0 };
    const shift = before !== undefined && isShift(before.fingering, here.fingering);
    const crossing = before !== undefined && isCrossing(before.fingering, here.fingering);
    const cost = here.total - (before?.total ?? 0);
    shifts += shift ? 1 : 0;
    crossings += crossing ? 1 : 0;
    total = here.total;
    before = here;
    return {
      id,
      fingering: here.fingering,
      ...(pins.has(id) && !lost.has(id) && { pinned: true as const }),
      shift,
      crossing,
      cost,
    };
  });
  return { notes: fingered, shifts, crossings, cost: total, lostPins };
}

/** The least, and of equal ones the first: ways are listed from the lowest position up. */
function cheapest(costs: Float64Array): number {
  let best = 0;
  for (let k = 1; k < costs.length; k += 1) if ((costs[k] ?? Infinity) < (costs[best] ?? Infinity) - 1e-9) best = k;
  return best;
}
