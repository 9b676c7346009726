import { derived } from '../derived';
import { barsByOctaves, beforeOctaves } from './octaves';
import type { Bar } from './tune';

/** Bars with a final line at the end of the last, where there is no other sign; they end alike in every octave. */
export function withFinalBarline(bars: readonly Bar[]): readonly Bar[] {
  const { bars: origin, octaves } = beforeOctaves(bars);
  if (octaves !== 0) return barsByOctaves(withFinalBarline(origin), octaves);
  const last = bars.at(-1);
  if (!last || last.barline || last.repeatEnd !== undefined) return bars;
  return ended(bars);
}

/** Players who read the same bars get the same end, so that what is known of these bars holds for all of them. */
const ended = derived((bars: readonly Bar[]): readonly Bar[] =>
  bars.map((bar, index) => (index === bars.length - 1 ? { ...bar, barline: 'final' as const } : bar)),
);
