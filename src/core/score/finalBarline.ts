import { barsByOctaves, beforeOctaves } from './octaves';
import type { Bar } from './tune';

/** Bars with a final line at the end of the last, where there is no other sign; they end alike in every octave. */
export function withFinalBarline(bars: readonly Bar[]): readonly Bar[] {
  const { bars: origin, octaves } = beforeOctaves(bars);
  if (octaves !== 0) return barsByOctaves(withFinalBarline(origin), octaves);
  const last = bars.at(-1);
  if (!last || last.barline || last.repeatEnd !== undefined) return bars;
  const known = closedKnown.get(bars) ?? [...bars.slice(0, -1), { ...last, barline: 'final' as const }];
  closedKnown.set(bars, known);
  return known;
}

/** Players who read the same bars get the same end, so that what is known of these bars holds for all of them. */
const closedKnown = new WeakMap<readonly Bar[], readonly Bar[]>();
