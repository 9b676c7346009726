import type { Ticks } from '../../time';
import { isNote, type PlacedChord, type ScoreEvent, type Tune } from '../tune';
import { freshEvents } from './barEdits';
import { edited, refused, type EditResult } from './edited';
import { compareCarets, eventsIn, lengthOfBar, settled, type Caret, type Stretch } from './place';
import { draftOf, layOver, silence } from './write';

/** A stretch of music taken along: events one after another, and chords counted from its beginning. */
export interface Clip {
  readonly events: readonly ScoreEvent[];
  readonly chords: readonly PlacedChord[];
}

/** Widens a stretch so that it cuts no tuplet. */
function wholeTuplets(tune: Tune, stretch: Stretch): Stretch {
  const found = eventsIn(tune.bars, stretch);
  const ids = new Set(found.flatMap(({ event }) => (event.tuplet ? [rootOf(event)] : [])));
  if (ids.size === 0) return stretch;
  let { from, to } = stretch;
  tune.bars.forEach((bar, index) => {
    let at = 0;
    for (const event of bar.events) {
      if (event.tuplet && ids.has(rootOf(event))) {
        const [start, end] = [{ bar: index, at }, settled(tune.bars, { bar: index, at: at + event.length })];
        if (compareCarets(start, from) < 0) from = start;
        if (compareCarets(end, to) > 0) to = end;
      }
      at += event.length;
    }
  });
  return { from, to };
}

function rootOf(event: ScoreEvent): string {
  let tuplet = event.tuplet;
  while (tuplet?.outer) tuplet = tuplet.outer;
  return tuplet?.id ?? '';
}

export function copyStretch(tune: Tune, given: Stretch): Clip | undefined {
  const stretch = wholeTuplets(tune, given);
  const found = eventsIn(tune.bars, stretch);
  if (found.length === 0) return undefined;
  const chords: PlacedChord[] = [];
  let before: Ticks = 0;
  for (let bar = stretch.from.bar; bar <= Math.min(stretch.to.bar, tune.bars.length - 1); bar += 1) {
    const here = tune.bars[bar];
    if (!here) break;
    const first = bar === stretch.from.bar ? stretch.from.at : 0;
    const last = bar === stretch.to.bar ? stretch.to.at : lengthOfBar(here);
    for (const { at, symbol } of here.chords)
      if (at >= first && at < last) chords.push({ at: before + at - first, symbol });
    before += Math.max(0, last - first);
  }
  return { events: found.map(({ event }) => event), chords };
}

/** Lays a clip over the line at the caret. A tuplet that would cross a barline there is refused. */
export function pasteClip(tune: Tune, caret: Caret, clip: Clip): EditResult {
  const draft = draftOf(tune);
  const events = freshEvents(clip.events, draft.ids);
  let at = caret;
  let passed: Ticks = 0;
  const places: { readonly clipAt: Ticks; readonly caret: Caret }[] = [];
  for (let k = 0; k < events.length;) {
    const event = events[k];
    if (!event) break;
    places.push({ clipAt: passed, caret: at });
    if (!event.tuplet) {
      at = layOver(draft, at, { ...(isNote(event) && { pitch: event.pitch }), length: event.length, like: event });
      passed += event.length;
      k += 1;
      continue;
    }
    const root = rootOf(event);
    let end = k;
    while (end < events.length && rootOf(events[end] ?? event) === root && events[end]?.tuplet) end += 1;
    const group = events.slice(k, end);
    const length = group.reduce((sum, one) => sum + one.length, 0);
    const room = lengthOfBar(draft.bars[at.bar] ?? { id: '', events: [], chords: [] }) - at.at;
    if (room < length && room > 0)
      return refused(
        'tuplet-over-barline',
        'A group of the copied notes would cross a barline here; paste it where the group fits into one bar.',
      );
    const after = layOver(draft, at, { length });
    // After a last bar that was full, the group went into the new one.
    const start = room <= 0 ? { bar: at.bar + 1, at: 0 } : at;
    const bar = draft.bars[start.bar];
    if (bar) {
      const head: ScoreEvent[] = [];
      const tail: ScoreEvent[] = [];
      let place = 0;
      for (const one of bar.events) {
        if (place + one.length <= start.at) head.push(one);
        else if (place >= start.at + length) tail.push(one);
        else if (place < start.at || place + one.length > start.at + length)
          return refused('not-possible', 'The copied group does not fit the rests here; paste it on a beat.');
        place += one.length;
      }
      draft.bars[start.bar] = { ...bar, events: [...head, ...group, ...tail] };
    }
    at = after;
    passed += length;
    k = end;
  }
  for (const { at: clipAt, symbol } of clip.chords) {
    const near = places.findLast((place) => place.clipAt <= clipAt);
    const bar = near && draft.bars[near.caret.bar];
    if (!near || !bar) continue;
    const place = near.caret.at + clipAt - near.clipAt;
    if (place < lengthOfBar(bar))
      draft.bars[near.caret.bar] = {
        ...bar,
        chords: [...bar.chords.filter((chord) => chord.at !== place), { at: place, symbol }].toSorted(
          (a, b) => a.at - b.at,
        ),
      };
  }
  return edited(tune, draft.bars, at, 'Paste');
}

/** Copies and makes silent. */
export function cutStretch(
  tune: Tune,
  given: Stretch,
): { readonly clip: Clip; readonly result: EditResult } | undefined {
  const clip = copyStretch(tune, given);
  if (!clip) return undefined;
  const { from, to } = wholeTuplets(tune, given);
  const done = silence(tune, from, to);
  return { clip, result: done.ok ? { ok: true, value: { ...done.value, name: 'Cut' } } : done };
}
