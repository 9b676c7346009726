/** After so long without a tap another tempo begins, seconds. */
const PAUSE = 2.5;
/** The last so many taps are heard: a hand settles. */
const HEARD = 6;

/**
 * The tempo of somebody who taps, from three taps on: the middle of the last gaps, so that one slip counts for nothing.
 * @param taps seconds, in order
 */
export function tappedTempo(taps: readonly number[]): number | undefined {
  let from = taps.length - 1;
  while (from > 0 && (taps[from] ?? 0) - (taps[from - 1] ?? 0) <= PAUSE) from -= 1;
  const run = taps.slice(Math.max(from, taps.length - HEARD));
  if (run.length < 3) return undefined;
  const gaps = run.slice(1).map((at, k) => at - (run[k] ?? at));
  const sorted = gaps.toSorted((a, b) => a - b);
  const middle =
    ((sorted[Math.floor((sorted.length - 1) / 2)] ?? 1) + (sorted[Math.ceil((sorted.length - 1) / 2)] ?? 1)) / 2;
  return middle > 0 ? Math.round(60 / middle) : undefined;
}
