import type { Interval, Key } from '../../pitch';
import { type Bar, isNote, type ScoreEvent } from '../../score';
import { transposeBars } from '../fit/inKey';

/** The events of a bar that was written as its player reads it, in concert pitch, under ids of its own. */
export function soundingEvents(bar: Bar, writtenKey: Key, toSounding: Interval): readonly ScoreEvent[] {
  const [sounding] = transposeBars(
    { key: writtenKey, bars: [{ id: bar.id, events: bar.events, chords: [] }] },
    toSounding,
  ).bars;
  const last = sounding?.events.at(-1);
  return (sounding?.events ?? []).map((event, k): ScoreEvent => {
    const named = { ...event, id: `${bar.id}.o${k}` };
    // What came after the bar is not known where it will stand.
    if (event !== last || !isNote(named) || !named.tied) return named;
    const { tied: _, ...untied } = named;
    return untied;
  });
}
