import { barSpans, type SoundingNote } from '../score/sounding';
import type { Articulation, Bar, EventId } from '../score/tune';
import { middleOf, type Meter } from '../time/meter';

/**
 * Costs of bow directions: strong beats fall down, upbeats up, and the bow goes to and fro unless it is lifted. The rule of
 * the down-bow is as old as the bow's teaching (e.g. L. Mozart, Violinschule, 1756, ch. 4); the figures are ours.
 */
const COSTS = { upOnDownbeat: 2, upOnMiddle: 0.6, downOnUpbeat: 0.5, liftAtBarline: 1, lift: 1.8, liftInRest: 0.05 } as const;

interface Stroke {
  readonly id: EventId;
  readonly up: number;
  readonly down: number;
  /** What it costs to come in the same direction as before. */
  readonly lift: number;
  /** A rest lies before. */
  readonly isAfterRest: boolean;
}

/**
 * Bows for a line, by shortest path over its strokes: notes under one slur are one. Only what a player would not take for
 * granted is marked: the first stroke, each after a rest, and each lift.
 */
export function bowStrokes(notes: readonly SoundingNote[], bars: readonly Bar[], meter: Meter): ReadonlyMap<EventId, Articulation> {
  const spans = barSpans({ bars, meter });
  let open = 0;
  const strokes = notes.flatMap((note, index): readonly Stroke[] => {
    const isInside = open > 0;
    open += (note.first.slurStarts ?? 0) - (note.first.slurEnds ?? 0);
    if (isInside) return [];
    const before = notes[index - 1];
    const next = notes[index + 1];
    const isUpbeat = next !== undefined && next.inBar === 0 && note.inBar !== 0;
    const isAfterRest = before !== undefined && before.start + before.length < note.start;
    return [{
      id: note.first.id, isAfterRest, lift: isAfterRest ? COSTS.liftInRest : note.inBar === 0 ? COSTS.liftAtBarline : COSTS.lift,
      up: note.inBar === 0 ? COSTS.upOnDownbeat : note.inBar === middleOf(spans[note.bar]?.meter ?? meter) ? COSTS.upOnMiddle : 0, down: isUpbeat ? COSTS.downOnUpbeat : 0,
    }];
  });
  interface Path { readonly cost: number; readonly isDown: boolean; readonly lifts: boolean; readonly before?: Path }
  let paths: readonly Path[] = [];
  for (const stroke of strokes) {
    paths = [true, false].map((isDown): Path => {
      const here = isDown ? stroke.down : stroke.up;
      const reach = paths.map((path) => ({ path, lifts: path.isDown === isDown, cost: path.cost + (path.isDown === isDown ? stroke.lift : 0) }));
      const best = reach.reduce<(typeof reach)[number] | undefined>((least, one) => (!least || one.cost < least.cost ? one : least), undefined);
      return { cost: here + (best?.cost ?? 0), isDown, lifts: best?.lifts ?? false, ...(best && { before: best.path }) };
    });
  }
  const marks = new Map<EventId, Articulation>();
  let index = strokes.length - 1;
  for (let path = paths.reduce<Path | undefined>((least, one) => (!least || one.cost < least.cost ? one : least), undefined); path; path = path.before) {
    const stroke = strokes[index];
    if (stroke && (index === 0 || path.lifts || stroke.isAfterRest)) marks.set(stroke.id, path.isDown ? 'down-bow' : 'up-bow');
    index -= 1;
  }
  return marks;
}
