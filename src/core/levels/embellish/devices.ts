import {
  chroma,
  type Key,
  leadingNoteTo,
  type Pitch,
  type PitchClass,
  scaleStep,
  semitones,
  staffPosition,
} from '../../pitch';
import type { Note, Ornament, Style } from '../../score';
import type { Ticks } from '../../time';
import type { Device } from '../../work';

/** How gladly a device is taken where several would do. Figures are ours: what singers add unasked comes first. */
export const DEVICE_WEIGHTS: Readonly<Record<Device, number>> = {
  passing: 1,
  neighbour: 0.6,
  fill: 0.9,
  'chord-tone': 0.5,
  'run-in': 0.9,
  again: 0.25,
  approach: 0.5,
  enclosure: 0.6,
  anticipation: 0.7,
  'double-time': 0.3,
  triplet: 0.6,
  grace: 0.45,
  turn: 0.4,
};

/** A struck note of the line, with all that a device wants to know of its place. */
export interface Spot {
  readonly event: Note;
  /** The note struck next. */
  readonly next: Note | undefined;
  /** No rest lies between. */
  readonly isJoined: boolean;
  readonly isOnBeat: boolean;
  /** A beat that people count, here. */
  readonly beat: Ticks;
  readonly key: Key;
  /** The chord in force; none where there is no chord. */
  readonly tones: readonly PitchClass[];
  /** How letters are spelled here: by the chord, then by what the tune itself has nearby, then by the key. */
  readonly spelling: readonly PitchClass[];
  readonly style: Style;
  /** The level varies the tune's notes, and does not only fill between them. */
  readonly varies: boolean;
  /** Beats are cut in three anyway. */
  readonly isCompound: boolean;
  /** Shortest added note that the level plays at its tempo. */
  readonly units: readonly Ticks[];
  /** No note may be shorter. */
  readonly quickest: Ticks;
  /** Signs may stand on short notes and on the ends of phrases too: where else there would be nothing left to add. */
  readonly isPressed: boolean;
}

/** A note's place cut into several; the first is always the note itself. */
export interface Piece {
  readonly pitch: Pitch;
  readonly length: Ticks;
  /** It is one of three in the time of two. */
  readonly isThird?: true;
}

/** What a device makes of a note: pieces in its place, or signs on it. */
export type Figure =
  | { readonly kind: 'pieces'; readonly pieces: readonly Piece[] }
  | { readonly kind: 'signs'; readonly signs: Pick<Note, 'graces' | 'ornaments'> };

/** The devices that work on one struck note; the run-in works on a rest, the anticipation on two notes. */
export type NoteDevice = Exclude<Device, 'run-in' | 'anticipation'>;

/**
 * All figures of a device at a place; none where it does not fit. Range and printed lengths are looked at by the
 * caller.
 */
export function figuresOf(device: NoteDevice, spot: Spot): readonly Figure[] {
  switch (device) {
    case 'passing':
      return pieces(passing(spot));
    case 'neighbour':
      return pieces(neighbour(spot));
    case 'fill':
      return pieces(fill(spot));
    case 'chord-tone':
      return pieces(chordTone(spot));
    case 'again':
      return pieces(again(spot));
    case 'approach':
      return pieces(approach(spot));
    case 'enclosure':
      return pieces(enclosure(spot));
    case 'double-time':
      return pieces(doubleTime(spot));
    case 'triplet':
      return pieces(triplet(spot));
    case 'grace':
      return grace(spot);
    case 'turn':
      return turn(spot);
  }
}

const NONE: readonly Figure[] = [];

function pieces(rows: readonly (readonly Piece[])[]): readonly Figure[] {
  return rows.length === 0 ? NONE : rows.map((row) => ({ kind: 'pieces', pieces: row }));
}

/** Letters from this note to the next, where they follow without a rest. */
function stepsOn({ event, next, isJoined }: Spot): number | undefined {
  return next && isJoined ? staffPosition(next.pitch) - staffPosition(event.pitch) : undefined;
}

const at = (spot: Spot, steps: number, from: Pitch = spot.event.pitch) =>
  scaleStep(from, steps, spot.key, spot.spelling);

/** The note itself, and after it the others, a unit each. */
function tailed(spot: Spot, unit: Ticks, tail: readonly Pitch[]): readonly Piece[] {
  const rest = spot.event.length - unit * tail.length;
  return rest < unit
    ? []
    : [{ pitch: spot.event.pitch, length: rest }, ...tail.map((pitch) => ({ pitch, length: unit }))];
}

const filled = (rows: readonly (readonly Piece[])[]) => rows.filter((row) => row.length > 0);

/** The notes between, where the line leaps a third, fourth or fifth. */
function passing(spot: Spot): readonly (readonly Piece[])[] {
  const steps = stepsOn(spot);
  if (steps === undefined || Math.abs(steps) < 2 || Math.abs(steps) > 4) return [];
  const between = Array.from({ length: Math.abs(steps) - 1 }, (_, k) => at(spot, Math.sign(steps) * (k + 1)));
  return filled(spot.units.map((unit) => (between.length * unit > spot.beat ? [] : tailed(spot, unit, between))));
}

/** A step away and back: before the same note again, or on a long one, which is touched and then goes on. */
function neighbour(spot: Spot): readonly (readonly Piece[])[] {
  const steps = stepsOn(spot);
  if (steps === 0)
    return filled(spot.units.flatMap((unit) => [1, -1].map((side) => tailed(spot, unit, [at(spot, side)]))));
  const unit = spot.units[0];
  const { event, beat, style } = spot;
  // A dance turns even its dotted notes into running ones.
  const least = style === 'dance' ? 3 : 4;
  if (steps === undefined || !unit || event.length < 1.5 * beat || least * unit > event.length) return [];
  return filled([1, -1].map((side) => tailed(spot, unit, [at(spot, side), event.pitch])));
}

/** The last beat of a long note walks into the next one. */
function fill(spot: Spot): readonly (readonly Piece[])[] {
  const steps = stepsOn(spot);
  const unit = spot.units[0];
  const { next } = spot;
  if (steps === undefined || !next || !unit || Math.abs(steps) > 5 || spot.event.length < 2 * spot.beat) return [];
  const count = Math.round(spot.beat / unit);
  if (count < 2 || count > 3) return [];
  const sides = steps === 0 ? [1, -1] : [Math.sign(steps)];
  return filled(
    sides.map((side) =>
      tailed(
        spot,
        unit,
        Array.from({ length: count }, (_, k) => at(spot, -side * (count - k), next.pitch)),
      ),
    ),
  );
}

/**
 * Half of a long note goes to another note of its chord; the last eighth of a short one does, where it comes near to
 * what follows.
 */
function chordTone(spot: Spot): readonly (readonly Piece[])[] {
  const { event, next, tones, beat, isCompound } = spot;
  if (tones.length < 3 || !next) return [];
  const near = [-4, -3, -2, 2, 3, 4]
    .map((steps) => at(spot, steps))
    .filter((pitch) => tones.some((tone) => chroma(tone) === chroma(pitch) && tone.step === pitch.step))
    .filter((pitch) => semitones(pitch) !== semitones(next.pitch));
  if (event.length >= 2 * beat) {
    const half = event.length / 2;
    return near.map((pitch) => [
      { pitch: event.pitch, length: event.length - half },
      { pitch, length: half },
    ]);
  }
  const [unit] = spot.units;
  if (!spot.varies || !unit || event.length < (isCompound ? (beat * 2) / 3 : beat) || !spot.isJoined) return [];
  const close = near.filter(
    (pitch) =>
      Math.abs(staffPosition(pitch) - staffPosition(event.pitch)) <= 3 &&
      Math.abs(staffPosition(pitch) - staffPosition(next.pitch)) <= 3,
  );
  return filled(close.map((pitch) => tailed(spot, unit, [pitch])));
}

/** The note is struck again before the next. */
function again(spot: Spot): readonly (readonly Piece[])[] {
  return filled(
    spot.units.map((unit) => (spot.event.length > 2 * spot.beat ? [] : tailed(spot, unit, [spot.event.pitch]))),
  );
}

/** The half step below the next note, just before it. */
function approach(spot: Spot): readonly (readonly Piece[])[] {
  const steps = stepsOn(spot);
  const into = spot.next && leadingNoteTo(spot.next.pitch);
  if (steps === undefined || !into || Math.abs(steps) > 3 || semitones(into) === semitones(spot.event.pitch)) return [];
  return filled(spot.units.map((unit) => tailed(spot, unit, [into])));
}

/** The next note from both sides: the step above it, the half step below. */
function enclosure(spot: Spot): readonly (readonly Piece[])[] {
  const steps = stepsOn(spot);
  const { next } = spot;
  const below = next && leadingNoteTo(next.pitch);
  if (steps === undefined || !next || !below || Math.abs(steps) > 3) return [];
  const above = at(spot, 1, next.pitch);
  return filled(
    spot.units.map((unit) =>
      [above, below].some((pitch) => semitones(pitch) === semitones(spot.event.pitch))
        ? []
        : tailed(spot, unit, [above, below]),
    ),
  );
}

/** Letters away from the note of the three that follow it, by the letters to the next note: always arriving by step. */
const DOUBLE_TIME: Readonly<Record<number, readonly number[]>> = {
  0: [1, 0, -1],
  1: [-1, 0, 2],
  [-1]: [1, 0, -2],
  2: [-1, 0, 1],
  [-2]: [1, 0, -1],
  3: [1, 4, 2],
  [-3]: [-1, -4, -2],
  4: [1, 2, 3],
  [-4]: [-1, -2, -3],
};

/** A beat in notes of half the usual length. */
function doubleTime(spot: Spot): readonly (readonly Piece[])[] {
  const steps = stepsOn(spot);
  const unit = spot.units.at(-1);
  const offsets = steps === undefined ? undefined : DOUBLE_TIME[steps];
  if (!offsets || !unit || spot.units.length < 2 || !spot.isOnBeat || spot.event.length !== 4 * unit) return [];
  return [
    tailed(
      spot,
      unit,
      offsets.map((steps_) => at(spot, steps_)),
    ),
  ];
}

/**
 * Three in the time of two: the beat of a short note turns round it or runs on, the last beat of a long one runs into
 * the next.
 */
function triplet(spot: Spot): readonly (readonly Piece[])[] {
  const steps = stepsOn(spot);
  const { event, next, beat, isCompound } = spot;
  if (steps === undefined || !next || isCompound || beat % 3 !== 0 || Math.abs(steps) > 5) return [];
  const third = beat / 3;
  if (third < spot.quickest) return [];
  const thirds = (pitches: readonly Pitch[]): readonly Piece[] =>
    pitches.map((pitch) => ({ pitch, length: third, isThird: true as const }));
  if (event.length === beat) {
    const side = Math.sign(steps);
    if (Math.abs(steps) === 3) return [thirds([event.pitch, at(spot, side), at(spot, 2 * side)])];
    if (Math.abs(steps) > 1) return [];
    // Round the note, on the side that the line does not go to.
    return [thirds([event.pitch, at(spot, steps === 0 ? 1 : -side), event.pitch])];
  }
  if (event.length !== 2 * beat && event.length !== 3 * beat) return [];
  return [1, -1].flatMap((side): readonly (readonly Piece[])[] => {
    const run = [3, 2, 1].map((from) => at(spot, -side * from, next.pitch));
    const joint = staffPosition(run[0] ?? event.pitch) - staffPosition(event.pitch);
    return Math.abs(joint) < 1 || Math.abs(joint) > 2
      ? []
      : [[{ pitch: event.pitch, length: event.length - beat }, ...thirds(run)]];
  });
}

const bearsSign = ({ event, isOnBeat, beat, isPressed }: Spot) => isPressed || (isOnBeat && event.length >= beat);

/** A short note before a strong one; in dances any note on the beat may be cut so. */
function grace(spot: Spot): readonly Figure[] {
  const { graces = [] } = spot.event;
  const isCut = spot.style === 'dance' && spot.isOnBeat && spot.event.length * 3 >= spot.beat;
  if (graces.length > (spot.isPressed ? 2 : 0) || (!isCut && !bearsSign(spot))) return [];
  // A cut comes from above.
  return (isCut ? [1] : [1, -1]).map((side): Figure => ({
    kind: 'signs',
    signs: { graces: [{ pitch: at(spot, side), slashed: true }, ...graces] },
  }));
}

/** What a style puts on a note of a beat or more. Rolls are the dances', mordents the others'. */
const SIGNS: Readonly<Record<Style, readonly Ornament[]>> = {
  dance: ['roll'],
  modal: ['mordent'],
  hymn: ['turn'],
  song: ['turn', 'mordent'],
  rock: ['mordent'],
  blues: ['mordent'],
  jazz: ['turn'],
};

/** A sign on a note of a beat or more. */
function turn(spot: Spot): readonly Figure[] {
  if (spot.event.ornaments || !bearsSign(spot)) return [];
  return SIGNS[spot.style].map((ornament): Figure => ({
    kind: 'signs',
    signs: { ornaments: [ornament] },
  }));
}
