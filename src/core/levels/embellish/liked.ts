import type { Candidate } from './candidates';
import type { Variation } from './variation';

/**
 * Candidates in the order in which they are liked, while what is chosen changes how others are. The best of each bar is
 * remembered, and a bar is gone through again where something in it changed: a long tune has thousands of candidates.
 */
export class Liked {
  private readonly ofBar = new Map<number, Candidate[]>();
  private readonly likings = new Map<Candidate, number>();
  private readonly bests = new Map<number, Candidate>();

  constructor(
    group: readonly Candidate[],
    private readonly variation: Variation,
  ) {
    for (const one of group) {
      const bar = this.ofBar.get(one.bar);
      if (bar) bar.push(one);
      else this.ofBar.set(one.bar, [one]);
    }
    this.lookAgain(this.ofBar.keys());
  }

  /** Takes out the one that is liked best; dice decide between equals. `undefined` where none is liked so much. */
  next(lowest: number): Candidate | undefined {
    let best: Candidate | undefined;
    for (const one of this.bests.values()) if (!best || this.isBefore(one, best)) best = one;
    if (!best || (this.likings.get(best) ?? -Infinity) < lowest) return undefined;
    const { bar } = best;
    this.ofBar.set(
      bar,
      (this.ofBar.get(bar) ?? []).filter((one) => one !== best),
    );
    this.findBest(bar);
    return best;
  }

  /** @param bars in which something is liked otherwise now */
  lookAgain(bars: Iterable<number>): void {
    for (const bar of bars) {
      for (const one of this.ofBar.get(bar) ?? []) this.likings.set(one, this.variation.liking(one));
      this.findBest(bar);
    }
  }

  private isBefore(one: Candidate, other: Candidate): boolean {
    const difference = (this.likings.get(one) ?? 0) - (this.likings.get(other) ?? 0);
    return difference > 0 || (difference === 0 && one.dice > other.dice);
  }

  private findBest(bar: number): void {
    let best: Candidate | undefined;
    for (const one of this.ofBar.get(bar) ?? []) if (!best || this.isBefore(one, best)) best = one;
    if (best) this.bests.set(bar, best);
    else this.bests.delete(bar);
  }
}
