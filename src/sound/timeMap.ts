import { type BarSpan, barSpans, quartersPerMinute, type Swing, type Tempo, type Tune } from '../core/score';
import { isCompound, type Ticks, TICKS_PER_QUARTER } from '../core/time';

/** A bar in the order of playing. */
export interface PlayedBar {
  /** Index into the tune's bars. */
  readonly bar: number;
  /** Which time through a repeat it is, from 1. */
  readonly pass: number;
  /** Seconds from the beginning. */
  readonly start: number;
  readonly seconds: number;
}

/** A stretch of a bar in which time runs evenly. */
interface Stretch {
  readonly from: Ticks;
  /** Seconds from the start of the bar. */
  readonly at: number;
  readonly secondsPerTick: number;
}

/**
 * How much longer a note under a fermata lasts: common practice is half as long again to twice as long; the metronome
 * then goes on.
 */
const HELD = 1.75;

/**
 * Where in seconds each place of the music falls when it is played at a tempo: changes of tempo, fermatas and swing
 * included.
 */
export class TimeMap {
  readonly bars: readonly PlayedBar[];
  readonly seconds: number;
  private readonly stretches: ReadonlyMap<number, readonly Stretch[]>;
  private readonly spans: readonly BarSpan[];
  private readonly swing: Swing | undefined;

  /**
   * @param order indices of the bars as they are played, with the time through each is
   * @param tempo at the beginning; changes on the way keep their proportion to the tune's own
   */
  constructor(
    tune: Pick<Tune, 'bars' | 'meter' | 'tempo' | 'swing'>,
    order: readonly { readonly bar: number; readonly pass: number }[],
    tempo: Tempo,
  ) {
    this.swing = tune.swing;
    this.spans = barSpans(tune);
    const share = quartersPerMinute(tempo) / quartersPerMinute(tune.tempo);
    const starting = temposAtBars(tune);
    this.stretches = new Map(
      tune.bars.map((_, index) => [
        index,
        stretchesOf(tune, index, starting[index] ?? quartersPerMinute(tune.tempo), share),
      ]),
    );
    let start = 0;
    this.bars = order.map(({ bar, pass }) => {
      const seconds = this.within(bar, this.spans[bar]?.length ?? 0);
      const played = { bar, pass, start, seconds };
      start += seconds;
      return played;
    });
    this.seconds = start;
  }

  /**
   * Seconds from the beginning to a place in a played bar.
   * @param place index into `bars`; one past the last is the end
   * @param isStraight for what does not swing: tuplets, clicks on the beat need no telling
   */
  at(place: number, tick: Ticks, isStraight = false): number {
    const played = this.bars[place];
    if (!played) return this.seconds;
    return played.start + this.within(played.bar, isStraight ? tick : this.swung(played.bar, tick));
  }

  /** The played bar that sounds at a moment, and how far in it is, 0 to 1. */
  placeAt(seconds: number): { readonly place: number; readonly share: number } {
    let [low, high] = [0, this.bars.length - 1];
    while (low < high) {
      const middle = Math.ceil((low + high) / 2);
      if ((this.bars[middle]?.start ?? 0) <= seconds) low = middle;
      else high = middle - 1;
    }
    const played = this.bars[low];
    return {
      place: low,
      share: played && played.seconds > 0 ? Math.min(1, Math.max(0, (seconds - played.start) / played.seconds)) : 0,
    };
  }

  private within(bar: number, tick: Ticks): number {
    const stretch = this.stretches.get(bar)?.findLast(({ from }) => from <= tick);
    return stretch ? stretch.at + (tick - stretch.from) * stretch.secondsPerTick : 0;
  }

  /** The first half of a pair is played longer, what lies in it with it. Beats of three do not swing. */
  private swung(bar: number, tick: Ticks): Ticks {
    const span = this.spans[bar];
    if (!this.swing || !span || isCompound(span.meter)) return tick;
    const pair = this.swing.unit === 'eighth' ? TICKS_PER_QUARTER : TICKS_PER_QUARTER / 2;
    const inBar = tick + span.offset;
    const from = Math.floor(inBar / pair) * pair;
    const share = (inBar - from) / pair;
    const long = this.swing.ratio / (1 + this.swing.ratio);
    return from - span.offset + pair * (share < 0.5 ? share * 2 * long : long + (share - 0.5) * 2 * (1 - long));
  }
}

/** Quarters a minute in force at the head of each bar, as the page has it. */
function temposAtBars(tune: Pick<Tune, 'bars' | 'tempo'>): readonly number[] {
  let current = quartersPerMinute(tune.tempo);
  return tune.bars.map((bar) => {
    const here = current;
    for (const { tempo } of bar.tempos ?? []) current = quartersPerMinute(tempo);
    return here;
  });
}

function stretchesOf(tune: Pick<Tune, 'bars'>, index: number, starting: number, share: number): readonly Stretch[] {
  const bar = tune.bars[index];
  const tempos = [
    { at: 0, quarters: starting },
    ...(bar?.tempos ?? []).map(({ at, tempo }) => ({ at, quarters: quartersPerMinute(tempo) })),
  ];
  const holds: { readonly from: Ticks; readonly to: Ticks }[] = [];
  let at = 0;
  for (const event of bar?.events ?? []) {
    if (event.fermata) holds.push({ from: at, to: at + event.length });
    at += event.length;
  }
  const edges = [...new Set([...tempos.map((one) => one.at), ...holds.flatMap(({ from, to }) => [from, to])])].toSorted(
    (a, b) => a - b,
  );
  const stretches: Stretch[] = [];
  for (const from of edges) {
    const before = stretches.at(-1);
    const quarters = tempos.findLast((one) => one.at <= from)?.quarters ?? starting;
    const isHeld = holds.some((hold) => hold.from <= from && from < hold.to);
    stretches.push({
      from,
      at: before ? before.at + (from - before.from) * before.secondsPerTick : 0,
      secondsPerTick: ((isHeld ? HELD : 1) * 60) / (quarters * share * TICKS_PER_QUARTER),
    });
  }
  return stretches;
}
