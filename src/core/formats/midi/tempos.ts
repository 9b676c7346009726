import type { PlacedTempo, Tempo } from '../../score';
import { isCompound, type Meter, type Ticks, TICKS_PER_QUARTER, valueTicks } from '../../time';
import type { RawBar } from '../assemble';
import type { FormatProblem } from '../problem';
import type { ReadOptions } from '../readResult';
import type { GuessSource } from './guesses';
import type { GridBar } from './meterGrid';
import type { MidiFile } from './midiFile';

/** Changes of tempo smaller than this are a player's or a machine's, not the composer's. */
const TEMPO_STEP = 0.08;
const MAX_TEMPOS = 24;

export interface TemposRead {
  readonly first: Tempo;
  readonly quarters: number;
  readonly source: GuessSource;
  readonly placed: readonly (PlacedTempo & { readonly barIndex: number })[];
}

/** The default of the standard where a file names no tempo, in quarters a minute. */
const USUAL_QUARTERS = 120;

/**
 * The first tempo and those that are placed later, in the meter's own beat.
 * @param warnings takes a word for what was left out
 */
export function temposOfFile(
  file: MidiFile,
  meter: Meter,
  bars: readonly GridBar[],
  warnings: FormatProblem[],
  options: ReadOptions,
): TemposRead {
  const beat: Tempo['beat'] = isCompound(meter)
    ? { type: 'quarter', dots: 1 }
    : meter.unit === 2
      ? { type: 'half', dots: 0 }
      : { type: 'quarter', dots: 0 };
  const counted = (quarters: number): Tempo => ({
    beat,
    perMinute: Math.max(1, Math.round((quarters * TICKS_PER_QUARTER) / valueTicks(beat))),
  });
  const start = bars[0]?.start ?? 0;
  const all = file.tempos.map(({ at, microsecondsPerQuarter }) => ({
    at: Math.round((at * TICKS_PER_QUARTER) / file.division),
    quarters: 60_000_000 / microsecondsPerQuarter,
  }));
  const opening = all.findLast(({ at }) => at <= start) ?? all[0];
  const quarters = options.midi?.perMinute ?? opening?.quarters ?? USUAL_QUARTERS;
  const placed: (PlacedTempo & { barIndex: number })[] = [];
  let current = quarters;
  let left = 0;
  let barIndex = 0;
  for (const { at, quarters: next } of options.midi?.perMinute === undefined
    ? all.filter((one) => one.at > start)
    : []) {
    if (Math.abs(next / current - 1) < TEMPO_STEP || placed.length >= MAX_TEMPOS) {
      if (Math.abs(next / current - 1) > 0.001) left += 1;
      continue;
    }
    barIndex = barHolding(bars, at, barIndex);
    const bar = bars[barIndex];
    if (!bar) break;
    if (at < bar.start) continue;
    current = next;
    placed.push({ barIndex, at: at - bar.start, tempo: counted(next) });
  }
  if (left > 0) warnings.push({ code: 'left-out', place: {}, found: `${left} small changes of tempo` });
  return {
    first: counted(quarters),
    quarters: Math.round(quarters * 100) / 100,
    source: options.midi?.perMinute !== undefined ? 'set' : all.length > 0 ? 'file' : 'guess',
    placed,
  };
}

/** The first bar from an index on that ends after a place. */
function barHolding(bars: readonly GridBar[], at: Ticks, from: number): number {
  let index = from;
  for (let bar = bars[index]; bar && at >= bar.start + bar.length; bar = bars[index]) index += 1;
  return index;
}

/** The bars with the tempos that begin in them. */
export function withTempos(bars: readonly RawBar[], { placed }: TemposRead): readonly RawBar[] {
  return bars.map((bar, index): RawBar => {
    const here = placed
      .filter(({ barIndex }) => barIndex === index)
      .map(({ at, tempo }): PlacedTempo => ({ at, tempo }));
    return here.length > 0 ? { ...bar, tempos: here } : bar;
  });
}
