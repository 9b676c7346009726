import {
  chroma,
  fifthsOf,
  type Key,
  keyWithSignature,
  type PitchClass,
  pitchClassAtFifths,
  signatureOf,
} from '../../pitch';
import { heardChord, senseIn, type HeardChord, type KeyFamily, type Sense, type Surroundings } from './inKey';
import type { TimedChord } from './timedChord';

/** A tonic and a family, as one number: the tonic's semitone, plus 12 for minor. */
export type KeyState = number;

export const tonicOf = (state: KeyState): number => state % 12;
export const familyOf = (state: KeyState): KeyFamily => (state < 12 ? 'major' : 'minor');

const FAMILIES_BY_MODE: Readonly<Record<Key['mode'], KeyFamily>> = {
  major: 'major',
  ionian: 'major',
  lydian: 'major',
  mixolydian: 'major',
  minor: 'minor',
  aeolian: 'minor',
  dorian: 'minor',
  phrygian: 'minor',
  locrian: 'minor',
};

export function familyOfKey({ mode }: Key): KeyFamily {
  return FAMILIES_BY_MODE[mode];
}

export function stateOf(key: Key): KeyState {
  return chroma(key.tonic) + (familyOfKey(key) === 'minor' ? 12 : 0);
}

/** A form's chords with what the search asks for again and again. */
export interface HeardForm {
  readonly chords: readonly (HeardChord | undefined)[];
  readonly around: readonly Surroundings[];
  /** What each chord costs in each key, about a bar weighing 1, cadences taken off. */
  readonly costs: readonly (readonly number[])[];
}

export function hearForm(chords: readonly TimedChord[]): HeardForm {
  const heard = chords.map(heardChord);
  const nextOf = heard.map((chord, index) => {
    let next = index + 1;
    while (next < heard.length && (!heard[next] || heard[next]?.root === chord?.root)) next += 1;
    return next;
  });
  const around = nextOf.map((next): Surroundings => ({
    next: heard[next],
    afterNext: heard[nextOf[next] ?? heard.length],
  }));
  return {
    chords: heard,
    around,
    costs: chords.map((chord, index) => {
      const weight = Math.min(WEIGHT.most, Math.max(WEIGHT.least, chord.length / chord.barLength));
      return costsIn(heard, index, around[index], weight);
    }),
  };
}

/** A chord of four bars does not count four times as much as one of one bar. */
const WEIGHT = { least: 0.5, most: 2 } as const;

/**
 * Costs of going from one key to another, against chords that do not belong (1 or more a bar) and the proof of a
 * cadence. Set by trial on the forms of `readForm.test.ts`: four bars of ii–V–I in another key are a move, two are an
 * excursion.
 */
const MOVE = {
  near: 1.9,
  far: 2.3,
  parallel: 1.5,
  fromHome: 0.9,
  toHome: 0.5,
  cadence: 0.8,
  preparedCadence: 0.5,
  firstIsTonic: 1.5,
  lastIsTonic: 1.5,
  lastIsDominant: 1.5,
  mostForHome: 1,
} as const;

/**
 * What the cadence into this chord says for a key: a dominant on its fifth degree before its tonic, prepared by its
 * second.
 */
function cadenceAt(chords: HeardForm['chords'], index: number, state: KeyState): number {
  const [before, chord] = [chords[index - 1], chords[index]];
  if (!before || !chord) return 0;
  const tonic = tonicOf(state);
  if (chord.root !== tonic || (before.root - tonic + 12) % 12 !== 7 || before.class !== 'dominant') return 0;
  const fits = familyOf(state) === 'minor' ? chord.class === 'minor' : chord.class === 'major';
  if (!fits) return 0;
  const two = chords[index - 2];
  const isPrepared =
    two && (two.root - tonic + 12) % 12 === 2 && (two.class === 'minor' || two.class === 'half-diminished');
  return MOVE.cadence + (isPrepared ? MOVE.preparedCadence : 0);
}

function isTonicOf(chord: HeardChord | undefined, state: KeyState): boolean {
  if (chord?.root !== tonicOf(state)) return false;
  return familyOf(state) === 'minor' ? chord.class === 'minor' : chord.class === 'major' || chord.class === 'dominant';
}

const STATES: readonly KeyState[] = Array.from({ length: 24 }, (_, state) => state);

function moveCost(from: KeyState, to: KeyState): number {
  if (from === to) return 0;
  const relative = (tonicOf(to) - tonicOf(from) + 12) % 12;
  if (relative === 0) return MOVE.parallel;
  const isRelative = familyOf(from) === 'major' ? relative === 9 : relative === 3;
  return isRelative && familyOf(from) !== familyOf(to) ? MOVE.near : MOVE.far;
}

function costsIn(
  chords: HeardForm['chords'],
  index: number,
  around: Surroundings | undefined,
  weight: number,
): readonly number[] {
  const chord = chords[index];
  if (!chord || !around) return STATES.map(() => 0);
  return STATES.map(
    (state) => weight * senseIn(chord, tonicOf(state), familyOf(state), around).cost - cadenceAt(chords, index, state),
  );
}

/** From each key to each other. */
const MOVES = Float64Array.from({ length: 24 * 24 }, (_, k) => moveCost(Math.floor(k / 24), k % 24));

const CHEAPEST_MOVE = Math.min(...MOVES.filter((_, k) => Math.floor(k / 24) !== k % 24));

/**
 * The key that the whole form speaks for, where nobody says which. A tune may be elsewhere for most of its way, so the
 * few likely homes (where it begins, where it ends, where most chords belong) are each tried with the cheapest way
 * through the keys from there.
 */
export function homeOf(form: HeardForm): KeyState {
  const first = form.chords.find((chord) => chord !== undefined);
  const heard = form.chords.filter((chord) => chord !== undefined);
  // A tonic that turns into a dominant on its own root (Cm7 C7) leads back to the beginning: the form ends before that.
  const [before, end] = heard.slice(-2);
  const isTurned = before && end?.class === 'dominant' && before.class !== 'dominant' && before.root === end.root;
  const last = isTurned ? before : heard.at(-1);
  const bonus = (state: KeyState) =>
    (isTonicOf(first, state) ? MOVE.firstIsTonic : 0) +
    (isTonicOf(last, state) ? MOVE.lastIsTonic : 0) +
    // A turnaround at the end leads back to the tonic with which the form begins.
    (isTonicOf(first, state) && last?.class === 'dominant' && (last.root - tonicOf(state) + 12) % 12 === 7
      ? MOVE.lastIsDominant
      : 0);
  const sums = STATES.map((state) => -bonus(state));
  for (const costs of form.costs)
    costs.forEach((cost, state) => (sums[state] = (sums[state] ?? 0) + Math.min(cost, MOVE.mostForHome)));
  // Counted from the first chord's root, so that equal sums fall alike in every key.
  const from = first?.root ?? 0;
  const order = STATES.map((k) => ((from + k) % 12) + (k < 12 ? 0 : 12));
  const bestSum = order.reduce(
    (best, next) => ((sums[next] ?? 0) < (sums[best] ?? 0) - 1e-9 ? next : best),
    order[0] ?? 0,
  );
  const likely = order.filter((state) => state === bestSum || isTonicOf(first, state) || isTonicOf(last, state));
  const totals = new Map(likely.map((state) => [state, keyPath(form, state, NOTHING_SAID).cost - bonus(state)]));
  return likely.reduce(
    (best, next) => ((totals.get(next) ?? 0) < (totals.get(best) ?? 0) - 1e-9 ? next : best),
    bestSum,
  );
}

const NOTHING_SAID: ReadonlyMap<number, KeyState> = new Map();

export interface KeyPath {
  readonly states: readonly KeyState[];
  readonly cost: number;
}

/** The key of each chord: the cheapest way through the keys, home at the beginning and, more gently, at the end. */
export function keyPath(form: HeardForm, home: KeyState, fixed: ReadonlyMap<number, KeyState>): KeyPath {
  const count = form.chords.length;
  if (count === 0) return { states: [], cost: 0 };
  // Counted from the home note, so that equal ways fall alike in every key.
  const order = STATES.map((k) => ((tonicOf(home) + k) % 12) + (k < 12 ? 0 : 12));
  const back = new Uint8Array(count * 24);
  let costs = Float64Array.from(STATES, (state) => (state === home ? 0 : moveCost(home, state) + MOVE.fromHome));
  for (let index = 0; index < count; index += 1) {
    const local = form.costs[index] ?? [];
    const set = fixed.get(index);
    const next = new Float64Array(24).fill(Infinity);
    const cheapestMove = costs.reduce((a, b) => Math.min(a, b)) + CHEAPEST_MOVE;
    for (const state of order) {
      if (set !== undefined && state !== set) continue;
      let best = state;
      let least = costs[state] ?? Infinity;
      // Most keys are dearer to come from anywhere than to stay in: those need no look at each other one.
      if (index > 0 && cheapestMove < least - 1e-9)
        for (const other of order) {
          const cost = (costs[other] ?? Infinity) + (MOVES[other * 24 + state] ?? 0);
          if (cost < least - 1e-9) {
            least = cost;
            best = other;
          }
        }
      back[index * 24 + state] = best;
      next[state] = least + (local[state] ?? 0);
    }
    costs = next;
  }
  const endCost = (one: KeyState) => (costs[one] ?? Infinity) + (one === home ? 0 : MOVE.toHome);
  let state = STATES.reduce((best, next) => (endCost(next) < endCost(best) - 1e-9 ? next : best), home);
  const cost = endCost(state);
  const states = Array<KeyState>(count).fill(home);
  for (let index = count - 1; index >= 0; index -= 1) {
    states[index] = state;
    state = back[index * 24 + state] ?? state;
  }
  return { states, cost };
}

export function senseAt(form: HeardForm, index: number, state: KeyState): Sense | undefined {
  const chord = form.chords[index];
  const around = form.around[index];
  return chord && around ? senseIn(chord, tonicOf(state), familyOf(state), around) : undefined;
}

/**
 * A state as a key, spelled near another one: as a chord on its tonic is spelled there, else by the nearest place on
 * the line of fifths. Six sharps or flats at most, else the twin.
 */
export function keyOfState(state: KeyState, chords: readonly TimedChord[], near: number): Key {
  const mode = familyOf(state);
  const own = chords.flatMap(({ symbol }) => (symbol.kind === 'chord' ? [symbol.root] : []));
  const asChord = own.find((root) => chroma(root) === tonicOf(state));
  const key: Key = { tonic: asChord ?? nearestName(tonicOf(state), near), mode };
  const signature = signatureOf(key);
  return Math.abs(signature) <= 7 ? key : keyWithSignature(signature - 12 * Math.sign(signature), mode);
}

/** The name of a semitone nearest to a place on the line of fifths. */
function nearestName(semitone: number, near: number): PitchClass {
  const from = Math.round(near) - 6;
  for (let place = from; place < from + 12; place += 1) {
    const name = pitchClassAtFifths(place);
    if (chroma(name) === semitone) return name;
  }
  throw new RangeError(`no name for semitone ${semitone}`);
}

export function centreOf(chords: readonly TimedChord[]): number {
  const roots = chords.flatMap(({ symbol }) => (symbol.kind === 'chord' ? [fifthsOf(symbol.root)] : []));
  return roots.length === 0 ? 0 : roots.reduce((sum, place) => sum + place, 0) / roots.length;
}
