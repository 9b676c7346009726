import type { Pitch } from '../../pitch';
import type { Hairpin, PlacedTempo } from '../../score';
import type { Ticks } from '../../time';
import type { RawBar, RawEvent } from '../assemble';

/** Something at a place in a measure, in the voice it belongs to. */
export interface PlacedRaw {
  readonly voice: string;
  readonly start: Ticks;
  readonly event: RawEvent;
}

/** The end of a hairpin in a measure; which note it means depends on the voice. */
export interface Wedge {
  readonly at: Ticks;
  readonly type: Hairpin | 'stop';
}

/** What a measure holds before a voice is chosen. */
export interface MeasureFound extends Omit<RawBar, 'events' | 'tempos'> {
  readonly placed: readonly PlacedRaw[];
  readonly wedges: readonly Wedge[];
  readonly tempos: readonly PlacedTempo[];
  readonly end: Ticks;
}

/** The pitches of each voice that holds notes, by the order in which they are first met. */
export function voicesIn(measures: readonly MeasureFound[]): ReadonlyMap<string, readonly Pitch[]> {
  const found = new Map<string, Pitch[]>();
  for (const { placed } of measures) {
    for (const { voice, event } of placed) {
      if (!event.pitch) continue;
      const pitches = found.get(voice);
      if (pitches) pitches.push(event.pitch);
      else found.set(voice, [event.pitch]);
    }
  }
  return found;
}

/** One voice of all measures. Its gaps become rests; hairpins go to the notes under their ends. */
export function barsOfVoice(
  measures: readonly MeasureFound[],
  voice: string,
): { readonly bars: readonly RawBar[]; readonly lostHairpins: number } {
  const lines = measures.map((measure) => eventsOfVoice(measure, voice));
  const lostHairpins = hangHairpins(measures, lines);
  const bars = measures.map(({ placed: _, wedges: _wedges, end: _end, tempos, ...bar }, index): RawBar => ({
    ...bar,
    events: (lines[index] ?? []).map(({ event }) => event),
    ...(tempos.length > 0 && { tempos }),
  }));
  return { bars, lostHairpins };
}

interface LineEvent {
  readonly start: Ticks;
  event: RawEvent;
}

function eventsOfVoice({ placed, end }: MeasureFound, voice: string): LineEvent[] {
  const events: LineEvent[] = [];
  let position = 0;
  for (const one of placed) {
    if (one.voice !== voice) continue;
    if (one.start > position) events.push({ start: position, event: { length: one.start - position } });
    events.push({ start: one.start, event: one.event });
    position = one.start + one.event.length;
  }
  if (end > position) events.push({ start: position, event: { length: end - position } });
  return events;
}

/**
 * A hairpin begins with the first note at or after its mark and ends with the last note struck before the other one.
 */
function hangHairpins(measures: readonly MeasureFound[], lines: readonly LineEvent[][]): number {
  if (measures.every(({ wedges }) => wedges.length === 0)) return 0;
  let barStart = 0;
  const notes: { readonly at: Ticks; readonly line: LineEvent }[] = [];
  const wedges: Wedge[] = [];
  measures.forEach((measure, index) => {
    for (const line of lines[index] ?? []) if (line.event.pitch) notes.push({ at: barStart + line.start, line });
    for (const wedge of measure.wedges) wedges.push({ ...wedge, at: barStart + wedge.at });
    barStart += measure.end;
  });
  // Marks go by time; what stands before each of them is counted on, not looked for anew.
  let before = 0;
  const struckBefore = (at: Ticks) => {
    while (before > 0 && (notes[before - 1]?.at ?? 0) >= at) before -= 1;
    while ((notes[before]?.at ?? Infinity) < at) before += 1;
    return before;
  };
  let lost = 0;
  let open: { readonly line: LineEvent; readonly at: Ticks; readonly type: Hairpin } | undefined;
  for (const { at, type } of wedges) {
    if (type === 'stop') {
      const last = notes[struckBefore(at) - 1];
      if (!open || !last || last.at < open.at) {
        if (open) lost += 1;
      } else {
        mark(open.line, { hairpin: open.type });
        mark(last.line, { hairpinEnds: true });
      }
      open = undefined;
      continue;
    }
    if (open) lost += 1;
    const first = notes[struckBefore(at)];
    open = first && { line: first.line, at: first.at, type };
  }
  return lost + (open ? 1 : 0);
}

function mark(line: LineEvent, marks: NonNullable<RawEvent['marks']>): void {
  line.event = { ...line.event, marks: { ...line.event.marks, ...marks } };
}
