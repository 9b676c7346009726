import { joined } from '../bars/versions';
import type { LevelLine } from './lineRequest';

/** One line with some bars of another, marks and changes included. */
export function spliced(whole: LevelLine, other: LevelLine, taken: ReadonlySet<number>): LevelLine {
  const bars = joined(whole.tune.bars.map((bar, index) => (taken.has(index) ? (other.tune.bars[index] ?? bar) : bar)));
  const pick = <Placed extends { readonly barIndex: number }>(mine: readonly Placed[], theirs: readonly Placed[]) => [
    ...mine.filter(({ barIndex }) => !taken.has(barIndex)),
    ...theirs.filter(({ barIndex }) => taken.has(barIndex)),
  ];
  return {
    ...whole,
    tune: { ...whole.tune, bars },
    changes: pick(whole.changes, other.changes),
    outside: pick(whole.outside, other.outside),
  };
}
