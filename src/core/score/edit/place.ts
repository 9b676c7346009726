import type { Ticks } from '../../time';
import { isNote, type Bar, type EventId, type Note, type ScoreEvent, type Tune } from '../tune';

/**
 * Where the next thing typed goes: index of a bar and ticks from its start. Only the last bar's caret may stand at its
 * end.
 */
export interface Caret {
  readonly bar: number;
  readonly at: Ticks;
}

/** A stretch of the line, its end not included. */
export interface Stretch {
  readonly from: Caret;
  readonly to: Caret;
}

export interface Found {
  readonly event: ScoreEvent;
  readonly bar: number;
  readonly index: number;
  readonly start: Ticks;
}

export function lengthOfBar(bar: Bar): Ticks {
  return bar.events.reduce((sum, { length }) => sum + length, 0);
}

export function compareCarets(a: Caret, b: Caret): number {
  return a.bar - b.bar || a.at - b.at;
}

/** The event under a caret: the one that begins there or sounds over it. None at the end of the tune. */
export function eventAt(bars: readonly Bar[], { bar, at }: Caret): Found | undefined {
  let start = 0;
  for (const [index, event] of (bars[bar]?.events ?? []).entries()) {
    if (at < start + event.length) return { event, bar, index, start };
    start += event.length;
  }
  return undefined;
}

export function findEvent(bars: readonly Bar[], id: EventId): Found | undefined {
  for (const [bar, { events }] of bars.entries()) {
    let start = 0;
    for (const [index, event] of events.entries()) {
      if (event.id === id) return { event, bar, index, start };
      start += event.length;
    }
  }
  return undefined;
}

/** A caret that stands on an event's start, or at the end of the tune. */
export function settled(bars: readonly Bar[], caret: Caret): Caret {
  const bar = Math.max(0, Math.min(bars.length - 1, caret.bar));
  const length = lengthOfBar(bars[bar] ?? { id: '', events: [], chords: [] });
  if (caret.bar > bar || caret.at >= length)
    return bar < bars.length - 1 && caret.bar <= bar ? { bar: bar + 1, at: 0 } : { bar, at: length };
  return { bar, at: eventAt(bars, { bar, at: Math.max(0, caret.at) })?.start ?? 0 };
}

/** The caret an event to the right (1) or left (−1). */
export function moveCaret(bars: readonly Bar[], caret: Caret, direction: 1 | -1): Caret {
  if (direction === 1) {
    const here = eventAt(bars, caret);
    return here ? settled(bars, { bar: caret.bar, at: here.start + here.event.length }) : settled(bars, caret);
  }
  const start = settled(bars, caret);
  if (start.at > 0) return settled(bars, { bar: start.bar, at: start.at - 1 });
  const before = bars[start.bar - 1];
  return before ? settled(bars, { bar: start.bar - 1, at: lengthOfBar(before) - 1 }) : start;
}

/** The caret so much time later, over barlines where need be. */
export function advance(bars: readonly Bar[], { bar, at }: Caret, ticks: Ticks): Caret {
  let [index, place] = [bar, at + ticks];
  for (let here = bars[index]; here && place >= lengthOfBar(here) && index < bars.length - 1; here = bars[index]) {
    place -= lengthOfBar(here);
    index += 1;
  }
  return settled(bars, { bar: index, at: place });
}

/** All events that begin inside a stretch. */
export function eventsIn(bars: readonly Bar[], { from, to }: Stretch): readonly Found[] {
  const found: Found[] = [];
  for (let bar = from.bar; bar <= Math.min(to.bar, bars.length - 1); bar += 1) {
    let start = 0;
    for (const [index, event] of (bars[bar]?.events ?? []).entries()) {
      const place = { bar, at: start };
      if (compareCarets(place, from) >= 0 && compareCarets(place, to) < 0) found.push({ event, bar, index, start });
      start += event.length;
    }
  }
  return found;
}

/** The notes joined by ties to a note, itself among them. */
export function tieChain(bars: readonly Bar[], id: EventId): readonly Note[] {
  const notes = bars.flatMap(({ events }) => events);
  const index = notes.findIndex((event) => event.id === id);
  const here = notes[index];
  if (!here || !isNote(here)) return [];
  const chain: Note[] = [here];
  for (let k = index; ; k -= 1) {
    const before = notes[k - 1];
    if (!before || !isNote(before) || !before.tied) break;
    chain.unshift(before);
  }
  for (let k = index; ; k += 1) {
    const [own, after] = [notes[k], notes[k + 1]];
    if (!own || !isNote(own) || !own.tied || !after || !isNote(after)) break;
    chain.push(after);
  }
  return chain;
}

/**
 * The pitch of the note before a caret, from which the octave of the next letter is told; at the beginning that of the
 * first note there is.
 */
export function pitchBefore({ bars }: Pick<Tune, 'bars'>, caret: Caret): Note['pitch'] | undefined {
  for (let bar = Math.min(caret.bar, bars.length - 1); bar >= 0; bar -= 1) {
    let start = 0;
    let last: Note | undefined;
    for (const event of bars[bar]?.events ?? []) {
      if (bar === caret.bar && start >= caret.at) break;
      if (isNote(event)) last = event;
      start += event.length;
    }
    if (last) return last.pitch;
  }
  return bars.flatMap(({ events }) => events).find(isNote)?.pitch;
}
