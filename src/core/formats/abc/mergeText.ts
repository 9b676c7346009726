import { type Bar, idMaker, isNote, type Note, type ScoreEvent, type Tune } from '../../score';
import type { Tuplet } from '../../time';

/**
 * A tune read from edited text, joined with the one that the text was made of: bars that stayed keep their ids and all
 * that ABC cannot hold (brackets, phrase marks); in changed bars those marks stay on notes of the same place and pitch.
 * Rights, swing, the recording's key and what is said of the harmony stay as they were.
 */
export function mergedWithText(before: Tune, read: Tune): Tune {
  const olds = before.bars.map(barKey);
  const news = read.bars.map(barKey);
  let head = 0;
  while (head < news.length && head < olds.length && news[head] === olds[head]) head += 1;
  let tail = 0;
  while (
    tail < news.length - head &&
    tail < olds.length - head &&
    news[news.length - 1 - tail] === olds[olds.length - 1 - tail]
  )
    tail += 1;
  const ids = idMaker(before.bars);
  const bars = read.bars.map((bar, index): Bar => {
    if (index < head) return before.bars[index] ?? bar;
    const fromEnd = read.bars.length - index;
    if (fromEnd <= tail) return before.bars[before.bars.length - fromEnd] ?? bar;
    // One that stands again at the end is not this one: a bar that was put in has a name of its own.
    const old = index < before.bars.length - tail ? before.bars[index] : undefined;
    const tuplets = new Map<string, Tuplet>();
    const fresh = (event: ScoreEvent): ScoreEvent => {
      const { tuplet } = event;
      if (!tuplet) return { ...event, id: ids.event() };
      const known = tuplets.get(tuplet.id) ?? { ...tuplet, id: ids.tuplet() };
      tuplets.set(tuplet.id, known);
      return { ...event, id: ids.event(), tuplet: known };
    };
    return {
      ...bar,
      id: old?.id ?? ids.bar(),
      events: keptMarks(old?.events ?? [], bar.events, fresh),
      ...(bar.second && { second: keptMarks(old?.second ?? [], bar.second, fresh) }),
    };
  });
  const { swing: _, ...plain } = read;
  return {
    ...plain,
    rights: before.rights,
    ...(before.swing && { swing: before.swing }),
    ...(before.recordingKey && { recordingKey: before.recordingKey }),
    ...(before.harmony && { harmony: before.harmony }),
    bars: bars.length === before.bars.length && bars.every((bar, k) => bar === before.bars[k]) ? before.bars : bars,
  };
}

/** Everything of a bar that ABC holds, as text to compare by; ids left out. */
function barKey(bar: Bar): string {
  return JSON.stringify(bar, (key, value: unknown) =>
    key === 'id' || key === 'optional' || key === 'phrase' ? undefined : value,
  );
}

function keptMarks(
  olds: readonly ScoreEvent[],
  news: readonly ScoreEvent[],
  fresh: (event: ScoreEvent) => ScoreEvent,
): readonly ScoreEvent[] {
  const before = new Map<string, ScoreEvent>();
  let at = 0;
  for (const event of olds) {
    before.set(placeKey(event, at), event);
    at += event.length;
  }
  at = 0;
  return news.map((event) => {
    const old = before.get(placeKey(event, at));
    at += event.length;
    const made = fresh(event);
    // An event that sounds as before at its place is the same one.
    const own = old ? { ...made, id: old.id, ...(old.optional && { optional: old.optional }) } : made;
    return old && isNote(old) && isNote(own) && old.phrase ? ({ ...own, phrase: old.phrase } satisfies Note) : own;
  });
}

function placeKey(event: ScoreEvent, at: number): string {
  return isNote(event) ? `${at}/${event.pitch.step}${event.pitch.alter}/${event.pitch.octave}` : `${at}/rest`;
}
