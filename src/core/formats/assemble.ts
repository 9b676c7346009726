import type { ChordSymbol } from '../harmony/chordSymbol';
import type { Key } from '../pitch/key';
import { semitones, type Pitch } from '../pitch/pitch';
import { idMaker, type IdMaker } from '../score/identify';
import { barNumbers, type Bar, type GraceNote, type Jump, type Note, type Rest, type ScoreEvent } from '../score/tune';
import { barTicks, printMeter, type Meter } from '../time/meter';
import { notatedTicks, valueOfTicks, type Tuplet } from '../time/noteValue';
import { spellNoteLength, spellRestLength } from '../time/spellLength';
import { quartersText, type Ticks } from '../time/ticks';
import type { FormatProblem, Place } from './problem';

/** An event as a reader found it: no id yet, and its length may need several printed values. */
export interface RawEvent {
  readonly pitch?: Pitch;
  readonly length: Ticks;
  readonly tuplet?: Tuplet;
  readonly tied?: boolean;
  readonly graces?: readonly GraceNote[];
  readonly marks?: Partial<Pick<Note, 'articulations' | 'ornaments' | 'fermata' | 'dynamic' | 'slurStarts' | 'slurEnds' | 'lyric'>>;
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
  /** The file itself says that this bar is not a full one. */
  readonly declaredPartial?: boolean;
}

export interface Assembled {
  readonly bars: readonly Bar[];
  readonly warnings: readonly FormatProblem[];
  readonly problems: readonly FormatProblem[];
}

/**
 * Makes whole bars of what a reader found. A short first bar is a pickup; a bar cut by a repeat or double bar stays short;
 * any other short bar is filled with rests and named; one that is too long is a problem.
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
    const mayBeShort = opensSection || closes(bar, raw[index + 1]) || bar.declaredPartial === true
      || (index === raw.length - 1 && held + sectionPickup === full);
    if (opensSection && held < full) sectionPickup = held;
    if (held > full) {
      whereToSay.push({ index, say: (number) => problems.push({
        code: 'bar-too-long', place: { ...bar.place, bar: number },
        found: `${quartersText(held)} quarters`, right: `${printMeter(here)} has room for ${quartersText(full)}`,
      }) });
    }
    const short = held < full;
    const partial = short && mayBeShort && held > 0 ? held : undefined;
    if (short && partial === undefined && held > 0) {
      whereToSay.push({ index, say: (number) => warnings.push({
        code: 'bar-too-short', place: { ...bar.place, bar: number },
        found: `${quartersText(held)} of ${quartersText(full)} quarters`, right: 'it was filled up with a rest',
      }) });
    }
    const offset = partial !== undefined && opensSection ? full - partial : 0;
    const events = printable(bar, offset, here, ids, problems);
    const filled = short && partial === undefined ? [...events, ...restsFor(held, full - held, here, ids)] : events;
    return {
      id: ids.bar(),
      events: filled,
      chords: bar.chords.filter(({ at }) => at < Math.max(held, full)).toSorted((a, b) => a.at - b.at),
      ...(bar.meter && index > 0 && { meter: bar.meter }),
      ...(bar.key && index > 0 && { key: bar.key }),
      ...(partial !== undefined && { partial }),
      ...(bar.repeatStart && { repeatStart: true as const }),
      ...(bar.repeatEnd !== undefined && { repeatEnd: bar.repeatEnd }),
      ...(bar.ending && { ending: bar.ending }),
      ...(bar.endingStops && { endingStops: true as const }),
      ...(bar.barline && { barline: bar.barline }),
      ...(bar.section && { section: bar.section }),
      ...(bar.jumps && bar.jumps.length > 0 && { jumps: bar.jumps }),
    };
  });
  const numbers = barNumbers({ bars, meter: firstMeter });
  whereToSay.forEach(({ index, say }) => say(numbers[index] ?? index + 1));
  const tied = sureTies(bars, numbers, warnings);
  return { bars: closeEndings(sureSlurs(tied, numbers, warnings)), warnings, problems };
}

/** The bar after a repeat or double bar, or one with a repeat of its own, may begin with a pickup. */
function opens(before: RawBar | undefined, bar: RawBar): boolean {
  return bar.repeatStart === true || before?.repeatEnd !== undefined || before?.barline !== undefined || bar.ending !== undefined;
}

function closes(bar: RawBar, after: RawBar | undefined): boolean {
  return bar.repeatEnd !== undefined || bar.barline === 'double' || after?.repeatStart === true || (bar.ending !== undefined && bar.barline !== undefined);
}

function printable(bar: RawBar, offset: Ticks, meter: Meter, ids: IdMaker, problems: FormatProblem[]): readonly ScoreEvent[] {
  let start = offset;
  return bar.events.flatMap((raw): readonly ScoreEvent[] => {
    const at = start;
    start += raw.length;
    if (valueOfTicks(notatedTicks(raw.length, raw.tuplet))) return [eventOf(raw, raw.length, ids, true, true)];
    if (raw.tuplet || raw.length % 315 !== 0) {
      problems.push({ code: 'unreadable-length', place: bar.place, found: `${quartersText(raw.length)} quarters`, right: 'use a length down to a 128th that one note can show' });
      return [];
    }
    const pieces = raw.pitch ? spellNoteLength(at, raw.length, meter) : spellRestLength(at, raw.length, meter);
    return pieces.map((piece, k) => eventOf(raw, piece, ids, k === 0, k === pieces.length - 1));
  });
}

function eventOf(raw: RawEvent, length: Ticks, ids: IdMaker, first: boolean, last: boolean): ScoreEvent {
  const timed = { id: ids.event(), length, ...(raw.tuplet && { tuplet: raw.tuplet }) };
  if (!raw.pitch) {
    const rest: Rest = { kind: 'rest', ...timed, ...(raw.marks?.fermata && last && { fermata: true as const }) };
    return rest;
  }
  const { slurEnds, fermata, lyric, ...onset } = raw.marks ?? {};
  return {
    kind: 'note', ...timed, pitch: raw.pitch,
    ...((!last || raw.tied) && { tied: true as const }),
    ...(first && raw.graces && raw.graces.length > 0 && { graces: raw.graces }),
    ...(first && onset),
    ...(first && lyric && { lyric }),
    ...(last && fermata && { fermata }),
    ...(last && slurEnds && { slurEnds }),
  };
}

/** Rests that fill a span of a bar. */
export function restsFor(start: Ticks, length: Ticks, meter: Meter, ids: IdMaker): readonly Rest[] {
  return spellRestLength(start, length, meter).map((piece) => ({ kind: 'rest', id: ids.event(), length: piece }));
}

/** Takes off ties that lead to another pitch or nowhere, and says so. */
function sureTies(bars: readonly Bar[], numbers: readonly number[], warnings: FormatProblem[]): readonly Bar[] {
  const all = bars.flatMap((bar) => bar.events);
  let place = -1;
  return bars.map((bar, index) => ({
    ...bar,
    events: bar.events.map((event) => {
      place += 1;
      if (event.kind !== 'note' || !event.tied) return event;
      const next = all[place + 1];
      if (next?.kind === 'note' && semitones(next.pitch) === semitones(event.pitch)) return event;
      warnings.push({ code: 'tie-dropped', place: { bar: numbers[index] ?? index }, right: 'it was left out' });
      const { tied: _, ...untied } = event;
      return untied;
    }),
  }));
}

/** Takes off slur ends without a beginning and beginnings without an end, and says so. */
function sureSlurs(bars: readonly Bar[], numbers: readonly number[], warnings: FormatProblem[]): readonly Bar[] {
  const open: string[] = [];
  const lostEnds = new Map<string, number>();
  const where = new Map<string, number>();
  bars.forEach((bar, index) => bar.events.forEach((event) => {
    if (event.kind !== 'note') return;
    where.set(event.id, numbers[index] ?? index);
    for (let k = 0; k < (event.slurEnds ?? 0); k += 1) {
      if (open.pop() === undefined) lostEnds.set(event.id, (lostEnds.get(event.id) ?? 0) + 1);
    }
    for (let k = 0; k < (event.slurStarts ?? 0); k += 1) open.push(event.id);
  }));
  if (open.length === 0 && lostEnds.size === 0) return bars;
  for (const id of [...lostEnds.keys(), ...open]) warnings.push({ code: 'slur-dropped', place: { bar: where.get(id) ?? 0 }, right: 'it was left out' });
  return bars.map((bar) => ({
    ...bar,
    events: bar.events.map((event) => {
      if (event.kind !== 'note') return event;
      const { slurStarts = 0, slurEnds = 0, ...plain } = event;
      const starts = slurStarts - open.filter((id) => id === event.id).length;
      const ends = slurEnds - (lostEnds.get(event.id) ?? 0);
      return { ...plain, ...(starts > 0 && { slurStarts: starts }), ...(ends > 0 && { slurEnds: ends }) };
    }),
  }));
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
    const next = bars.findIndex((other, k) => k > index && (other.ending !== undefined || other.repeatStart || other.section));
    const candidates = [line, next - 1].filter((k) => k >= index);
    const stop = candidates.length > 0 ? Math.min(...candidates) : Math.min(bars.length, index + firstLength) - 1;
    if (bar.ending.includes(1)) firstLength = stop - index + 1;
    stops.add(stop);
  });
  return bars.map((bar, index) => (stops.has(index) === (bar.endingStops === true) ? bar : withEndingStop(bar, stops.has(index))));
}

function withEndingStop(bar: Bar, stops: boolean): Bar {
  const { endingStops: _, ...rest } = bar;
  return stops ? { ...rest, endingStops: true } : rest;
}
