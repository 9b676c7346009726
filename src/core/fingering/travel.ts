import { derived } from '../derived';
import { fingerOf, type Chart } from './charts/chart';
import type {
  BowedFingering,
  Fingering,
  FrettedFingering,
  HolesFingering,
  SlideFingering,
  ValvesFingering,
} from './fingering';
import type { CostedFingering } from './options';

/** Schools of fingering. The first is the default: open strings, low positions. */
export const FINGER_SCHOOLS = ['open', 'fourth', 'stay', 'lowest'] as const;
/**
 * `open`: open strings first · `fourth`: the fourth finger where it saves a string crossing · `stay`: keep the position
 * · `lowest`: the lowest position there is.
 */
export type FingerSchool = (typeof FINGER_SCHOOLS)[number];

export const SCHOOL_NAMES: Readonly<Record<FingerSchool, string>> = {
  open: 'open strings first',
  fourth: 'fourth finger saves a crossing',
  stay: 'stay in position',
  lowest: 'lowest position',
};

/**
 * What it costs to go from one fingering to the next. Ours, weighed against the rules that methods agree on: a shift
 * costs more than a crossing, a crossing more than a finger, contrary fingers more than fingers of one direction. One
 * table, to be argued with.
 */
const TRAVEL = {
  bowed: { crossing: 0.7, further: 0.5, shift: 2.2, shiftStep: 0.5, shiftOnOpen: 0.5, frame: 1, sameFinger: 0.9 },
  fretted: { crossing: 0.3, shift: 1.6, shiftFret: 0.35, shiftOnOpen: 0.5, sameFinger: 0.6 },
  holes: { finger: 0.12, contrary: 0.35, slide: 3 },
  valves: { valve: 0.15, contrary: 0.2, side: 0.6 },
  slide: { position: 0.5, far: 0.5 },
} as const;

/** School costs: added to a way's own. */
const SCHOOL = {
  /** For an open string where the fourth finger is wanted, and the other way round. */
  openAvoided: 2.5,
  openWanted: 1.6,
  /** For a fret where an open string would do as well. */
  stopped: 0.4,
  /** Shifts weigh so many times as much for those who stay. */
  stay: 3,
  /** For each position up, for those who go as low as they can. */
  lowest: 2.5,
} as const;

/** A fifth up: where strings are tuned in fifths the next one sounds there. */
const FOURTH_FINGER_IS_OPEN = 7;

/** What a school adds to a fingering by itself. */
export function schoolCost(fingering: Fingering, school: FingerSchool): number {
  if (fingering.kind === 'bowed') {
    if (school === 'lowest') return SCHOOL.lowest * Math.abs(fingering.position - 1);
    if (school === 'open')
      return fingering.finger === 4 && fingering.above === FOURTH_FINGER_IS_OPEN ? SCHOOL.openWanted : 0;
    return school === 'fourth' && fingering.finger === 0 ? 0.15 : 0;
  }
  if (fingering.kind === 'fretted') {
    if (school === 'lowest') return SCHOOL.lowest * 0.3 * (fingering.hand - 1);
    if (school === 'open') return fingering.finger === 0 ? 0 : SCHOOL.stopped;
    return fingering.finger === 0 && (school === 'fourth' || school === 'stay') ? SCHOOL.openAvoided : 0;
  }
  return 0;
}

/** The cost of going from one fingering to another of the same instrument; the speed is the caller's business. */
export function moveCost(before: Fingering, after: Fingering, school: FingerSchool, chart?: Chart): number {
  if (before.kind === 'bowed' && after.kind === 'bowed') return bowedMove(before, after, school);
  if (before.kind === 'fretted' && after.kind === 'fretted') return frettedMove(before, after, school);
  if (before.kind === 'holes' && after.kind === 'holes' && chart) return holesCost(before, after, chart);
  if (before.kind === 'valves' && after.kind === 'valves') return valvesCost(before, after);
  if (before.kind === 'slide' && after.kind === 'slide') return slideMove(before, after);
  return 0;
}

/** Whether the hand leaves its place: another position on a fingerboard, another place of the slide. */
export function isShift(before: Fingering, after: Fingering): boolean {
  if (before.kind === 'bowed' && after.kind === 'bowed') return before.position !== after.position;
  if (before.kind === 'fretted' && after.kind === 'fretted') return before.hand !== after.hand;
  return before.kind === 'slide' && after.kind === 'slide' && before.position !== after.position;
}

export function isCrossing(before: Fingering, after: Fingering): boolean {
  return (
    (before.kind === 'bowed' || before.kind === 'fretted') &&
    before.kind === after.kind &&
    before.string !== after.string
  );
}

function bowedMove(a: BowedFingering, b: BowedFingering, school: FingerSchool): number {
  const T = TRAVEL.bowed;
  const strings = Math.abs(a.string - b.string);
  const positions = Math.abs(a.position - b.position);
  let cost = strings === 0 ? 0 : T.crossing + T.further * (strings - 1);
  if (positions > 0) {
    const share = a.finger === 0 || b.finger === 0 ? T.shiftOnOpen : 1;
    cost += (T.shift + T.shiftStep * positions) * share * (school === 'stay' ? SCHOOL.stay : 1);
  } else if (a.finger > 0 && b.finger > 0) {
    // Fingers of one hand lie a half or a whole step apart; what does not fit has to reach.
    const fingers = b.finger - a.finger;
    const places = b.above - a.above;
    if (fingers === 0) cost += places === 0 ? (strings > 0 ? T.sameFinger * 0.4 : 0) : T.sameFinger;
    else {
      const [least, most] = fingers > 0 ? [fingers, 2 * fingers] : [2 * fingers, fingers];
      if (places < least || places > most)
        cost += T.frame * Math.min(2, places < least ? least - places : places - most);
    }
  }
  return cost;
}

function frettedMove(a: FrettedFingering, b: FrettedFingering, school: FingerSchool): number {
  const T = TRAVEL.fretted;
  const strings = Math.abs(a.string - b.string);
  const frets = Math.abs(a.hand - b.hand);
  const share = a.finger === 0 || b.finger === 0 ? T.shiftOnOpen : 1;
  const shift = frets === 0 ? 0 : (T.shift + T.shiftFret * frets) * share * (school === 'stay' ? SCHOOL.stay : 1);
  const same = a.finger > 0 && a.finger === b.finger && a.string !== b.string ? T.sameFinger : 0;
  return T.crossing * strings + shift + same;
}

function holesCost(a: HolesFingering, b: HolesFingering, chart: Chart): number {
  if (a === b) return 0;
  const T = TRAVEL.holes;
  const lifted = a.keys.filter((key) => !b.keys.includes(key));
  const pressed = b.keys.filter((key) => !a.keys.includes(key));
  const up = new Set(lifted.map((key) => fingerOf(chart, key)));
  let slides = 0;
  const down = new Set(pressed.map((key) => fingerOf(chart, key)));
  for (const finger of down) if (up.has(finger) && finger !== 'breath') slides += finger.endsWith('4') ? 1 : 0.2;
  return T.finger * (up.size + down.size) + T.contrary * Math.min(up.size, down.size) + T.slide * slides;
}

function valvesCost(a: ValvesFingering, b: ValvesFingering): number {
  const T = TRAVEL.valves;
  const up = a.valves.filter((valve) => !b.valves.includes(valve)).length;
  const down = b.valves.filter((valve) => !a.valves.includes(valve)).length;
  return T.valve * (up + down) + T.contrary * Math.min(up, down) + (a.thumb === b.thumb ? 0 : T.side);
}

function slideMove(a: SlideFingering, b: SlideFingering): number {
  const distance = Math.abs(a.position - b.position);
  return TRAVEL.slide.position * distance + TRAVEL.slide.far * Math.max(0, distance - 3);
}

/**
 * Costs from every fingering of one pitch (rows) to every fingering of the next (columns): the same pairs of pitches
 * come again and again in a line.
 */
export const moveCosts = derived(
  (
    before: readonly CostedFingering[],
    after: readonly CostedFingering[],
    school: FingerSchool,
    chart: Chart | undefined,
  ): Float64Array =>
    Float64Array.from({ length: before.length * after.length }, (_, k) => {
      const [from, to] = [before[Math.floor(k / after.length)], after[k % after.length]];
      return from && to ? moveCost(from.fingering, to.fingering, school, chart) : 0;
    }),
);
