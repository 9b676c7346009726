import { semitones } from '../pitch';
import { isNote, mapNotes, type Bar, type EventId } from './tune';

/** Bars with what has no other end taken off, and the index of the bar of each mark that went. */
export interface Balanced {
  readonly bars: readonly Bar[];
  readonly lost: readonly number[];
}

/** Takes off ties that lead to another pitch, a rest or nowhere. */
export function withTrueTies(bars: readonly Bar[]): Balanced {
  const lost: number[] = [];
  const balanced = bars.map((bar, index) => {
    if (!bar.events.some((event) => isNote(event) && event.tied)) return bar;
    const events = bar.events.map((event, k) => {
      if (!isNote(event) || !event.tied) return event;
      const next = bar.events[k + 1] ?? bars[index + 1]?.events[0];
      if (next && isNote(next) && semitones(next.pitch) === semitones(event.pitch)) return event;
      lost.push(index);
      const { tied: _, ...untied } = event;
      return untied;
    });
    return events.every((event, k) => event === bar.events[k]) ? bar : { ...bar, events };
  });
  return { bars: lost.length > 0 ? balanced : bars, lost };
}

/**
 * Takes off slur ends without a beginning and beginnings without an end. Slurs nest: an end closes the last one begun.
 */
export function withPairedSlurs(bars: readonly Bar[]): Balanced {
  const open: { readonly id: EventId; readonly bar: number }[] = [];
  const lostEnds = new Map<EventId, number>();
  const lost: number[] = [];
  bars.forEach((bar, index) =>
    bar.events.forEach((event) => {
      if (!isNote(event)) return;
      for (let k = 0; k < (event.slurEnds ?? 0); k += 1) {
        if (open.pop() !== undefined) continue;
        lostEnds.set(event.id, (lostEnds.get(event.id) ?? 0) + 1);
        lost.push(index);
      }
      for (let k = 0; k < (event.slurStarts ?? 0); k += 1) open.push({ id: event.id, bar: index });
    }),
  );
  if (open.length === 0 && lostEnds.size === 0) return { bars, lost };
  const lostStarts = new Map<EventId, number>();
  for (const { id } of open) lostStarts.set(id, (lostStarts.get(id) ?? 0) + 1);
  return {
    lost: [...lost, ...open.map(({ bar }) => bar)],
    bars: mapNotes(bars, (note) => {
      const { slurStarts = 0, slurEnds = 0, ...plain } = note;
      const starts = slurStarts - (lostStarts.get(note.id) ?? 0);
      const ends = slurEnds - (lostEnds.get(note.id) ?? 0);
      if (starts === slurStarts && ends === slurEnds) return note;
      return { ...plain, ...(starts > 0 && { slurStarts: starts }), ...(ends > 0 && { slurEnds: ends }) };
    }),
  };
}

/** Takes off slurs over notes of one pitch, where one of them is among those given: they would read as ties. */
export function withoutSlursOnOneNote(bars: readonly Bar[], among: ReadonlySet<EventId>): readonly Bar[] {
  const notes = bars.flatMap(({ events }) => events.filter(isNote));
  const lostStarts = new Map<EventId, number>();
  const lostEnds = new Map<EventId, number>();
  const open: number[] = [];
  notes.forEach((note, index) => {
    for (let k = 0; k < (note.slurEnds ?? 0); k += 1) {
      const from = open.pop();
      if (from === undefined) continue;
      const under = notes.slice(from, index + 1);
      const [first] = under;
      if (
        !first ||
        !under.some(({ id }) => among.has(id)) ||
        !under.every(({ pitch }) => semitones(pitch) === semitones(first.pitch))
      )
        continue;
      lostStarts.set(first.id, (lostStarts.get(first.id) ?? 0) + 1);
      lostEnds.set(note.id, (lostEnds.get(note.id) ?? 0) + 1);
    }
    for (let k = 0; k < (note.slurStarts ?? 0); k += 1) open.push(index);
  });
  if (lostStarts.size === 0) return bars;
  return mapNotes(bars, (note) => {
    const { slurStarts = 0, slurEnds = 0, ...plain } = note;
    const [starts, ends] = [slurStarts - (lostStarts.get(note.id) ?? 0), slurEnds - (lostEnds.get(note.id) ?? 0)];
    return starts === slurStarts && ends === slurEnds
      ? note
      : { ...plain, ...(starts > 0 && { slurStarts: starts }), ...(ends > 0 && { slurEnds: ends }) };
  });
}

/** Takes off hairpins without an end and ends without a hairpin. One begun while another is open takes its place. */
export function withPairedHairpins(bars: readonly Bar[]): Balanced {
  const lostStarts = new Set<EventId>();
  const lostEnds = new Set<EventId>();
  const lost: number[] = [];
  let open: { readonly id: EventId; readonly bar: number } | undefined;
  const drop = () => {
    if (!open) return;
    lostStarts.add(open.id);
    lost.push(open.bar);
  };
  bars.forEach((bar, index) =>
    bar.events.forEach((event) => {
      if (!isNote(event)) return;
      if (event.hairpin) {
        drop();
        open = { id: event.id, bar: index };
      }
      if (!event.hairpinEnds) return;
      if (!open) {
        lostEnds.add(event.id);
        lost.push(index);
      }
      open = undefined;
    }),
  );
  drop();
  if (lost.length === 0) return { bars, lost };
  return {
    lost,
    bars: mapNotes(bars, (note) => {
      const { hairpin, hairpinEnds, ...plain } = note;
      if (!lostStarts.has(note.id) && !lostEnds.has(note.id)) return note;
      return {
        ...plain,
        ...(hairpin && !lostStarts.has(note.id) && { hairpin }),
        ...(hairpinEnds && !lostEnds.has(note.id) && { hairpinEnds }),
      };
    }),
  };
}
