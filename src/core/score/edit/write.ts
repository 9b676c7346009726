import { namePitchClass, type Pitch } from '../../pitch';
import {
  barTicks,
  beatNumberAt,
  type Meter,
  nameValue,
  notatedTicks,
  plainValues,
  printMeter,
  soundingTicks,
  spellNoteLength,
  spellRestLength,
  type Ticks,
  type Tuplet,
  valueOfTicks,
} from '../../time';
import { idMaker, type IdMaker } from '../identify';
import { asPieces } from '../splitNote';
import {
  barNumbers,
  barOffset,
  hasSecondPart,
  isNote,
  metersOf,
  type Bar,
  type Note,
  type Rest,
  type ScoreEvent,
  type Tune,
} from '../tune';
import { edited, refused, type EditResult } from './edited';
import { eventAt, lengthOfBar, settled, type Caret } from './place';

/** What is laid over the line: a note (with the marks of `like`, if given) or a rest. */
export interface Content {
  readonly pitch?: Pitch;
  readonly length: Ticks;
  readonly like?: ScoreEvent;
}

/** Bars under work, with what all of them need to know. */
export interface Draft {
  readonly tune: Tune;
  readonly bars: Bar[];
  readonly ids: IdMaker;
}

export function draftOf(tune: Tune): Draft {
  return { tune, bars: [...tune.bars], ids: idMaker(tune.bars) };
}

export function meterAt({ tune, bars }: Pick<Draft, 'tune' | 'bars'>, index: number): Meter {
  return metersOf({ bars, meter: tune.meter })[Math.min(index, bars.length - 1)] ?? tune.meter;
}

function emptyEvents(length: Ticks, meter: Meter, ids: IdMaker): readonly Rest[] {
  return spellRestLength(0, length, meter).map((piece) => ({ kind: 'rest', id: ids.event(), length: piece }));
}

/** A silent bar; where the tune has a second part, so does the bar. */
export function emptyBar(draft: Draft, meter: Meter): Bar {
  const length = barTicks(meter);
  return {
    id: draft.ids.bar(),
    events: emptyEvents(length, meter, draft.ids),
    chords: [],
    ...(hasSecondPart(draft.tune) && { second: emptyEvents(length, meter, draft.ids) }),
  };
}

/** A bar after the last one; the final line moves with the end. */
export function appendBar(draft: Draft): void {
  const last = draft.bars.at(-1);
  const bar = emptyBar(draft, meterAt(draft, draft.bars.length - 1));
  if (last?.barline === 'final') {
    const { barline, ...open } = last;
    draft.bars[draft.bars.length - 1] = open;
    draft.bars.push({ ...bar, barline });
  } else draft.bars.push(bar);
}

/**
 * Lays content over the line from a caret on. It goes over barlines as tied notes; what it covers is gone; what it
 * covers in part is shortened, and the rest of its time is silent. Tuplets touched by it are silent as a whole, unless
 * it fits into one.
 * @returns where it ends
 */
export function layOver(draft: Draft, caret: Caret, content: Content): Caret {
  let { bar, at } = caret;
  let left = content.length;
  let isFirst = true;
  while (left > 0) {
    const here = draft.bars[bar];
    if (!here) {
      appendBar(draft);
      continue;
    }
    const room = lengthOfBar(here) - at;
    if (room <= 0) {
      bar += 1;
      at = 0;
      continue;
    }
    const take = Math.min(room, left);
    left -= take;
    draft.bars[bar] = {
      ...here,
      events: coveredEvents(draft, bar, at, { ...content, length: take }, isFirst, left > 0),
    };
    isFirst = false;
    at += take;
  }
  return settled(draft.bars, { bar, at });
}

function coveredEvents(
  draft: Draft,
  barIndex: number,
  at: Ticks,
  content: Content,
  isFirst: boolean,
  goesOn: boolean,
): readonly ScoreEvent[] {
  const bar = draft.bars[barIndex];
  const meter = meterAt(draft, barIndex);
  const offset = barOffset({ bars: draft.bars, meter: draft.tune.meter }, barIndex, meter);
  const end = at + content.length;
  const kept: ScoreEvent[] = [];
  const after: ScoreEvent[] = [];
  let silentFrom = end;
  let silentTo = end;
  let start = 0;
  const groups = tupletSpans(bar?.events ?? []);
  for (const event of bar?.events ?? []) {
    const stop = start + event.length;
    const group = event.tuplet && groups.get(rootId(event.tuplet));
    const isTouched = group && group.start < end && group.end > at;
    if (stop <= at && !isTouched) kept.push(event);
    else if (start >= end && !isTouched) after.push(event);
    else {
      if (start < at && !event.tuplet)
        kept.push(
          ...asPieces(
            isNote(event) ? untied(event) : event,
            spell(event, offset + start, at - start, meter),
            draft.ids.event,
          ),
        );
      if (isTouched && group.start < at) silentFrom = Math.min(silentFrom, group.start);
      silentTo = Math.max(silentTo, stop);
    }
    start = stop;
  }
  const before: ScoreEvent[] = silentFrom < at ? restsAt(draft, offset + silentFrom, at - silentFrom, meter) : [];
  const rests = silentTo > end ? restsAt(draft, offset + end, silentTo - end, meter) : [];
  const written = contentEvents(draft, content, offset + at, meter, isFirst, goesOn);
  return mergedRests([...kept, ...before, ...written, ...rests, ...after], offset, meter, draft.ids);
}

function untied(note: Note): Note {
  const { tied: _, ...rest } = note;
  return rest;
}

function rootId(tuplet: Tuplet): string {
  return tuplet.outer ? rootId(tuplet.outer) : tuplet.id;
}

/** Where each outermost tuplet of a bar begins and ends. */
function tupletSpans(
  events: readonly ScoreEvent[],
): ReadonlyMap<string, { readonly start: Ticks; readonly end: Ticks }> {
  const spans = new Map<string, { start: Ticks; end: Ticks }>();
  let at = 0;
  for (const { tuplet, length } of events) {
    if (tuplet) {
      const known = spans.get(rootId(tuplet));
      if (known) known.end = at + length;
      else spans.set(rootId(tuplet), { start: at, end: at + length });
    }
    at += length;
  }
  return spans;
}

function spell(event: ScoreEvent, start: Ticks, length: Ticks, meter: Meter): readonly Ticks[] {
  return isNote(event) ? spellNoteLength(start, length, meter) : spellRestLength(start, length, meter);
}

function restsAt(draft: Draft, start: Ticks, length: Ticks, meter: Meter): Rest[] {
  return spellRestLength(start, length, meter).map((piece) => ({ kind: 'rest', id: draft.ids.event(), length: piece }));
}

function contentEvents(
  draft: Draft,
  { pitch, length, like }: Content,
  start: Ticks,
  meter: Meter,
  isFirst: boolean,
  goesOn: boolean,
): readonly ScoreEvent[] {
  if (!pitch) return restsAt(draft, start, length, meter);
  const model: Note =
    like && isNote(like) && isFirst
      ? { ...like, pitch, length }
      : { kind: 'note', id: draft.ids.event(), pitch, length };
  const whole: Note = goesOn ? { ...model, tied: true } : like ? model : untied(model);
  return asPieces(whole, spellNoteLength(start, length, meter), draft.ids.event);
}

/** Plain rests that stand together are written as one where the meter allows. */
export function mergedRests(
  events: readonly ScoreEvent[],
  offset: Ticks,
  meter: Meter,
  ids: IdMaker,
): readonly ScoreEvent[] {
  const merged: ScoreEvent[] = [];
  let run: Rest[] = [];
  let at = offset;
  const close = () => {
    const length = run.reduce((sum, rest) => sum + rest.length, 0);
    const lengths = run.length > 1 ? spellRestLength(at - length, length, meter) : [];
    merged.push(
      ...(lengths.length > 0 && lengths.length < run.length
        ? lengths.map((piece, k): Rest => ({ kind: 'rest', id: run[k]?.id ?? ids.event(), length: piece }))
        : run),
    );
    run = [];
  };
  for (const event of events) {
    if (!isNote(event) && !event.tuplet && !event.fermata && !event.optional) run.push(event);
    else {
      close();
      merged.push(event);
    }
    at += event.length;
  }
  close();
  return merged;
}

/** A 128th: outside tuplets notes begin on multiples of it. */
const SHORTEST: Ticks = 315;

/**
 * Writes a note or (without a pitch) a rest at the caret and moves on behind it. Inside a tuplet its length is the
 * printed one.
 */
export function writeAt(
  tune: Tune,
  caret: Caret,
  content: { readonly pitch?: Pitch; readonly length: Ticks },
): EditResult {
  const draft = draftOf(tune);
  const name = content.pitch ? `Note ${namePitchClass(content.pitch)}` : 'Rest';
  const under = eventAt(tune.bars, caret);
  if (under?.event.tuplet) {
    const after = layIntoTuplet(draft, caret, content);
    return edited(tune, draft.bars, after, name);
  }
  // A place between tuplet notes of the other part is none in this one.
  const place = Number.isInteger(caret.at / SHORTEST) ? caret : settled(tune.bars, caret);
  return edited(tune, draft.bars, layOver(draft, place, content), name);
}

/** Writes inside the tuplet under the caret; its length does not change, what is not filled rests. */
function layIntoTuplet(draft: Draft, caret: Caret, { pitch, length, like }: Content): Caret {
  const found = eventAt(draft.bars, caret);
  const bar = draft.bars[caret.bar];
  const tuplet = found?.event.tuplet;
  if (!found || !bar || !tuplet) return caret;
  let end = found.start;
  for (const event of bar.events.slice(found.index)) {
    if (event.tuplet?.id !== tuplet.id) break;
    end += event.length;
  }
  const take = Math.min(end - found.start, soundingTicks(length, tuplet));
  const until = found.start + take;
  const pieces = (total: Ticks): readonly Ticks[] =>
    plainValues(Math.round(notatedTicks(total, tuplet))).map((value) => soundingTicks(value, tuplet));
  const events: ScoreEvent[] = [];
  let at = 0;
  for (const [index, event] of bar.events.entries()) {
    const stop = at + event.length;
    if (index < found.index || at >= until) events.push(event);
    else {
      if (index === found.index) {
        const model: ScoreEvent = pitch
          ? {
              ...(like && isNote(like) ? like : { kind: 'note' as const, id: draft.ids.event() }),
              kind: 'note',
              pitch,
              length: take,
              tuplet,
            }
          : { kind: 'rest', id: draft.ids.event(), length: take, tuplet };
        events.push(
          ...asPieces(model, pieces(take), draft.ids.event).map((piece): ScoreEvent => ({ ...piece, tuplet })),
        );
      }
      if (stop > until)
        events.push(
          ...pieces(stop - until).map((piece): Rest => ({
            kind: 'rest',
            id: draft.ids.event(),
            length: piece,
            tuplet,
          })),
        );
    }
    at = stop;
  }
  draft.bars[caret.bar] = { ...bar, events };
  return settled(draft.bars, { bar: caret.bar, at: until });
}

/**
 * Gives the event at the caret another printed length: what follows gives way, or is silent longer. The caret stays.
 */
export function changeLength(tune: Tune, caret: Caret, length: Ticks): EditResult {
  const found = eventAt(tune.bars, caret);
  if (!found) return refused('nothing-here', 'There is no note at the caret.');
  const value = valueOfTicks(length);
  const name = `Length ${value ? nameValue(value) : ''}`.trim();
  const draft = draftOf(tune);
  const { event } = found;
  const at = { bar: caret.bar, at: found.start };
  const content: Content = isNote(event) ? { pitch: event.pitch, length, like: event } : { length };
  if (event.tuplet) layIntoTuplet(draft, at, content);
  else {
    // Shortened, the note ends there; what its tie led to is silent or stays a note of its own.
    layOver(draft, at, isNote(event) && length < event.length ? { ...content, like: untied(event) } : content);
  }
  return edited(tune, draft.bars, at, name);
}

/** Makes a stretch silent. */
export function silence(tune: Tune, from: Caret, to: Caret): EditResult {
  const draft = draftOf(tune);
  for (let bar = from.bar; bar <= Math.min(to.bar, draft.bars.length - 1); bar += 1) {
    const here = draft.bars[bar];
    if (!here) break;
    const meter = meterAt(draft, bar);
    const offset = barOffset({ bars: draft.bars, meter: tune.meter }, bar, meter);
    let start = 0;
    const events = here.events.map((event): ScoreEvent => {
      const at = start;
      start += event.length;
      const isInside = (bar > from.bar || at >= from.at) && (bar < to.bar || at < to.at);
      if (!isInside || !isNote(event)) return event;
      return {
        kind: 'rest',
        id: draft.ids.event(),
        length: event.length,
        ...(event.tuplet && { tuplet: event.tuplet }),
      };
    });
    if (events.some((event, k) => event !== here.events[k]))
      draft.bars[bar] = {
        ...here,
        events: mergedRests(withoutSilentTuplets(events, offset, meter, draft.ids), offset, meter, draft.ids),
      };
  }
  return edited(tune, draft.bars, from, 'Rest');
}

/** A tuplet of rests alone is a plain rest. */
function withoutSilentTuplets(
  events: readonly ScoreEvent[],
  offset: Ticks,
  meter: Meter,
  ids: IdMaker,
): readonly ScoreEvent[] {
  const spans = tupletSpans(events);
  const silent = [...spans].filter(([root]) =>
    events.every((event) => !event.tuplet || rootId(event.tuplet) !== root || !isNote(event)),
  );
  if (silent.length === 0) return events;
  const done = new Set<string>();
  return events.flatMap((event): readonly ScoreEvent[] => {
    const root = event.tuplet && rootId(event.tuplet);
    const span = root !== undefined ? silent.find(([id]) => id === root)?.[1] : undefined;
    if (!root || !span) return [event];
    if (done.has(root)) return [];
    done.add(root);
    return spellRestLength(offset + span.start, span.end - span.start, meter).map((length): Rest => ({
      kind: 'rest',
      id: ids.event(),
      length,
    }));
  });
}

/** What typing at the caret would do, in words, and where it would lie; for the caret to show beforehand. */
export interface Forecast {
  readonly text: string;
  /** In bars after one another: from and to in ticks from each bar's start. */
  readonly spans: readonly { readonly bar: number; readonly from: Ticks; readonly to: Ticks }[];
}

export function forecast(tune: Tune, caret: Caret, length: Ticks): Forecast {
  const numbers = barNumbers(tune);
  const meters = metersOf(tune);
  const value = valueOfTicks(length);
  const what = value ? nameValue(value) : 'note';
  const found = eventAt(tune.bars, caret);
  if (found?.event.tuplet) {
    const sounding = Math.min(soundingTicks(length, found.event.tuplet), Infinity);
    return {
      text: `${what} in the group of ${found.event.tuplet.actual}`,
      spans: [{ bar: caret.bar, from: caret.at, to: caret.at + sounding }],
    };
  }
  const spans: { bar: number; from: Ticks; to: Ticks }[] = [];
  let [bar, at, left] = [caret.bar, caret.at, length];
  while (left > 0) {
    const here = tune.bars[bar];
    const meter = meters[Math.min(bar, meters.length - 1)] ?? tune.meter;
    const room = (here ? lengthOfBar(here) : barTicks(meter)) - at;
    const take = Math.min(Math.max(room, 0), left);
    if (take > 0) spans.push({ bar, from: at, to: at + take });
    left -= take;
    bar += 1;
    at = 0;
  }
  const meter = meters[caret.bar] ?? tune.meter;
  const first = spans[0];
  const isNew = spans.some((span) => span.bar >= tune.bars.length);
  const place =
    first && first.bar < tune.bars.length
      ? `bar ${numbers[first.bar] ?? 0}, beat ${String(beatNumberAt(meter, first.from + barOffset(tune, first.bar, meter))).replace(/(\.\d\d)\d+/, '$1')}`
      : 'in a new bar';
  const over = spans.length > 1 ? ', tied over the barline' : '';
  const added = isNew && first && first.bar < tune.bars.length ? `, into a new bar of ${printMeter(meter)}` : '';
  return { text: `${what} at ${place}${over}${added}`.replace('at in', 'in'), spans };
}
