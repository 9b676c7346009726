import { type Pitch, staffPosition } from '../pitch';

/**
 * The shape of a phrase as a whole: up, down, up and down again, down and up again, on one height, or several turns.
 */
export type Contour = 'rises' | 'falls' | 'arch' | 'valley' | 'level' | 'wave';

/** A stretch in one direction, or of repeated notes. Staff steps, so that it is the same in every key. */
export interface Movement {
  readonly direction: 'up' | 'down' | 'repeats';
  /** Staff steps from its first note to its last; 0 for repeats. */
  readonly steps: number;
  readonly notes: number;
  /** The widest single interval in it, in staff steps. */
  readonly widest: number;
}

/** A turn smaller than this share of the phrase's range does not change its shape. */
const SMALL_TURN = 0.34;

/** The shape of a line by its heights. */
export function contourOf(pitches: readonly Pitch[]): Contour {
  const heights = pitches.map(staffPosition);
  const first = heights[0] ?? 0;
  const last = heights.at(-1) ?? first;
  const high = Math.max(...heights, first);
  const low = Math.min(...heights, first);
  const range = high - low;
  if (range === 0) return 'level';
  const turns = turningPoints(heights, range * SMALL_TURN);
  if (turns.length <= 2) {
    if (last === first) return high > first ? 'arch' : low < first ? 'valley' : 'level';
    return last > first ? 'rises' : 'falls';
  }
  if (turns.length === 3) return (turns[1] ?? 0) > (turns[0] ?? 0) ? 'arch' : 'valley';
  return 'wave';
}

/** Heights at the ends and wherever the line turns round by more than `least`. */
function turningPoints(heights: readonly number[], least: number): readonly number[] {
  const points: number[] = [heights[0] ?? 0];
  let extreme = heights[0] ?? 0;
  let direction = 0;
  for (const height of heights.slice(1)) {
    if (direction === 0) {
      if (Math.abs(height - (points[0] ?? 0)) > least) {
        direction = Math.sign(height - (points[0] ?? 0));
        extreme = height;
      }
    } else if ((height - extreme) * direction > 0) extreme = height;
    else if ((extreme - height) * direction > least) {
      points.push(extreme);
      direction = -direction;
      extreme = height;
    }
  }
  points.push(direction === 0 ? (heights.at(-1) ?? 0) : extreme);
  const last = heights.at(-1) ?? 0;
  if (Math.abs(last - (points.at(-1) ?? 0)) > least) points.push(last);
  return points;
}

/** The line cut into stretches of one direction. */
export function movementsOf(pitches: readonly Pitch[]): readonly Movement[] {
  const movements: { direction: Movement['direction']; steps: number; notes: number; widest: number }[] = [];
  for (let k = 1; k < pitches.length; k += 1) {
    const [before, here] = [pitches[k - 1], pitches[k]];
    if (!before || !here) continue;
    const steps = staffPosition(here) - staffPosition(before);
    const direction = steps > 0 ? 'up' : steps < 0 ? 'down' : 'repeats';
    const last = movements.at(-1);
    if (last?.direction === direction) {
      last.steps += steps;
      last.notes += 1;
      last.widest = Math.max(last.widest, Math.abs(steps));
    } else movements.push({ direction, steps, notes: 2, widest: Math.abs(steps) });
  }
  return movements;
}
