import type { Chance } from '../chance';
import type { Slot } from './rhythm';

/**
 * What a line costs. One table, to be argued with: steps cost little, leaps more the wider they are; a strong beat
 * wants a tone of the chord, a change of chord its third or seventh; a phrase keeps to its height and shape. From
 * common teaching of melody and of lines over changes; the figures are ours, set by ear on the demo tunes.
 */
const LINE_COSTS = {
  /** For each half step of a leap beyond a third, and again beyond a fifth and a sixth. */
  leap: 0.3,
  wideLeap: 0.5,
  overSixth: 5,
  /** The same note again: once is said, more is a stammer. */
  again: 1.6,
  /** A short note that leaps more than a third. */
  quickLeap: 1.2,
  /** On a strong beat: a colour, a rub. */
  strongColour: 1.4,
  strongRub: 2.6,
  /** Between beats a rub passes; on a beat it leans. */
  weakRub: 0.5,
  /** The first note over a new chord is neither its third nor its seventh. */
  notGuide: 0.5,
  /** A long note that is no chord tone. */
  longColour: 1,
  /** For each half step away from the phrase's height and shape. */
  height: 0.11,
  /** Two leaps in one direction. */
  leapAfterLeap: 0.8,
  /** The last note of all comes by a leap. */
  homeByLeap: 3,
  /** Dice. */
  chance: 0.9,
} as const;

/** What a height can be at a place. */
export type PlaceRole = 'home' | 'colour' | 'rub';

/** A candidate at a slot. */
export interface Candidate {
  /** Semitones above C0, written. */
  readonly height: number;
  readonly role: PlaceRole;
  /** Third or seventh of the chord. */
  readonly isGuide: boolean;
}

/** What is asked of a slot. */
export interface SlotWish {
  readonly slot: Slot;
  readonly candidates: readonly Candidate[];
  readonly isStrong: boolean;
  /** The first note over a new chord. */
  readonly isChange: boolean;
  /** The height that the phrase's shape has here. */
  readonly wanted: number;
  /** Nothing follows without a rest: no note that leans. */
  readonly isOpen: boolean;
  /** It is the last of all: it is reached by step. */
  readonly isHome?: true;
  /** Which way the line goes into this note: −1, 0, 1; free where absent. */
  readonly direction?: number;
}

/** The line before a phrase. */
export interface LineBefore {
  readonly height: number;
  /** How many times it was just struck. */
  readonly times: number;
}

interface Reached {
  readonly cost: number;
  readonly candidate: Candidate;
  readonly before: Reached | undefined;
  readonly times: number;
}

const EIGHTH = 5_040;

/**
 * The cheapest line through the slots of a phrase, by dynamic programming over all heights; `undefined` where the rules
 * leave none: a note that leans goes on by step, no note is struck more than twice running, a given shape is kept.
 * @param isStep whether two heights are a step apart: a half or a whole one, or neighbours of a small set
 */
export function findLine(
  wishes: readonly SlotWish[],
  before: LineBefore | undefined,
  isStep: (from: number, to: number) => boolean,
  chance: Chance,
): readonly Candidate[] | undefined {
  let reached: readonly Reached[] = [];
  for (const [index, wish] of wishes.entries()) {
    const next: Reached[] = [];
    for (const candidate of wish.candidates) {
      if (wish.isOpen && candidate.role === 'rub') continue;
      const own = placeCost(candidate, wish) + chance() * LINE_COSTS.chance;
      if (index === 0) {
        const times = before?.height === candidate.height ? before.times + 1 : 1;
        if (times > 2) continue;
        const leap = before ? leapCost(before.height, candidate.height, wish.slot.length) * 0.5 : 0;
        next.push({ cost: own + leap, candidate, before: undefined, times });
        continue;
      }
      let best: Reached | undefined;
      for (const from of reached) {
        const cost = from.cost + own + moveCost(from, candidate, wish, isStep);
        if (Number.isFinite(cost) && (!best || cost < best.cost)) {
          const times = from.candidate.height === candidate.height ? from.times + 1 : 1;
          best = { cost, candidate, before: from, times };
        }
      }
      if (best) next.push(best);
    }
    reached = next;
    if (reached.length === 0) return undefined;
  }
  let at = reached.reduce<Reached | undefined>(
    (least, one) => (!least || one.cost < least.cost ? one : least),
    undefined,
  );
  const line: Candidate[] = [];
  for (; at; at = at.before) line.unshift(at.candidate);
  return line;
}

function placeCost({ height, role, isGuide }: Candidate, { slot, isStrong, isChange, wanted }: SlotWish): number {
  const isLong = slot.length > EIGHTH;
  let cost = LINE_COSTS.height * Math.abs(height - wanted);
  if (isStrong && role !== 'home') cost += role === 'rub' ? LINE_COSTS.strongRub : LINE_COSTS.strongColour;
  else if (role === 'rub') cost += isLong ? LINE_COSTS.strongRub : LINE_COSTS.weakRub;
  if (isLong && role === 'colour') cost += LINE_COSTS.longColour;
  if (isChange && !isGuide) cost += LINE_COSTS.notGuide;
  return cost;
}

function moveCost(
  from: Reached,
  to: Candidate,
  { slot, direction, isHome }: SlotWish,
  isStep: (from: number, to: number) => boolean,
): number {
  const interval = to.height - from.candidate.height;
  if (direction !== undefined && Math.sign(interval) !== direction) return Infinity;
  if (interval === 0 && (from.times >= 2 || from.candidate.role === 'rub')) return Infinity;
  if (from.candidate.role === 'rub' && !isStep(from.candidate.height, to.height)) return Infinity;
  let cost = interval === 0 ? LINE_COSTS.again : leapCost(from.candidate.height, to.height, slot.length);
  if (isHome && interval !== 0 && !isStep(from.candidate.height, to.height)) cost += LINE_COSTS.homeByLeap;
  const earlier = from.before ? from.candidate.height - from.before.candidate.height : 0;
  if (Math.abs(interval) > 4 && Math.abs(earlier) > 4 && Math.sign(interval) === Math.sign(earlier))
    cost += LINE_COSTS.leapAfterLeap;
  return cost;
}

function leapCost(from: number, to: number, length: number): number {
  const size = Math.abs(to - from);
  let cost = Math.max(0, size - 4) * LINE_COSTS.leap + Math.max(0, size - 7) * LINE_COSTS.wideLeap;
  if (size > 9) cost += LINE_COSTS.overSixth;
  if (size > 4 && length < EIGHTH) cost += LINE_COSTS.quickLeap * 2;
  else if (size > 4 && length === EIGHTH) cost += LINE_COSTS.quickLeap * 0.3;
  return cost;
}
