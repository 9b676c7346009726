import { failure, success, type Result } from '../result';
import { barTicks, printMeter, type Meter } from '../time/meter';
import { spellNoteLength, spellRestLength } from '../time/spellLength';
import type { Ticks } from '../time/ticks';
import { idMaker } from './identify';
import { barSpans } from './sounding';
import { barNumbers, hasPickup, isNote, type Bar, type PlacedChord, type ScoreEvent, type Tune } from './tune';

export interface RebarProblem {
  readonly code: 'meter-changes-inside' | 'mark-inside-bar' | 'tuplet-over-barline' | 'pickup-too-long';
  /** As printed, in the old barring. */
  readonly bar: number;
  readonly meter: string;
}

/** What is in the way, and what would help. */
export function rebarProblemText({ code, bar, meter }: RebarProblem): string {
  switch (code) {
    case 'meter-changes-inside': return `The tune changes its meter at bar ${bar}; it cannot be barred anew as one.`;
    case 'mark-inside-bar': return `In ${meter} the repeat or section mark at bar ${bar} would fall inside a bar.`;
    case 'tuplet-over-barline': return `In ${meter} a barline would cut the tuplet in bar ${bar}.`;
    case 'pickup-too-long': return `The pickup fills a bar of ${meter}.`;
  }
}

interface Flat {
  readonly event: ScoreEvent;
  readonly start: Ticks;
  readonly bar: number;
}

/**
 * The same notes with other barlines: what crosses one is tied over it, a last bar that is not full gets a rest.
 * A pickup keeps its length. Marks that belong to a barline must find one again, otherwise the change is refused.
 */
export function rebar(tune: Tune, meter: Meter): Result<Tune, RebarProblem> {
  const refuse = (code: RebarProblem['code'], bar = 1) => failure({ code, bar, meter: printMeter(meter) });
  const numbers = barNumbers(tune);
  const changing = tune.bars.findIndex((bar, index) => index > 0 && bar.meter);
  if (changing >= 0) return refuse('meter-changes-inside', numbers[changing]);
  const full = barTicks(meter);
  const pickup = hasPickup(tune) ? (tune.bars[0]?.partial ?? 0) : 0;
  if (pickup >= full) return refuse('pickup-too-long', 0);
  if (barTicks(tune.meter) === full) return success({ ...tune, meter });
  const spans = barSpans(tune);
  const starts = spans.map(({ start }) => start);
  const end = spans.reduce((sum, { length }) => sum + length, 0);
  const lineAt = (tick: Ticks) => tick === 0 || tick === end || (tick >= pickup && (tick - pickup) % full === 0);
  for (const [index, bar] of tune.bars.entries()) {
    const start = starts[index] ?? 0;
    const close = start + (spans[index]?.length ?? 0);
    const opens = bar.repeatStart || bar.ending || bar.section || bar.key || bar.jumps;
    const closes = bar.repeatEnd !== undefined || bar.endingStops || bar.barline;
    if ((opens && !lineAt(start)) || (closes && !lineAt(close))) return refuse('mark-inside-bar', numbers[index]);
  }
  const flat: readonly Flat[] = tune.bars.flatMap((bar, index) => {
    let at = starts[index] ?? 0;
    return bar.events.map((event) => {
      const placed = { event, start: at, bar: index };
      at += event.length;
      return placed;
    });
  });
  const ids = idMaker(tune.bars);
  const bars: Bar[] = [];
  let cursor = 0;
  for (let start = 0; start < end;) {
    const length = start === 0 && pickup > 0 ? pickup : full;
    const events: ScoreEvent[] = [];
    const offset = full - length;
    for (; cursor < flat.length && (flat[cursor]?.start ?? end) < start + length; cursor += 1) {
      const placed = flat[cursor];
      if (!placed) break;
      const { event } = placed;
      const until = placed.start + event.length;
      const [from, to] = [Math.max(placed.start, start), Math.min(until, start + length)];
      if (event.tuplet && (from !== placed.start || to !== until)) return refuse('tuplet-over-barline', numbers[placed.bar]);
      events.push(...pieces(event, { from: from - start + offset, length: to - from, isStart: from === placed.start, isEnd: to === until }, meter, ids.event));
      if (until > start + length) break;
    }
    const held = events.reduce((sum, event) => sum + event.length, 0);
    if (held < length) events.push(...spellRestLength(offset + held, length - held, meter).map((piece): ScoreEvent => ({ kind: 'rest', id: ids.event(), length: piece })));
    const opener = tune.bars[starts.indexOf(start)];
    const closer = tune.bars.find((_, index) => (starts[index] ?? 0) + (spans[index]?.length ?? 0) === Math.min(start + length, end));
    bars.push({
      id: opener?.id ?? ids.bar(), events, chords: chordsWithin(tune, starts, start, length),
      ...(length < full && { partial: length }),
      ...marksOfBar(opener, closer),
    });
    start += length;
  }
  return success({ ...tune, meter, bars });
}

function pieces(event: ScoreEvent, part: { readonly from: Ticks; readonly length: Ticks; readonly isStart: boolean; readonly isEnd: boolean }, meter: Meter, freshId: () => string): readonly ScoreEvent[] {
  if (part.isStart && part.isEnd) return [event];
  const lengths = isNote(event) ? spellNoteLength(part.from, part.length, meter) : spellRestLength(part.from, part.length, meter);
  return lengths.map((length, k): ScoreEvent => {
    const isFirst = part.isStart && k === 0;
    const isLast = part.isEnd && k === lengths.length - 1;
    const id = isFirst ? event.id : freshId();
    if (!isNote(event)) return { kind: 'rest', id, length };
    const { tied, slurEnds, fermata, ...onset } = event;
    const kept = isFirst ? onset : { kind: event.kind, pitch: event.pitch };
    const open = isLast ? tied : true;
    return { ...kept, kind: 'note', id, length, ...(open && { tied: open }), ...(isLast && slurEnds && { slurEnds }), ...(isLast && fermata && { fermata }) };
  });
}

function chordsWithin(tune: Tune, starts: readonly Ticks[], start: Ticks, length: Ticks): readonly PlacedChord[] {
  return tune.bars.flatMap((bar, index) => bar.chords.map((chord) => ({ ...chord, at: (starts[index] ?? 0) + chord.at - start })))
    .filter(({ at }) => at >= 0 && at < length);
}

function marksOfBar(opener: Bar | undefined, closer: Bar | undefined): Partial<Bar> {
  return {
    ...(opener?.key && { key: opener.key }), ...(opener?.repeatStart && { repeatStart: true as const }), ...(opener?.ending && { ending: opener.ending }),
    ...(opener?.section && { section: opener.section }), ...(opener?.jumps && { jumps: opener.jumps }),
    ...(closer?.repeatEnd !== undefined && { repeatEnd: closer.repeatEnd }), ...(closer?.endingStops && { endingStops: true as const }),
    ...(closer?.barline && { barline: closer.barline }),
  };
}
