import { samePitch } from '../pitch';
import { failure, success, type Result } from '../result';
import { barTicks, type Meter, printMeter, spellNoteLength, spellRestLength, type Ticks } from '../time';
import { idMaker, type IdMaker } from './identify';
import { barSpans } from './sounding';
import { barNumbers, hasPickup, hasSecondPart, isNote, type Bar, type Note, type ScoreEvent, type Tune } from './tune';

export interface RebarProblem {
  readonly code: 'meter-changes-inside' | 'mark-inside-bar' | 'tuplet-over-barline' | 'pickup-too-long';
  /** As printed, in the old barring. */
  readonly bar: number;
  readonly meter: string;
}

/** What is in the way, and what would help. */
export function rebarProblemText({ code, bar, meter }: RebarProblem): string {
  switch (code) {
    case 'meter-changes-inside':
      return `The tune changes its meter at bar ${bar}; it cannot be barred anew as one.`;
    case 'mark-inside-bar':
      return `In ${meter} the repeat or section mark at bar ${bar} would fall inside a bar.`;
    case 'tuplet-over-barline':
      return `In ${meter} a barline would cut the tuplet in bar ${bar}.`;
    case 'pickup-too-long':
      return `The pickup fills a bar of ${meter}.`;
  }
}

interface Flat {
  readonly event: ScoreEvent;
  readonly start: Ticks;
  readonly bar: number;
  /** Joined from what the old barlines had cut: its length may need spelling. */
  readonly joined?: true;
}

/**
 * The same notes with other barlines: what crosses one is tied over it, a last bar that is not full gets a rest. A
 * pickup keeps its length. `ids` is given where the bars are a stretch of more. Marks that belong to a barline must
 * find one again, otherwise the change is refused.
 */
export function rebar(tune: Tune, meter: Meter, ids: IdMaker = idMaker(tune.bars)): Result<Tune, RebarProblem> {
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
  const cutMark = tune.bars.findIndex((bar, index) => {
    const start = starts[index] ?? 0;
    return (opensAtLine(bar) && !lineAt(start)) || (closesAtLine(bar) && !lineAt(start + (spans[index]?.length ?? 0)));
  });
  if (cutMark >= 0) return refuse('mark-inside-bar', numbers[cutMark]);
  const cells = cellsOf(end, full, pickup);
  const pour = (lines: readonly (readonly ScoreEvent[])[]) =>
    pourInto(cells, flatten(lines, starts), end, meter, ids.event);
  const line = pour(tune.bars.map(({ events }) => events));
  if (!line.ok) return refuse('tuplet-over-barline', numbers[line.problem]);
  const second = hasSecondPart(tune) ? pour(tune.bars.map((bar) => bar.second ?? [])) : undefined;
  if (second && !second.ok) return refuse('tuplet-over-barline', numbers[second.problem]);
  const within = <Placed extends { readonly at: Ticks }>(
    lists: readonly (readonly Placed[])[],
    { start, length }: Cell,
  ) => placedWithin(lists, starts, start, length);
  const bars = cells.map((cell, index): Bar => {
    const opener = tune.bars[starts.indexOf(cell.start)];
    const stop = Math.min(cell.start + cell.length, end);
    const closer = tune.bars.find((_, k) => (starts[k] ?? 0) + (spans[k]?.length ?? 0) === stop);
    const tempos = within(
      tune.bars.map((bar) => bar.tempos ?? []),
      cell,
    );
    return {
      id: opener?.id ?? ids.bar(),
      events: line.value[index] ?? [],
      chords: within(
        tune.bars.map(({ chords }) => chords),
        cell,
      ),
      ...(cell.length < full && { partial: cell.length }),
      ...marksOfBar(opener, closer),
      ...(tempos.length > 0 && { tempos }),
      ...(second && { second: second.value[index] ?? [] }),
    };
  });
  return success({ ...tune, meter, bars });
}

function opensAtLine({ repeatStart, ending, section, key, jumps }: Bar): boolean {
  return Boolean(repeatStart || ending || section || key || jumps);
}

function closesAtLine({ repeatEnd, endingStops, barline }: Bar): boolean {
  return repeatEnd !== undefined || endingStops === true || barline !== undefined;
}

/** The new bars of a line, a pickup first. */
function cellsOf(end: Ticks, full: Ticks, pickup: Ticks): readonly Cell[] {
  const cells: Cell[] = [];
  for (let start = 0; start < end;) {
    const length = start === 0 && pickup > 0 ? pickup : full;
    cells.push({ start, length, offset: full - length });
    start += length;
  }
  return cells;
}

/** Where a new bar lies, and how much of a full bar stands before it. */
interface Cell {
  readonly start: Ticks;
  readonly length: Ticks;
  readonly offset: Ticks;
}

/** The events one after the other; a plain note that an old barline cut is one again. */
function flatten(lines: readonly (readonly ScoreEvent[])[], starts: readonly Ticks[]): readonly Flat[] {
  const flat: Flat[] = [];
  lines.forEach((events, index) => {
    let at = starts[index] ?? 0;
    events.forEach((event, k) => {
      const before = flat.at(-1);
      const whole = k === 0 && before ? joined(before.event, event) : undefined;
      if (before && whole) flat[flat.length - 1] = { ...before, event: whole, joined: true };
      else flat.push({ event, start: at, bar: index });
      at += event.length;
    });
  });
  return flat;
}

/** The marks a note has at its onset: a tied continuation that carries one is left as it stands. */
const ONSET_MARKS = [
  'graces',
  'articulations',
  'ornaments',
  'dynamic',
  'hairpin',
  'slurStarts',
  'lyrics',
  'phrase',
] as const;

function joined(before: ScoreEvent, after: ScoreEvent): Note | undefined {
  if (
    !isNote(before) ||
    !isNote(after) ||
    !before.tied ||
    before.tuplet ||
    after.tuplet ||
    !samePitch(before.pitch, after.pitch)
  )
    return undefined;
  if (
    ONSET_MARKS.some((mark) => after[mark] !== undefined) ||
    before.slurEnds ||
    before.hairpinEnds ||
    before.fermata ||
    before.optional !== after.optional
  )
    return undefined;
  const { tied: _, ...note } = before;
  const { tied, slurEnds, fermata, hairpinEnds } = after;
  return {
    ...note,
    length: before.length + after.length,
    ...(tied && { tied }),
    ...(slurEnds && { slurEnds }),
    ...(fermata && { fermata }),
    ...(hairpinEnds && { hairpinEnds }),
  };
}

/** Cuts a line into bars; fails with the index of the old bar whose tuplet would be cut. */
function pourInto(
  cells: readonly Cell[],
  flat: readonly Flat[],
  end: Ticks,
  meter: Meter,
  freshId: () => string,
): Result<readonly (readonly ScoreEvent[])[], number> {
  let cursor = 0;
  const bars: ScoreEvent[][] = [];
  for (const { start, length, offset } of cells) {
    const events: ScoreEvent[] = [];
    for (; cursor < flat.length && (flat[cursor]?.start ?? end) < start + length; cursor += 1) {
      const placed = flat[cursor];
      if (!placed) break;
      const { event } = placed;
      const until = placed.start + event.length;
      const [from, to] = [Math.max(placed.start, start), Math.min(until, start + length)];
      if (event.tuplet && (from !== placed.start || to !== until)) return failure(placed.bar);
      events.push(
        ...pieces(
          event,
          {
            from: from - start + offset,
            length: to - from,
            isStart: from === placed.start,
            isEnd: to === until,
            joined: placed.joined === true,
          },
          meter,
          freshId,
        ),
      );
      if (until > start + length) break;
    }
    const held = events.reduce((sum, event) => sum + event.length, 0);
    if (held < length)
      events.push(
        ...spellRestLength(offset + held, length - held, meter).map((piece): ScoreEvent => ({
          kind: 'rest',
          id: freshId(),
          length: piece,
        })),
      );
    bars.push(events);
  }
  return success(bars);
}

function pieces(
  event: ScoreEvent,
  part: {
    readonly from: Ticks;
    readonly length: Ticks;
    readonly isStart: boolean;
    readonly isEnd: boolean;
    readonly joined: boolean;
  },
  meter: Meter,
  freshId: () => string,
): readonly ScoreEvent[] {
  if (part.isStart && part.isEnd && !part.joined) return [event];
  const lengths = isNote(event)
    ? spellNoteLength(part.from, part.length, meter)
    : spellRestLength(part.from, part.length, meter);
  return lengths.map((length, k): ScoreEvent => {
    const isFirst = part.isStart && k === 0;
    const isLast = part.isEnd && k === lengths.length - 1;
    const id = isFirst ? event.id : freshId();
    if (!isNote(event)) return { kind: 'rest', id, length, ...(event.optional && { optional: event.optional }) };
    const { tied, slurEnds, fermata, hairpinEnds, ...onset } = event;
    const kept = isFirst
      ? onset
      : { kind: event.kind, pitch: event.pitch, ...(event.optional && { optional: event.optional }) };
    const open = isLast ? tied : true;
    return {
      ...kept,
      kind: 'note',
      id,
      length,
      ...(open && { tied: open }),
      ...(isLast && slurEnds && { slurEnds }),
      ...(isLast && fermata && { fermata }),
      ...(isLast && hairpinEnds && { hairpinEnds }),
    };
  });
}

/** What was placed in the old bars, at its place in the new one. */
function placedWithin<Placed extends { readonly at: Ticks }>(
  lists: readonly (readonly Placed[])[],
  starts: readonly Ticks[],
  start: Ticks,
  length: Ticks,
): readonly Placed[] {
  return lists
    .flatMap((list, index) => list.map((one) => ({ ...one, at: (starts[index] ?? 0) + one.at - start })))
    .filter(({ at }) => at >= 0 && at < length);
}

function marksOfBar(opener: Bar | undefined, closer: Bar | undefined): Partial<Bar> {
  return {
    ...(opener?.key && { key: opener.key }),
    ...(opener?.repeatStart && { repeatStart: true as const }),
    ...(opener?.ending && { ending: opener.ending }),
    ...(opener?.section && { section: opener.section }),
    ...(opener?.jumps && { jumps: opener.jumps }),
    ...(closer?.repeatEnd !== undefined && { repeatEnd: closer.repeatEnd }),
    ...(closer?.endingStops && { endingStops: true as const }),
    ...(closer?.barline && { barline: closer.barline }),
  };
}
