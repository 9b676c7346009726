import { derived } from '../derived';
import type { Instrument } from '../instruments';
import { type Key, readableInterval, signatureOf, transposeKey } from '../pitch';
import { beforeOctaves, keysOf } from '../score';
import {
  measureBreath,
  measureLine,
  measurePlayer,
  signatureCause,
  type Line,
  type LineMeasure,
  type PlayerMeasure,
} from './lineMeasure';

/** What makes a bar hard, each 0 (not at all) to 10. */
export const CAUSES = [
  'speed',
  'rhythm',
  'leaps',
  'range',
  'accidentals',
  'signature',
  'break',
  'travel',
  'breath',
] as const;
export type Cause = (typeof CAUSES)[number];
export type Causes = Readonly<Record<Cause, number>>;

export interface Difficulty {
  /** 0–10. */
  readonly total: number;
  readonly causes: Causes;
}

/**
 * How much each cause counts; they add up to 1, so that the total rises with every cause and stays within 10 (see
 * `SCALE`). Speed and rhythm decide most about a grade in common examination syllabuses, keys and leaps less; the
 * figures are ours.
 */
export const WEIGHTS: Causes = {
  speed: 0.27,
  rhythm: 0.2,
  leaps: 0.1,
  range: 0.12,
  accidentals: 0.07,
  signature: 0.06,
  break: 0.08,
  travel: 0.06,
  breath: 0.04,
};

/**
 * How hard each bar of a line is for an instrument, and why.
 * @param line as it is read; as it sounds when `sounding` says so, which spares writing it out: accidentals are then
 *   counted as they sound
 * @param octaves by which the player reads it higher than it is given
 */
export function barDifficulties(
  line: Line,
  instrument: Instrument,
  pitch: 'written' | 'sounding' = 'written',
  octaves = 0,
): readonly Difficulty[] {
  const { rows } = rowsOf(line, instrument, pitch, octaves);
  return line.bars.map((_, index) => {
    const causes: Causes = {
      speed: rows.speed[index] ?? 0,
      rhythm: rows.rhythm[index] ?? 0,
      leaps: rows.leaps[index] ?? 0,
      range: rows.range[index] ?? 0,
      accidentals: rows.accidentals[index] ?? 0,
      signature: rows.signature[index] ?? 0,
      break: rows.break[index] ?? 0,
      travel: rows.travel[index] ?? 0,
      breath: rows.breath[index] ?? 0,
    };
    return { total: totalOf(causes), causes };
  });
}

/** The total of a whole line, as `lineDifficulty` gives it, without a record for every bar. */
export function lineTotal(
  line: Line,
  instrument: Instrument,
  pitch: 'written' | 'sounding' = 'written',
  octaves = 0,
): number {
  if (line.bars.length === 0) return 0;
  const { measure, rows } = rowsOf(line, instrument, pitch, octaves);
  return totalOf({
    ...fixedCauses(measure),
    range: lineCause(rows.range),
    signature: lineCause(rows.signature),
    break: lineCause(rows.break),
    travel: lineCause(rows.travel),
    breath: lineCause(rows.breath),
  });
}

/** Every cause as a row of bars. */
function rowsOf(
  line: Line,
  instrument: Instrument,
  pitch: 'written' | 'sounding',
  octaves: number,
): { readonly measure: LineMeasure; readonly rows: Readonly<Record<Cause, ArrayLike<number>>> } {
  // A line is as hard in every octave but for where it lies.
  const { bars, octaves: by } = beforeOctaves(line.bars);
  const measure = measureLine(by === 0 ? line : { ...line, bars });
  const isSounding = pitch === 'sounding';
  const shift = (isSounding ? instrument.transposition.chromatic : 0) + 12 * (octaves + by);
  const { player, breath } = playedBy(measure, instrument, shift);
  const causeOf = new Map<Key, number>();
  const signature = keysOf(line).map((key) => {
    const known = causeOf.get(key);
    if (known !== undefined) return known;
    const read = isSounding ? transposeKey(key, readableInterval(key, instrument.transposition)) : key;
    const cause = signatureCause(signatureOf(read), instrument);
    causeOf.set(key, cause);
    return cause;
  });
  const rows = {
    ...measure.fixed,
    range: player.range,
    signature,
    break: player.break,
    travel: player.travel,
    breath,
  };
  return { measure, rows };
}

interface Played {
  readonly player: PlayerMeasure;
  readonly breath: Float64Array;
}

/** Asked twice, for the line and for the page, where a player reads what sounds. */
const playedBy = derived(
  (measure: LineMeasure, instrument: Instrument, shift: number): Played => ({
    player: measurePlayer(measure, instrument, shift),
    breath: measureBreath(measure, instrument),
  }),
  { most: 1 },
);

/**
 * A whole line: the mean of its bars, with the hardest quarter of them counted twice, since a part is as hard as its
 * hard places.
 */
export function lineDifficulty(bars: readonly Difficulty[]): Difficulty {
  if (bars.length === 0) return { total: 0, causes: causesFrom(() => 0) };
  const causes = causesFrom((cause) => {
    return lineCause(bars.map((bar) => bar.causes[cause]));
  });
  return { total: totalOf(causes), causes };
}

/** One cause over a whole line, from its bars. */
export function lineCause(bars: ArrayLike<number>): number {
  const values = (bars instanceof Float64Array ? bars.slice() : Float64Array.from(bars)).sort();
  const hardest = Math.ceil(values.length / 4);
  let sum = 0;
  for (let k = 0; k < values.length; k += 1) sum += (values[k] ?? 0) * (k >= values.length - hardest ? 2 : 1);
  return values.length === 0 ? 0 : sum / (values.length + hardest);
}

/** The causes of a whole line that hold for every player. */
export const fixedCauses = derived(({ fixed: { speed, rhythm, leaps, accidentals } }: LineMeasure): FixedCauses => ({
  speed: lineCause(speed),
  rhythm: lineCause(rhythm),
  leaps: lineCause(leaps),
  accidentals: lineCause(accidentals),
}));

export type FixedCauses = Pick<Causes, 'speed' | 'rhythm' | 'leaps' | 'accidentals'>;

function causesFrom(value: (cause: Cause) => number): Causes {
  return Object.fromEntries(CAUSES.map((cause) => [cause, value(cause)])) as Record<Cause, number>;
}

/**
 * From the weighted causes to the scale that a teacher knows, as corner points: what the causes add up to, and the
 * total. Set by lines written for the purpose (`difficulty.test.ts`): five notes in quarters at 60 are 1, two octaves
 * of eighths at 96 with two sharps 4, sixteenths at 132 with leaps and accidentals 9. It rises everywhere, so that the
 * total stays monotone in every cause.
 */
const SCALE: readonly (readonly [number, number])[] = [
  [0, 0],
  [0.3, 1],
  [0.7, 2.3],
  [2, 4],
  [4.2, 6.8],
  [6.5, 9],
  [10, 10],
];

/**
 * Rule: the total is monotone in every cause, and is shown with its causes, never as a bare number.
 */
export function totalOf(causes: Causes): number {
  let sum = 0;
  for (const cause of CAUSES) sum += WEIGHTS[cause] * causes[cause];
  return onScale(sum);
}

function onScale(sum: number): number {
  let above = 0;
  while (above < SCALE.length && (SCALE[above]?.[0] ?? 0) < sum) above += 1;
  const [before, after] = [SCALE[above - 1] ?? ORIGIN, SCALE[above] ?? MOST];
  const [from, low] = before;
  const [to, high] = after;
  return to === from ? high : low + ((high - low) * (sum - from)) / (to - from);
}

const ORIGIN: readonly [number, number] = [0, 0];
const MOST: readonly [number, number] = [10, 10];

/**
 * When a bar stands out of its line: so many times the middle bar, and so many points above it. Rules of thumb of ours.
 */
const STANDS_OUT = { times: 1.5, points: 1.2 } as const;

/**
 * Passages, as runs of bar indices, that are much harder than the rest of the line: what a player may be allowed to
 * leave out. Never more than a third of it.
 */
export function passagesThatStandOut(bars: readonly Difficulty[]): readonly (readonly number[])[] {
  const totals = bars.map(({ total }) => total).toSorted((a, b) => a - b);
  const middle = totals[Math.floor(totals.length / 2)] ?? 0;
  const hard = bars.flatMap(({ total }, index) =>
    total >= middle * STANDS_OUT.times && total >= middle + STANDS_OUT.points ? [index] : [],
  );
  if (hard.length === 0 || hard.length > bars.length / 3) return [];
  return hard.reduce<number[][]>((runs, index) => {
    const last = runs.at(-1);
    if (last && last.at(-1) === index - 1) last.push(index);
    else runs.push([index]);
    return runs;
  }, []);
}

/** The hardest bar of a line, by its index; none in a line without bars. */
export function hardestBar(bars: readonly Difficulty[]): number | undefined {
  return bars.length === 0
    ? undefined
    : bars.reduce((hardest, { total }, index) => (total > (bars[hardest]?.total ?? 0) ? index : hardest), 0);
}
