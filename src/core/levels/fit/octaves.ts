import { byOctaves } from '../../pitch/pitch';
import { isNote, type Bar, type Note, type Tune } from '../../score/tune';

/** Kept as long as the line, and as long as each of its bars: players of many instruments have the same in a few octaves. */
const linesKnown = new WeakMap<Tune, Map<number, Tune>>();
const barsKnown = new WeakMap<Bar, Map<number, Bar>>();

/** A line as a whole in other octaves, grace notes with it; the same object whenever it is asked for again. */
export function lineByOctaves(line: Tune, octaves: number): Tune {
  if (octaves === 0) return line;
  const known = linesKnown.get(line) ?? new Map<number, Tune>();
  linesKnown.set(line, known);
  const made = known.get(octaves) ?? { ...line, bars: line.bars.map((bar) => barByOctaves(bar, octaves)) };
  known.set(octaves, made);
  return made;
}

function barByOctaves(bar: Bar, octaves: number): Bar {
  const known = barsKnown.get(bar) ?? new Map<number, Bar>();
  barsKnown.set(bar, known);
  const made = known.get(octaves) ?? freshByOctaves(bar, octaves);
  known.set(octaves, made);
  return made;
}

function freshByOctaves(bar: Bar, octaves: number): Bar {
  if (!bar.events.some(isNote)) return bar;
  return {
    ...bar,
    events: bar.events.map((event) => (isNote(event) ? noteByOctaves(event, octaves) : event)),
  };
}

/** A note in another octave, its grace notes with it. */
export function noteByOctaves(note: Note, octaves: number): Note {
  const pitch = byOctaves(note.pitch, octaves);
  if (!note.graces) return { ...note, pitch };
  return { ...note, pitch, graces: note.graces.map((grace) => ({ ...grace, pitch: byOctaves(grace.pitch, octaves) })) };
}
