import type { Phrase } from '../../analysis';
import {
  type Bar,
  type EventId,
  soundingNotes,
  type Tune,
  withPairedHairpins,
  withPairedSlurs,
  withTrueTies,
} from '../../score';

/**
 * Bars of several versions as one line: marks without their other half go, and a note that two versions put in
 * different bars is two.
 */
export function joined(bars: readonly Bar[]): readonly Bar[] {
  const seen = new Set<EventId>();
  const named = bars.map((bar): Bar => {
    const events = bar.events.map((event) => {
      const id = seen.has(event.id) ? `${event.id}.v` : event.id;
      seen.add(id);
      return id === event.id ? event : { ...event, id };
    });
    return events.every((event, k) => event === bar.events[k]) ? bar : { ...bar, events };
  });
  return withPairedHairpins(withPairedSlurs(withTrueTies(named).bars).bars).bars;
}

/** The phrases of a tune as runs of the notes of another version of it, by where they begin. */
export function phrasesIn(version: Tune, tune: Tune, phrases: readonly Phrase[]): readonly Phrase[] {
  const source = soundingNotes(tune);
  const starts = soundingNotes(version).map(({ start }) => start);
  const firsts = phrases.map(({ from }, index) => (index === 0 ? 0 : (source[from]?.start ?? Infinity)));
  let note = 0;
  return firsts.flatMap((_, index): readonly Phrase[] => {
    const from = note;
    const end = firsts[index + 1] ?? Infinity;
    while (note < starts.length && (starts[note] ?? end) < end) note += 1;
    return note > from ? [{ from, to: note }] : [];
  });
}
