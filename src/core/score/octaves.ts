import { isRemembering } from '../derived';
import { byOctaves } from '../pitch';
import { isNote, type Bar, type Note, type Tune } from './tune';

/** Bars, and by how many octaves they were moved to become others. */
interface Moved {
  readonly bars: readonly Bar[];
  readonly octaves: number;
}

/**
 * Tuned by hand, since all lines of all players come by here. Kept as long as the line, and as long as each of its
 * bars: players of many instruments have the same in a few octaves. What moved is known by where it came from, so that
 * what was worked out of a line holds in every octave.
 */
const tunesKnown = new WeakMap<Tune, Map<number, Tune>>();
const linesKnown = new WeakMap<readonly Bar[], Map<number, readonly Bar[]>>();
const barsKnown = new WeakMap<Bar, Map<number, Bar>>();
const origins = new WeakMap<readonly Bar[], Moved>();

/** A line as a whole in other octaves, grace notes with it; the same object whenever it is asked for again. */
export function lineByOctaves(line: Tune, octaves: number): Tune {
  if (octaves === 0) return line;
  if (!isRemembering()) return { ...line, bars: barsByOctaves(line.bars, octaves) };
  const known = tunesKnown.get(line) ?? new Map<number, Tune>();
  tunesKnown.set(line, known);
  const made = known.get(octaves) ?? { ...line, bars: barsByOctaves(line.bars, octaves) };
  known.set(octaves, made);
  return made;
}

/** The bars of a line in other octaves: one object for each, however they came there. */
export function barsByOctaves(bars: readonly Bar[], octaves: number): readonly Bar[] {
  const origin = beforeOctaves(bars);
  const by = origin.octaves + octaves;
  if (by === 0) return origin.bars;
  if (!isRemembering()) return origin.bars.map((bar) => barByOctaves(bar, by));
  const known = linesKnown.get(origin.bars) ?? new Map<number, readonly Bar[]>();
  linesKnown.set(origin.bars, known);
  const made = known.get(by) ?? origin.bars.map((bar) => barByOctaves(bar, by));
  known.set(by, made);
  origins.set(made, { bars: origin.bars, octaves: by });
  return made;
}

/**
 * What bars were before `barsByOctaves`, and by how many octaves they were moved; the bars themselves where they never
 * were.
 */
export function beforeOctaves(bars: readonly Bar[]): Moved {
  return origins.get(bars) ?? { bars, octaves: 0 };
}

function barByOctaves(bar: Bar, octaves: number): Bar {
  if (!isRemembering()) return freshByOctaves(bar, octaves);
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
