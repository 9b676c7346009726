import { derived } from '../derived';
import { type Interval, type Pitch, semitones } from '../pitch';
import { instrumentById } from './catalogue';
import { LEVELS, type HoleChart, type Instrument, type Level, type Mechanism, type WrittenRange } from './instrument';

/**
 * A custom instrument of the studio: one of the catalogue with another name, tuning, transposition or range. Only what
 * differs is kept.
 */
export interface CustomInstrument {
  readonly id: string;
  readonly name: string;
  /** Id of the one in the catalogue that it was copied from. */
  readonly base: string;
  readonly transposition?: Interval;
  /** Open strings in written pitch, lowest first, for bowed and fretted instruments. */
  readonly strings?: readonly Pitch[];
  readonly range?: Instrument['range'];
  /** The chart it is fingered by, where the base has several systems. */
  readonly chart?: HoleChart;
}

/** The full facts of a custom instrument; `undefined` where its base is not in the catalogue. */
export const customInstrument = derived((custom: CustomInstrument): Instrument | undefined => {
  const base = instrumentById(custom.base);
  if (!base) return undefined;
  const { mechanism } = base;
  const strung =
    custom.strings && (mechanism.kind === 'bowed' || mechanism.kind === 'fretted')
      ? { ...mechanism, strings: custom.strings }
      : mechanism;
  const played = custom.chart ? withChart(strung, custom.chart) : strung;
  return {
    ...base,
    id: custom.id,
    name: custom.name,
    shortName: custom.name.length > 16 ? base.shortName : custom.name,
    transposition: custom.transposition ?? base.transposition,
    range: custom.range ?? base.range,
    mechanism: played,
    source: `The teacher's own, from: ${base.name}. ${base.source}`,
  };
});

/** What is wrong with a custom instrument's facts, in words; none where all is well. */
export function customInstrumentProblems(custom: CustomInstrument): readonly string[] {
  const base = instrumentById(custom.base);
  if (!base) return [`"${custom.base}" is not in the catalogue`];
  const problems: string[] = [];
  if (custom.name.trim() === '') problems.push('it needs a name');
  if (custom.strings && base.mechanism.kind !== 'bowed' && base.mechanism.kind !== 'fretted')
    problems.push(`the ${base.name.toLowerCase()} has no strings`);
  if (custom.strings && (custom.strings.length < 1 || custom.strings.length > 12)) problems.push('1 to 12 strings');
  if (custom.chart && (base.mechanism.kind !== 'holes' || !base.mechanism.charts.includes(custom.chart)))
    problems.push(`the ${base.name.toLowerCase()} has no system "${custom.chart}"`);
  if (custom.range) {
    const { range } = custom;
    const order: readonly (Level | 'full')[] = [...LEVELS, 'full'];
    for (const level of order)
      if (semitones(range[level].high) - semitones(range[level].low) < 11)
        problems.push(`${level}: the range needs all twelve notes, eleven half steps at least`);
    order.slice(1).forEach((outer, index) => {
      const inner = order[index] ?? outer;
      if (!holds(range[outer], range[inner])) problems.push(`the ${inner} range must lie within the ${outer} one`);
    });
  }
  return problems;
}

/**
 * The mechanism fingered by another of its charts; as it is where it has no such chart. The same object comes back each
 * time.
 */
export const withChart = derived((mechanism: Mechanism, chart: HoleChart): Mechanism =>
  mechanism.kind === 'holes' && mechanism.charts.includes(chart)
    ? { ...mechanism, charts: [chart, ...mechanism.charts.filter((one) => one !== chart)] as const }
    : mechanism,
);

function holds(outer: WrittenRange, inner: WrittenRange): boolean {
  return semitones(outer.low) <= semitones(inner.low) && semitones(outer.high) >= semitones(inner.high);
}
