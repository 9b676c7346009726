import type { ChordSymbol } from '../harmony';
import type { Key, Pitch } from '../pitch';
import {
  type Balanced,
  type Bar,
  barLength,
  barNumbers,
  barOffset,
  type GraceNote,
  idMaker,
  type IdMaker,
  type Jump,
  metersOf,
  type Note,
  type PlacedTempo,
  type Rest,
  type ScoreEvent,
  secondPartBars,
  withPairedHairpins,
  withPairedSlurs,
  withTrueTies,
} from '../score';
import {
  barTicks,
  type Meter,
  notatedTicks,
  printMeter,
  quartersText,
  spellNoteLength,
  spellRestLength,
  type Ticks,
  type Tuplet,
  valueOfTicks,
} from '../time';
import type { FormatProblem, Place } from './problem';

/** An event as a reader found it: no id yet, and its length may need several printed values. */
export interface RawEvent {
  readonly pitch?: Pitch;
  readonly length: Ticks;
  readonly tuplet?: Tuplet;
  readonly tied?: boolean;
  readonly graces?: readonly GraceNote[];
  readonly marks?: Partial<
    Pick<
      Note,
      | 'articulations'
      | 'ornaments'
      | 'fermata'
      | 'dynamic'
      | 'slurStarts'
      | 'slurEnds'
      | 'lyrics'
      | 'hairpin'
      | 'hairpinEnds'
      | 'phrase'
    >
  > & { readonly optional?: true };
}

/** A bar as a reader found it, which may not add up. */
export interface RawBar {
  readonly events: readonly RawEvent[];
  readonly chords: readonly { readonly at: Ticks; readonly symbol: ChordSymbol }[];
  readonly place: Place;
  readonly meter?: Meter;
  readonly key?: Key;
  readonly repeatStart?: boolean;
  readonly repeatEnd?: number;
  readonly ending?: readonly number[];
  readonly endingStops?: boolean;
  readonly barline?: 'double' | 'final';
  readonly section?: string;
  readonly jumps?: readonly Jump[];
  readonly tempos?: readonly PlacedTempo[];
  /** The file itself says that this bar is not a full one. */
  readonly declaredPartial?: boolean;
}

export interface Assembled {
  readonly bars: readonly Bar[];
  readonly warnings: readonly FormatProblem[];
  readonly problems: readonly FormatProblem[];
}

/**
 * Makes whole bars of what a reader found. A short first bar is a pickup; a bar cut by a repeat or double bar stays
 * short; any other short bar is filled with rests and named; one that is too long is a problem.
 */
export function assembleBars(raw: readonly RawBar[], firstMeter: Meter): Assembled {
  const ids = idMaker();
  const warnings: FormatProblem[] = [];
  const problems: FormatProblem[] = [];
  const whereToSay: { readonly index: number; readonly say: (bar: number) => void }[] = [];
  let meter = firstMeter;
  let sectionPickup: Ticks = 0;
  const bars = raw.map((bar, index): Bar => {
    meter = bar.meter ?? meter;
    const here = meter;
    const full = barTicks(here);
    const held = bar.events.reduce((sum, event) => sum + event.length, 0);
    const opensSection = index === 0 || opens(raw[index - 1], bar);
    const completesPickup = index === raw.length - 1 && held + sectionPickup === full;
    const mayBeShort = opensSection || closes(bar, raw[index + 1]) || bar.declaredPartial === true || completesPickup;
    if (opensSection && held < full) sectionPickup = held;
    const partial = held > 0 && held < full && mayBeShort ? held : undefined;
    const offset = partial !== undefined && opensSection ? full - partial : 0;
    const lacks = partial === undefined ? Math.max(0, full - held) : 0;
    if (held > full || (lacks > 0 && held > 0))
      whereToSay.push({
        index,
        say: (number) => (held > full ? problems : warnings).push(lengthProblem(bar, number, held, here)),
      });
    const events = printable(bar, offset, here, ids, problems);
    const filled = lacks > 0 ? [...events, ...restsOrProblem(bar, held, lacks, here, ids, problems)] : events;
    return assembledBar(bar, ids.bar(), { events: filled, isFirst: index === 0, partial, end: Math.max(held, full) });
  });
  const numbers = barNumbers({ bars, meter: firstMeter });
  whereToSay.forEach(({ index, say }) => say(numbers[index] ?? index + 1));
  return { bars: closeEndings(balanced(bars, numbers, warnings)), warnings, problems };
}

/** A bar that holds more or less than its meter. */
function lengthProblem({ place }: RawBar, number: number, held: Ticks, meter: Meter): FormatProblem {
  const full = barTicks(meter);
  return held > full
    ? {
        code: 'bar-too-long',
        place: { ...place, bar: number },
        found: `${quartersText(held)} quarters`,
        right: `${printMeter(meter)} has room for ${quartersText(full)}`,
      }
    : {
        code: 'bar-too-short',
        place: { ...place, bar: number },
        found: `${quartersText(held)} of ${quartersText(full)} quarters`,
        right: 'it was filled up with a rest',
      };
}

function assembledBar(
  raw: RawBar,
  id: string,
  {
    events,
    isFirst,
    partial,
    end,
  }: {
    readonly events: readonly ScoreEvent[];
    readonly isFirst: boolean;
    readonly partial: Ticks | undefined;
    readonly end: Ticks;
  },
): Bar {
  return {
    id,
    events,
    chords: raw.chords.filter(({ at }) => at < end).toSorted((a, b) => a.at - b.at),
    // The first bar takes the tune's meter and key.
    ...(!isFirst && raw.meter && { meter: raw.meter }),
    ...(!isFirst && raw.key && { key: raw.key }),
    ...(partial !== undefined && { partial }),
    ...lineMarks(raw),
    ...placedTempos(raw.tempos, end),
  };
}

/** Repeats, endings, barlines, sections and jumps, where there are any. */
function lineMarks({ repeatStart, repeatEnd, ending, endingStops, barline, section, jumps }: RawBar): Partial<Bar> {
  return {
    ...(repeatStart && { repeatStart: true as const }),
    ...(repeatEnd !== undefined && { repeatEnd }),
    ...(ending && { ending }),
    ...(endingStops && { endingStops: true as const }),
    ...(barline && { barline }),
    ...(section && { section }),
    ...(jumps && jumps.length > 0 && { jumps }),
  };
}

function placedTempos(tempos: readonly PlacedTempo[] | undefined, end: Ticks): Pick<Bar, 'tempos'> {
  const inside = (tempos ?? []).filter(({ at }) => at < end).toSorted((a, b) => a.at - b.at);
  return inside.length > 0 ? { tempos: inside } : {};
}

/** The bar after a repeat or double bar, or one with a repeat of its own, may begin with a pickup. */
function opens(before: RawBar | undefined, bar: RawBar): boolean {
  return (
    bar.repeatStart === true ||
    before?.repeatEnd !== undefined ||
    before?.barline !== undefined ||
    bar.ending !== undefined
  );
}

function closes(bar: RawBar, after: RawBar | undefined): boolean {
  return (
    bar.repeatEnd !== undefined ||
    bar.barline === 'double' ||
    after?.repeatStart === true ||
    (bar.ending !== undefined && bar.barline !== undefined)
  );
}

function printable(
  bar: RawBar,
  offset: Ticks,
  meter: Meter,
  ids: IdMaker,
  problems: FormatProblem[],
): readonly ScoreEvent[] {
  let start = offset;
  const events: ScoreEvent[] = [];
  for (const raw of bar.events) {
    const at = start;
    start += raw.length;
    if (Number.isInteger(raw.length) && valueOfTicks(notatedTicks(raw.length, raw.tuplet))) {
      events.push(eventOf(raw, raw.length, ids, true, true));
      continue;
    }
    if (raw.tuplet || !isOnGrid(raw.length) || !isOnGrid(at)) {
      problems.push({
        code: 'unreadable-length',
        place: bar.place,
        found: `${quartersText(raw.length)} quarters`,
        right: 'use lengths down to a 128th and tuplets that are complete; groups of 2 to 10 and 14 are held exactly',
      });
      continue;
    }
    const pieces = raw.pitch ? spellNoteLength(at, raw.length, meter) : spellRestLength(at, raw.length, meter);
    pieces.forEach((piece, k) => events.push(eventOf(raw, piece, ids, k === 0, k === pieces.length - 1)));
  }
  return events;
}

/** A 128th: what stands outside tuplets begins and ends on multiples of it. */
const SHORTEST: Ticks = 315;

function isOnGrid(ticks: Ticks): boolean {
  return ticks % SHORTEST === 0;
}

function restsOrProblem(
  bar: RawBar,
  start: Ticks,
  length: Ticks,
  meter: Meter,
  ids: IdMaker,
  problems: FormatProblem[],
): readonly Rest[] {
  if (isOnGrid(start) && isOnGrid(length)) return restsFor(start, length, meter, ids);
  problems.push({
    code: 'unreadable-length',
    place: bar.place,
    found: `${quartersText(length)} quarters left over`,
    right: 'a tuplet of this bar is not complete; give it all of its notes',
  });
  return [];
}

function eventOf(raw: RawEvent, length: Ticks, ids: IdMaker, first: boolean, last: boolean): ScoreEvent {
  if (first && last && raw.pitch && !raw.marks && !raw.tuplet && !raw.tied && !raw.graces)
    return { kind: 'note', id: ids.event(), length, pitch: raw.pitch };
  const { slurEnds, fermata, hairpinEnds, optional, ...onset } = raw.marks ?? {};
  const timed = { id: ids.event(), length, ...(raw.tuplet && { tuplet: raw.tuplet }), ...(optional && { optional }) };
  if (!raw.pitch) return { kind: 'rest', ...timed, ...(fermata && last && { fermata }) };
  const graces = first && raw.graces && raw.graces.length > 0 && { graces: raw.graces };
  // What begins with a note stands on its first piece, what ends with it on its last.
  const ending = { ...(fermata && { fermata }), ...(slurEnds && { slurEnds }), ...(hairpinEnds && { hairpinEnds }) };
  return {
    kind: 'note',
    ...timed,
    pitch: raw.pitch,
    ...((!last || raw.tied) && { tied: true as const }),
    ...graces,
    ...(first && onset),
    ...(last && ending),
  };
}

/** Rests that fill a span of a bar. */
function restsFor(start: Ticks, length: Ticks, meter: Meter, ids: IdMaker): readonly Rest[] {
  return spellRestLength(start, length, meter).map((piece) => ({ kind: 'rest', id: ids.event(), length: piece }));
}

/** Ties, slurs and hairpins with both ends; each one taken off is told. */
function balanced(bars: readonly Bar[], numbers: readonly number[], warnings: FormatProblem[]): readonly Bar[] {
  const tell = (code: FormatProblem['code'], { bars: kept, lost }: Balanced) => {
    for (const index of lost)
      warnings.push({ code, place: { bar: numbers[index] ?? index }, right: 'it was left out' });
    return kept;
  };
  return tell(
    'hairpin-dropped',
    withPairedHairpins(tell('slur-dropped', withPairedSlurs(tell('tie-dropped', withTrueTies(bars))))),
  );
}

/**
 * Closes endings that the file leaves open: at a repeat or thick line, before the next ending, repeat or section,
 * or, for the last one, after as many bars as the first ending had.
 */
function closeEndings(bars: readonly Bar[]): readonly Bar[] {
  if (!bars.some((bar) => bar.ending)) return bars;
  const stops = new Set<number>();
  let firstLength = 1;
  bars.forEach((bar, index) => {
    if (!bar.ending) return;
    const isLine = (other: Bar) => other.endingStops || other.repeatEnd !== undefined || other.barline !== undefined;
    const line = bars.findIndex((other, k) => k >= index && isLine(other));
    const next = bars.findIndex(
      (other, k) => k > index && (other.ending !== undefined || other.repeatStart || other.section),
    );
    const candidates = [line, next - 1].filter((k) => k >= index);
    const stop = candidates.length > 0 ? Math.min(...candidates) : Math.min(bars.length, index + firstLength) - 1;
    if (bar.ending.includes(1)) firstLength = stop - index + 1;
    stops.add(stop);
  });
  return bars.map((bar, index) =>
    stops.has(index) === (bar.endingStops === true) ? bar : withEndingStop(bar, stops.has(index)),
  );
}

function withEndingStop(bar: Bar, stops: boolean): Bar {
  const { endingStops: _, ...rest } = bar;
  return stops ? { ...rest, endingStops: true } : rest;
}

/**
 * Lays a second part under bars that are already whole: short bars are filled with rests, bars it does not have are
 * silent. One that holds more than the melody's bar is a problem.
 */
export function withSecondPart(bars: readonly Bar[], raw: readonly RawBar[], firstMeter: Meter): Assembled {
  const ids = idMaker(bars);
  const warnings: FormatProblem[] = [];
  const problems: FormatProblem[] = [];
  const tune = { bars, meter: firstMeter };
  const meters = metersOf(tune);
  const numbers = barNumbers(tune);
  const both = bars.map((bar, index): Bar => {
    const meter = meters[index] ?? firstMeter;
    const expected = barLength(bar, meter);
    const offset = barOffset(tune, index, meter);
    const found = withFreshTuplets(raw[index] ?? { events: [], chords: [], place: {} }, ids);
    const held = found.events.reduce((sum, event) => sum + event.length, 0);
    if (held > expected) {
      problems.push({
        code: 'bar-too-long',
        place: { ...found.place, bar: numbers[index] ?? index },
        found: `${quartersText(held)} quarters in the second part`,
        right: `the melody has ${quartersText(expected)} there`,
      });
    }
    const events = printable(found, offset, meter, ids, problems);
    return {
      ...bar,
      second:
        held < expected
          ? [...events, ...restsOrProblem(found, offset + held, expected - held, meter, ids, problems)]
          : events,
    };
  });
  const line = balanced(secondPartBars(both), numbers, warnings);
  return { bars: both.map((bar, index) => ({ ...bar, second: line[index]?.events ?? [] })), warnings, problems };
}

/** Readers count tuplets from one in each line; in the document their ids are told apart. */
function withFreshTuplets(bar: RawBar, ids: IdMaker): RawBar {
  if (!bar.events.some(({ tuplet }) => tuplet)) return bar;
  const fresh = new Map<string, Tuplet>();
  const renamed = (tuplet: Tuplet): Tuplet => {
    const known = fresh.get(tuplet.id);
    if (known) return known;
    const outer = tuplet.outer && renamed(tuplet.outer);
    const made: Tuplet = { id: ids.tuplet(), actual: tuplet.actual, normal: tuplet.normal, ...(outer && { outer }) };
    fresh.set(tuplet.id, made);
    return made;
  };
  return {
    ...bar,
    events: bar.events.map((event) => (event.tuplet ? { ...event, tuplet: renamed(event.tuplet) } : event)),
  };
}
