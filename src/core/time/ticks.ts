/**
 * Ticks in a quarter note. All time in a score is a whole number of these.
 * Divisible by 2⁵, 3², 5 and 7: 128ths, triplets, quintuplets and septuplets are exact.
 */
export const TICKS_PER_QUARTER = 10_080;
export const TICKS_PER_WHOLE = 4 * TICKS_PER_QUARTER;

/** A length or position in ticks. Whole numbers only; positions count from 0 at the start of their bar. */
export type Ticks = number;

/** A length in quarters as a person would write it: `1`, `1½`, `2⅓`; for messages. */
export function quartersText(ticks: Ticks): string {
  const whole = Math.floor(ticks / TICKS_PER_QUARTER);
  const rest = ticks - whole * TICKS_PER_QUARTER;
  if (rest === 0) return String(whole);
  const known: ReadonlyMap<number, string> = new Map([
    [1 / 2, '½'],
    [1 / 4, '¼'],
    [3 / 4, '¾'],
    [1 / 3, '⅓'],
    [2 / 3, '⅔'],
    [1 / 8, '⅛'],
    [3 / 8, '⅜'],
    [5 / 8, '⅝'],
    [7 / 8, '⅞'],
  ]);
  const fraction = known.get(rest / TICKS_PER_QUARTER);
  return fraction ? `${whole || ''}${fraction}` : (ticks / TICKS_PER_QUARTER).toFixed(3);
}

/** The largest length into which both go a whole number of times; the other where one is 0. */
export function greatestCommonDivisor(a: number, b: number): number {
  return b === 0 ? a : greatestCommonDivisor(b, a % b);
}
