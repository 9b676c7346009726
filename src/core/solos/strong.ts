import { beatsOf, isCompound, middleOf, type Ticks } from '../time';
import { lastAt } from './ground';
import type { FormBar } from './rhythm';

/** One and three in four, one in three, one and four in six eighths. */
export function isStrongAt(at: Ticks, bars: readonly FormBar[]): boolean {
  const bar = bars[lastAt(bars, at)];
  if (!bar) return false;
  const inBar = at - bar.start;
  if (inBar === 0) return true;
  if (inBar === middleOf(bar.meter)) return true;
  return isCompound(bar.meter) && beatsOf(bar.meter).length === 2 && beatsOf(bar.meter)[1]?.start === inBar;
}
