import { barTicks, type Meter } from '../../time';
import type { ProgressionBar } from '../progression';
import type { TimedChord } from './timedChord';

/** Bare chords, those of a bar sharing it equally; a bar without chords goes on with the one before. */
export function progressionChords(bars: readonly ProgressionBar[], meter: Meter): readonly TimedChord[] {
  const barLength = barTicks(meter);
  const placed = bars.flatMap((bar, index) =>
    bar.map((symbol, k) => ({ symbol, bar: index, at: Math.round((k * barLength) / bar.length), barLength })),
  );
  return placed.map((chord, k) => {
    const next = placed[k + 1] ?? { bar: bars.length, at: 0 };
    return { ...chord, length: (next.bar - chord.bar) * barLength + next.at - chord.at };
  });
}
