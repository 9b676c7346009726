import type { Mechanism } from '../instruments';
import {
  type Key,
  type Pitch,
  type PitchClass,
  readableInterval,
  semitones,
  signatureOf,
  transpose,
  transposeKey,
} from '../pitch';
import { ordinal } from './fingering';

interface ShapePlace {
  /** 1 is the highest string. */
  readonly string: number;
  readonly fret: number;
  readonly finger: number;
  readonly pitch: Pitch;
}

/** A scale of an octave or two in one place of the hand, without open strings, so that it can be moved along the neck. */
export interface MovableShape {
  readonly rootString: number;
  readonly hand: number;
  readonly places: readonly ShapePlace[];
}

/** The shape in one key: the same fingers, so many frets on. */
export interface ShapeStep {
  /** Written. */
  readonly key: Key;
  readonly hand: number;
  readonly notes: readonly Pitch[];
}

type Fretted = Extract<Mechanism, { readonly kind: 'fretted' }>;

/** Costs of a shape: a stretched little finger, a hand far up the neck, a root that is not on a low string. */
const COSTS = { stretch: 2, hand: 0.3, string: 0.2 } as const;

/**
 * The handiest movable shape for a written scale: an octave of it, or two, under four fingers and a stretch.
 * @returns `undefined` where the strings lie too far apart for one
 */
export function movableShape(
  { strings, frets }: Fretted,
  { tonic, notes: scale }: { readonly tonic: PitchClass; readonly notes: readonly PitchClass[] },
  octaves: 1 | 2 = 1,
): MovableShape | undefined {
  let best: { readonly shape: MovableShape; readonly cost: number } | undefined;
  strings.forEach((open, index) => {
    const rootString = strings.length - index;
    for (let octave = 1; octave <= 6; octave += 1) {
      const root: Pitch = { ...tonic, octave };
      const rootFret = semitones(root) - semitones(open);
      if (rootFret < 1 || rootFret > 12) continue;
      const notes = upwards(octaves === 2 ? [...scale, ...scale] : scale, root);
      for (let hand = Math.max(1, rootFret - 3); hand <= rootFret; hand += 1) {
        const places = placesIn(notes, strings, hand, frets, rootString);
        if (!places) continue;
        const stretches = places.filter(({ fret }) => fret === hand + 4).length;
        const cost = COSTS.stretch * stretches + COSTS.hand * hand + COSTS.string * (strings.length - rootString);
        if (!best || cost < best.cost) best = { shape: { rootString, hand, places }, cost };
      }
    }
  });
  return best?.shape;
}

/** Up from the root, the root above included. */
function upwards(scale: readonly PitchClass[], root: Pitch): readonly Pitch[] {
  const notes: Pitch[] = [];
  for (const degree of [...scale, ...scale.slice(0, 1)]) {
    const before = notes.at(-1) ?? root;
    const here = { ...degree, octave: before.octave };
    notes.push(notes.length > 0 && semitones(here) <= semitones(before) ? { ...here, octave: here.octave + 1 } : here);
  }
  return notes;
}

/**
 * Each note on the lowest-numbered place of the hand that keeps going up the strings; none where one is out of reach.
 */
function placesIn(
  notes: readonly Pitch[],
  strings: readonly Pitch[],
  hand: number,
  frets: number,
  rootString: number,
): readonly ShapePlace[] | undefined {
  const places: ShapePlace[] = [];
  for (const pitch of notes) {
    const last = places.at(-1)?.string ?? rootString;
    let found: ShapePlace | undefined;
    for (let string = last; string >= 1 && !found; string -= 1) {
      const open = strings[strings.length - string];
      const fret = open ? semitones(pitch) - semitones(open) : -1;
      if (fret < hand || fret > hand + 4 || fret > frets || fret < 1) continue;
      // A stretch is taken only where the next string does not have the note under the hand.
      const next = strings[strings.length - string + 1];
      const onNext = next ? semitones(pitch) - semitones(next) : -1;
      if (fret === hand + 4 && onNext >= hand && onNext <= hand + 3) continue;
      found = { string, fret, finger: Math.min(4, fret - hand + 1), pitch };
    }
    if (!found) return undefined;
    places.push(found);
  }
  return places;
}

/** `root on the 6th string, second finger`: how a player finds it again. */
export function shapeName({ rootString, places }: MovableShape): string {
  const finger = places[0]?.finger ?? 1;
  return `root on the ${['', '1st', '2nd', '3rd'][rootString] ?? `${rootString}th`} string, ${ordinal(finger)} finger`;
}

/**
 * The shape moved on by one fret at a time, as far as the neck goes, for a year of keys at most: each with the note
 * names to say.
 */
export function shapeSteps(shape: MovableShape, { frets }: Fretted, key: Key): readonly ShapeStep[] {
  const top = Math.max(...shape.places.map(({ fret }) => fret));
  return Array.from({ length: Math.min(12, frets - top + 1) }, (_, k): ShapeStep => {
    const moved = readableInterval(key, { diatonic: [0, 1, 1, 2, 2, 3, 3, 4, 5, 5, 6, 6][k] ?? 0, chromatic: k });
    return {
      key: transposeKey(key, moved),
      hand: shape.hand + k,
      notes: shape.places.map(({ pitch }) => transpose(pitch, moved)),
    };
  });
}

/** Steps in the order of the fourths instead of the frets: next key, not next fret. */
export function inFourths(steps: readonly ShapeStep[]): readonly ShapeStep[] {
  return steps.toSorted((a, b) => signatureOf(b.key) - signatureOf(a.key));
}
