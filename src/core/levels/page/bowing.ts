import { semitones } from '../../pitch';
import { type Articulation, type Bar, barSpans, type EventId, type SoundingNote } from '../../score';
import { isCompound, type Meter, middleOf, weightAt } from '../../time';

/**
 * Costs of bow directions: strong beats fall down, upbeats up, and the bow goes to and fro unless it is lifted. The
 * rule of the down-bow is as old as the bow's teaching (e.g. L. Mozart, Violinschule, 1756, ch. 4); the figures are
 * ours. Where a bar has an odd number of strokes, two weak notes under one bow are better than a lift at the barline,
 * as waltzes are played.
 */
const COSTS = {
  upOnDownbeat: 2,
  /** A note that fills its bar: then the bow goes to and fro, bar by bar, and is not lifted. */
  upOnFullBar: 0.2,
  upOnMiddle: 0.6,
  downOnUpbeat: 0.5,
  liftAtBarline: 1,
  lift: 1.8,
  liftInRest: 0.05,
  joined: 0.7,
  /** It is what an equal bar does. */
  settled: -4,
  joinedFromDownbeat: 0.25,
  joinedOverMiddle: 0.6,
} as const;

interface Stroke {
  readonly id: EventId;
  readonly up: number;
  readonly down: number;
  /** What it costs to come in the same direction as before. */
  readonly lift: number;
  /** What it costs to go on under the bow before; none where it cannot. */
  readonly join: number | undefined;
  /** A rest lies before. */
  readonly isAfterRest: boolean;
}

/** How a line is bowed. */
export interface Bowing {
  /** Directions that a player would not take for granted. */
  readonly marks: ReadonlyMap<EventId, Articulation>;
  /** Two notes under one bow that the line does not slur itself: their events. */
  readonly slurs: readonly (readonly [EventId, EventId])[];
}

/**
 * Bows for a line, by shortest path over its strokes: notes under one slur are one, and two single notes may be put
 * under one bow, in equal bars alike. Only what a player would not take for granted is marked: the first stroke, each after a rest, and each
 * lift.
 * @param mayJoin whether notes may be put under one bow that the line does not slur
 */
export function bowStrokes(
  notes: readonly SoundingNote[],
  bars: readonly Bar[],
  meter: Meter,
  mayJoin: boolean,
): Bowing {
  const free = strokesOf(notes, bars, meter, () => mayJoin);
  if (!mayJoin) return free;
  const kinds = barKinds(notes, bars);
  const joined = new Set(free.slurs.map(([, id]) => id));
  const decided = new Map<string, Set<string>>();
  const settled = new Map<EventId, boolean>();
  // What the first of equal bars does, all do.
  for (const { kind, ids } of kinds) {
    const own = new Set(ids.flatMap((id, k) => (joined.has(id) ? [String(k)] : [])));
    const first = decided.get(kind) ?? own;
    decided.set(kind, first);
    ids.forEach((id, k) => settled.set(id, first.has(String(k))));
  }
  const differ = [...settled].some(([id, isJoined]) => isJoined !== joined.has(id));
  return differ ? strokesOf(notes, bars, meter, (id) => settled.get(id) ?? false, true) : free;
}

/** Bars of the same rhythm and line are of one kind; the notes struck in each. */
function barKinds(
  notes: readonly SoundingNote[],
  bars: readonly Bar[],
): readonly { readonly kind: string; readonly ids: readonly EventId[] }[] {
  const inBars: SoundingNote[][] = bars.map(() => []);
  for (const note of notes) inBars[note.bar]?.push(note);
  return inBars.map((own) => ({
    kind: own
      .map(({ inBar, length, pitch, first }, k) => {
        const isAgain = k > 0 && semitones(own[k - 1]?.pitch ?? pitch) === semitones(pitch);
        return `${inBar}:${length}${isAgain ? '=' : ''}${first.slurStarts ? '(' : ''}${first.slurEnds ? ')' : ''}`;
      })
      .join(' '),
    ids: own.map(({ first }) => first.id),
  }));
}

/** @param isSettled what may be joined must be */
function strokesOf(
  notes: readonly SoundingNote[],
  bars: readonly Bar[],
  meter: Meter,
  mayJoin: (id: EventId) => boolean,
  isSettled = false,
): Bowing {
  const spans = barSpans({ bars, meter });
  let open = 0;
  let isSingleBefore = false;
  const strokes = notes.flatMap((note, index): readonly Stroke[] => {
    const isInside = open > 0;
    open += (note.first.slurStarts ?? 0) - (note.first.slurEnds ?? 0);
    const [wasSingle, isSingle] = [isSingleBefore, !isInside && isPlain(note)];
    isSingleBefore = isSingle;
    if (isInside) return [];
    const ownMeter = spans[note.bar]?.meter ?? meter;
    const joins = wasSingle && isSingle && mayJoin(note.first.id) && canJoin(notes[index - 1], note, ownMeter);
    const cost = isSettled ? COSTS.settled : COSTS.joined;
    return [strokeOf(notes, index, ownMeter, spans[note.bar]?.length ?? Infinity, joins ? cost : undefined)];
  });
  interface Path {
    readonly cost: number;
    readonly isDown: boolean;
    readonly lifts: boolean;
    readonly isJoined: boolean;
    readonly before?: Path;
  }
  const cheapest = (options: readonly Path[]) =>
    options.reduce<Path | undefined>((least, one) => (!least || one.cost < least.cost - 1e-9 ? one : least), undefined);
  let paths: readonly Path[] = [];
  for (const stroke of strokes) {
    const next: Path[] = [];
    for (const isDown of [true, false]) {
      const here = isDown ? stroke.down : stroke.up;
      if (paths.length === 0) {
        next.push({ cost: here, isDown, lifts: false, isJoined: false });
        continue;
      }
      const fresh = cheapest(
        paths.map((path): Path => ({
          cost: path.cost + here + (path.isDown === isDown ? stroke.lift : 0),
          isDown,
          lifts: path.isDown === isDown,
          isJoined: false,
          before: path,
        })),
      );
      const { join } = stroke;
      // Under one bow the direction is that of the note before; three are not put under one.
      const joined =
        join === undefined
          ? undefined
          : cheapest(
              paths
                .filter((path) => path.isDown === isDown && !path.isJoined)
                .map((path): Path => ({ cost: path.cost + join, isDown, lifts: false, isJoined: true, before: path })),
            );
      next.push(...[fresh, joined].filter((path) => path !== undefined));
    }
    paths = next;
  }
  const marks = new Map<EventId, Articulation>();
  const slurs: (readonly [EventId, EventId])[] = [];
  let index = strokes.length - 1;
  for (let path = cheapest(paths); path; path = path.before) {
    const stroke = strokes[index];
    const before = strokes[index - 1];
    if (stroke && path.isJoined && before) slurs.unshift([before.id, stroke.id]);
    else if (stroke && (index === 0 || path.lifts || stroke.isAfterRest))
      marks.set(stroke.id, path.isDown ? 'down-bow' : 'up-bow');
    index -= 1;
  }
  return { marks, slurs };
}

/** Whether a note may go under the bow of the one before it. */
function canJoin(before: SoundingNote | undefined, note: SoundingNote, meter: Meter): boolean {
  return (
    before !== undefined &&
    before.start + before.length >= note.start &&
    note.inBar !== 0 &&
    before.bar === note.bar &&
    // In compound time a strong note takes the weak ones after it, never the other way.
    !(isCompound(meter) && weightAt(meter, note.inBar) >= 0.5) &&
    semitones(before.pitch) !== semitones(note.pitch)
  );
}

/** @param joined what it costs to go on under the bow before; none where it cannot */
function strokeOf(
  notes: readonly SoundingNote[],
  index: number,
  meter: Meter,
  barLength: number,
  joined: number | undefined,
): Stroke {
  const [before, note, next] = [notes[index - 1], notes[index] as SoundingNote, notes[index + 1]];
  const isAfterRest = before !== undefined && before.start + before.length < note.start;
  const isMiddle = note.inBar === middleOf(meter);
  const isUpbeat = next !== undefined && next.inBar === 0 && note.inBar !== 0;
  const upOnFirst = note.length >= barLength ? COSTS.upOnFullBar : COSTS.upOnDownbeat;
  return {
    id: note.first.id,
    isAfterRest,
    lift: isAfterRest ? COSTS.liftInRest : note.inBar === 0 ? COSTS.liftAtBarline : COSTS.lift,
    join:
      joined === undefined
        ? undefined
        : joined + (before?.inBar === 0 ? COSTS.joinedFromDownbeat : 0) + (isMiddle ? COSTS.joinedOverMiddle : 0),
    up: note.inBar === 0 ? upOnFirst : isMiddle ? COSTS.upOnMiddle : 0,
    down: isUpbeat ? COSTS.downOnUpbeat : 0,
  };
}

/** A note of its own bow: neither slurred, tied nor detached. */
function isPlain({ first }: SoundingNote): boolean {
  return (
    !first.slurStarts &&
    !first.slurEnds &&
    !first.tied &&
    !first.chord &&
    // A triplet is slurred whole or not at all.
    !first.tuplet &&
    !(first.articulations ?? []).some((mark) => mark !== 'tenuto')
  );
}
