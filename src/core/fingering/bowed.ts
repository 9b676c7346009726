import type { BowedHand } from '../instruments';
import { type Pitch, semitones, staffPosition } from '../pitch';
import type { BowedFingering, Placement } from './fingering';

/** Highest position that is offered; thumb positions of the low strings are left to the teacher. */
const MAX_POSITIONS = 8;

/**
 * Letters above the open string that a place (half steps above it) may be called in the frame of the hand, the usual
 * first. Follows from fourths and fifths between strings: the first finger lies one or two half steps up, the fourth
 * six to eight.
 */
const LETTERS_OF_PLACE: readonly (readonly number[])[] = [
  [0],
  [1],
  [1],
  [2],
  [2, 3],
  [3],
  [3, 4],
  [4],
  [5, 4],
  [5],
  [6],
  [6],
  [7],
  [7, 8],
  [8],
  [9],
  [9, 10],
  [10],
  [10, 11],
  [11],
  [11, 12],
  [12],
  [12],
  [13],
  [13],
  [14],
];
/**
 * The place a finger usually takes for a letter in first position: what is below is low, above high. The second finger
 * has two and is always told.
 */
const USUAL_PLACES: Readonly<Record<number, readonly number[]>> = {
  1: [2],
  3: [5],
  4: [7],
  5: [9],
  7: [12],
  8: [14],
  10: [17],
  11: [19],
  12: [21],
};

interface Way {
  readonly fingering: BowedFingering;
  readonly cost: number;
}

/**
 * All ways to stop a pitch. Violin and viola by letters: in first position the first finger plays the first letter
 * above the open string. Cello by half steps, with the stretch between first and second finger, forwards and back
 * (extended positions, as cello methods teach them); double bass by half steps with fingers 1, 2 and 4.
 * @param strings lowest first
 */
export function bowedWays(pitch: Pitch, strings: readonly Pitch[], hand: BowedHand): readonly Way[] {
  return strings.flatMap((open, index) => {
    const above = semitones(pitch) - semitones(open);
    const string = strings.length - index;
    if (above < 0) return [];
    if (above === 0) return openWays(string);
    return hand === 'violin' ? byLetters(pitch, open, above, string) : byHalfSteps(above, string, hand);
  });
}

/** An open string sounds whatever position the hand waits in. */
function openWays(string: number): readonly Way[] {
  return Array.from({ length: 5 }, (_, k): Way => ({
    fingering: { kind: 'bowed', string, finger: 0, position: k + 1, placement: 'usual', above: 0 },
    cost: 0.02 * k,
  }));
}

function byLetters(pitch: Pitch, open: Pitch, above: number, string: number): readonly Way[] {
  const allowed = LETTERS_OF_PLACE[above];
  if (!allowed) return [];
  const written = staffPosition(pitch) - staffPosition(open);
  const letters = allowed.includes(written) ? written : (allowed[0] ?? written);
  const ways: Way[] = [];
  for (let position = 1; position <= MAX_POSITIONS; position += 1) {
    const finger = letters - position + 1;
    if (finger >= 1 && finger <= 4)
      ways.push({
        fingering: {
          kind: 'bowed',
          string,
          finger,
          position,
          placement: position === 1 ? placementOf(letters, above) : 'usual',
          above,
        },
        cost: positionCost(position) + (position % 2 === 0 ? COSTS.evenPosition : 0),
      });
    else if (finger === 5)
      ways.push({
        fingering: { kind: 'bowed', string, finger: 4, position, placement: 'stretched', above },
        cost: positionCost(position) + COSTS.stretch,
      });
  }
  return ways;
}

function placementOf(letters: number, above: number): Placement {
  const usual = USUAL_PLACES[letters]?.[0];
  if (usual === undefined) {
    const places = LETTERS_OF_PLACE.flatMap((of, place) => (of.includes(letters) ? [place] : []));
    return above <= (places[0] ?? above) ? 'low' : 'high';
  }
  return above < usual ? 'low' : above > usual ? 'high' : 'usual';
}

const COSTS = {
  /** The fourth finger, or the first of a cellist, a place further than it lies. */
  stretch: 1.2,
  /** For each position up; thumb-side ones are for those who know them. */
  position: 0.35,
  /** The third and fifth positions are learned before the second and fourth. */
  evenPosition: 0.3,
  /** Of a cellist: between the positions that have a name of their own. */
  between: 0.5,
} as const;

function positionCost(position: number): number {
  return COSTS.position * (position === 0 ? 1 : position - 1);
}

/**
 * The position in which the first finger lies so many half steps above the open string, as cello and bass methods
 * number them.
 */
const POSITION_OF_FIRST: readonly number[] = [0, 0, 1, 2, 2, 3, 3, 4, 5, 5, 6, 6, 7, 7, 7];

function byHalfSteps(above: number, string: number, hand: BowedHand): readonly Way[] {
  const fingers: readonly (readonly [number, number])[] =
    hand === 'cello'
      ? [
          [1, 0],
          [2, 1],
          [3, 2],
          [4, 3],
        ]
      : [
          [1, 0],
          [2, 1],
          [4, 2],
        ];
  const ways: Way[] = [];
  const add = (finger: number, first: number, placement: Placement, stretch: number) => {
    const position = POSITION_OF_FIRST[first];
    if (position === undefined || first < 1) return;
    const isBetween = hand === 'cello' && (first === 1 || first === 3 || first === 6 || first === 8);
    ways.push({
      fingering: { kind: 'bowed', string, finger, position, placement, above },
      cost: positionCost(position) + (isBetween ? COSTS.between : 0) + stretch,
    });
  };
  // The first finger may also stretch back a half step, the hand staying where it is: B♭ beside C, C♯ and D on the A
  // string.
  if (hand === 'cello') add(1, above + 1, 'stretched', COSTS.stretch / 2);
  for (const [finger, offset] of fingers) {
    add(finger, above - offset, 'usual', 0);
    // The stretched hand of a cellist: the first finger stays, the others lie a half step on.
    if (hand === 'cello' && finger > 1) add(finger, above - offset - 1, 'stretched', COSTS.stretch / 2);
  }
  return ways;
}
