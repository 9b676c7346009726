import { type Level, profileOf } from '../instruments';
import type { FormBar } from './rhythm';
import { beatsIn } from './rhythm';
import type { Note } from './room';

/**
 * What makes a new phrase worth saying, and so worth coming back to. Tries of one phrase are held against this table,
 * and the cheapest is taken. Bands are read off the choruses written by hand in the design's models: enough notes to be
 * a thought, more than one length, one high point, a turn or two, steps and small skips with a leap as an event.
 */
const IDEA_COSTS = {
  /** For each note a beat too few or too many, in shares of the level's own. */
  notes: 4,
  /** All of one length. */
  oneLength: 1.2,
  /** For each half step that its range is narrower or wider than the level's. */
  range: 0.18,
  /** For each leap of more than a fourth but one. */
  leaps: 0.8,
  /** Every note turns round. */
  zigzag: 1,
  /** It never turns. */
  straight: 0.5,
  /** The high point is struck more than once. */
  highAgain: 0.4,
  /** It begins and ends on one note, and says little between. */
  still: 1.2,
} as const;

/** Notes that a new phrase has on the whole, at a level; `fullness` is a factor of the level's usual. */
export function usualNotes(bars: readonly FormBar[], level: Level, fullness: number): number {
  const { simple, compound } = profileOf(level).solo.idea;
  return beatsIn(bars).reduce((sum, beat) => sum + (beat.isCompound ? compound : simple), 0) * fullness;
}

/**
 * What a new phrase costs by the table above; less is better.
 * @param usual how many notes are wanted
 */
export function ideaCost(notes: readonly Note[], level: Level, usual: number): number {
  const { range } = profileOf(level).solo.idea;
  const heights = notes.map(({ height }) => height);
  const moves = heights.slice(1).map((height, k) => height - (heights[k] ?? height));
  const turning = moves.filter((move) => move !== 0).map(Math.sign);
  const turns = turning.filter((sign, k) => k > 0 && sign !== turning[k - 1]).length;
  const high = Math.max(...heights);
  const wide = high - Math.min(...heights);
  const leaps = moves.filter((move) => Math.abs(move) > 5).length;
  let cost = (IDEA_COSTS.notes * Math.abs(notes.length - usual)) / Math.max(1, usual);
  if (new Set(notes.map(({ slot }) => slot.length)).size < 2) cost += IDEA_COSTS.oneLength;
  cost += IDEA_COSTS.range * Math.max(0, range[0] - wide, wide - range[1]);
  cost += IDEA_COSTS.leaps * Math.max(0, leaps - 1);
  if (turning.length > 3 && turns >= turning.length - 1) cost += IDEA_COSTS.zigzag;
  if (turning.length > 3 && turns === 0) cost += IDEA_COSTS.straight;
  if (heights.filter((height) => height === high).length > 1) cost += IDEA_COSTS.highAgain;
  if (heights[0] === heights.at(-1) && notes.length < 4) cost += IDEA_COSTS.still;
  return cost;
}
