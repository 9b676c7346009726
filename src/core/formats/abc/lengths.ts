import { isCompound, type Meter, type Ticks } from '../../time';

/** The longest that a written length may be: 64 quarters. */
const LONGEST = 64 * 10_080;

/** The length that numbers and slashes after a note spell, in a unit: `3`, `/`, `3/2`; `undefined` where it is none. */
export function lengthIn(unit: Ticks, over: string, slashes: number, under: string): Ticks | undefined {
  if (over === '' && slashes === 0) return unit;
  const divisor = slashes === 0 ? 1 : under !== '' ? Number(under) * 2 ** (slashes - 1) : 2 ** slashes;
  const ticks = (unit * Number(over === '' ? 1 : over)) / divisor;
  return Number.isInteger(ticks) && ticks > 0 && ticks <= LONGEST ? ticks : undefined;
}

/** What `>` and `<` (more of them: sharper) make of the note before and the note after. */
export function brokenRhythm(sign: '<' | '>', count: number): { readonly before: number; readonly after: number } {
  const shorter = 1 / 2 ** count;
  return sign === '>' ? { before: 2 - shorter, after: shorter } : { before: shorter, after: 2 - shorter };
}

export interface AbcTuplet {
  readonly actual: number;
  readonly normal: number;
  /** How many notes it lasts for. */
  readonly count: number;
}

/** A tuplet's numbers; `undefined` where they make no sense. Source of what is left out: ABC 2.1, section 4.13. */
export function tupletIn(match: RegExpExecArray, meter: Meter | undefined): AbcTuplet | undefined {
  const actual = Number(match[1]);
  const threes = meter !== undefined && isCompound(meter) ? 3 : 2;
  const usual: Readonly<Record<number, number>> = { 2: 3, 3: 2, 4: 3, 5: threes, 6: 2, 7: threes, 8: 3, 9: threes };
  const normal = match[2] ? Number(match[2]) : usual[actual];
  const count = match[3] ? Number(match[3]) : actual;
  if (!normal || ![2, 3, 4, 5, 6, 7, 8, 9].includes(actual) || normal > 9 || count < 1 || count > 32) return undefined;
  return { actual, normal, count };
}
