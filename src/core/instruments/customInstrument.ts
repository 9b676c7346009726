import type { Interval } from '../pitch/interval';
import { semitones, type Pitch } from '../pitch/pitch';
import { instrumentById } from './catalogue';
import { LEVELS, type HoleChart, type Instrument, type Level, type Mechanism, type WrittenRange } from './instrument';

/** An instrument of the studio's own: one of the catalogue with another name, tuning, transposition or range. Only what differs is kept. */
export interface OwnInstrument {
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

const made = new WeakMap<OwnInstrument, Instrument>();

/** The full facts of an own instrument; `undefined` where its base is not in the catalogue. */
export function ownInstrument(own: OwnInstrument): Instrument | undefined {
  const known = made.get(own);
  if (known) return known;
  const base = instrumentById(own.base);
  if (!base) return undefined;
  const { mechanism } = base;
  const strung =
    own.strings && (mechanism.kind === 'bowed' || mechanism.kind === 'fretted')
      ? { ...mechanism, strings: own.strings }
      : mechanism;
  const played = own.chart ? withChart(strung, own.chart) : strung;
  const instrument: Instrument = {
    ...base,
    id: own.id,
    name: own.name,
    shortName: own.name.length > 16 ? base.shortName : own.name,
    transposition: own.transposition ?? base.transposition,
    range: own.range ?? base.range,
    mechanism: played,
    source: `The teacher's own, from: ${base.name}. ${base.source}`,
  };
  made.set(own, instrument);
  return instrument;
}

/** What is wrong with an own instrument's facts, in words; none where all is well. */
export function ownInstrumentProblems(own: OwnInstrument): readonly string[] {
  const base = instrumentById(own.base);
  if (!base) return [`"${own.base}" is not in the catalogue`];
  const problems: string[] = [];
  if (own.name.trim() === '') problems.push('it needs a name');
  if (own.strings && base.mechanism.kind !== 'bowed' && base.mechanism.kind !== 'fretted')
    problems.push(`the ${base.name.toLowerCase()} has no strings`);
  if (own.strings && (own.strings.length < 1 || own.strings.length > 12)) problems.push('1 to 12 strings');
  if (own.chart && (base.mechanism.kind !== 'holes' || !base.mechanism.charts.includes(own.chart)))
    problems.push(`the ${base.name.toLowerCase()} has no system "${own.chart}"`);
  if (own.range) {
    const { range } = own;
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

const rearranged = new WeakMap<Mechanism, Map<HoleChart, Mechanism>>();

/** The mechanism fingered by another of its charts; as it is where it has no such chart. The same object comes back each time. */
export function withChart(mechanism: Mechanism, chart: HoleChart): Mechanism {
  if (mechanism.kind !== 'holes' || !mechanism.charts.includes(chart)) return mechanism;
  const known = rearranged.get(mechanism) ?? new Map<HoleChart, Mechanism>();
  rearranged.set(mechanism, known);
  const made = known.get(chart) ?? {
    ...mechanism,
    charts: [chart, ...mechanism.charts.filter((one) => one !== chart)] as const,
  };
  known.set(chart, made);
  return made;
}

function holds(outer: WrittenRange, inner: WrittenRange): boolean {
  return semitones(outer.low) <= semitones(inner.low) && semitones(outer.high) >= semitones(inner.high);
}
