import { derived } from '../../derived';
import { semitones, staffPosition } from '../../pitch';
import type { SoundingNote } from '../../score';
import type { BeatSign } from './rhythmPrefixes';
import type { Slot } from './slots';

/** What a slot of the simplified melody does: strike a note of the tune (by index), hold on, or rest. */
export type SlotChoice = number | 'hold' | 'rest';

/**
 * How far a line may fall behind the best one before it is given up, in the weights of `noteWeight`. Two lines differ
 * in what they may still strike by the few notes between the ones they struck last, so a lag of several notes is never
 * made good; without a limit every line that once fell silent would be carried to the end.
 */
const GIVEN_UP = 7;

/**
 * Costs of a simplified melody, against the weights of `noteWeight` for what it keeps. Open to argument; the order
 * matters more than the figures.
 */
const COSTS = {
  /** A note moved by a whole slot; less in proportion. A passing note loses its place in the line when it moves. */
  moved: 2,
  /**
   * The same for a tone of the chord that comes where a passing note stood on the beat before it: B (A G) becomes B G.
   */
  movedOntoPassing: 0.3,
  /** The same for a syncopated note that comes on the beat it leans on: that is where it belongs. */
  movedToItsBeat: 0.3,
  /**
   * A weak note on a weak beat: shorter than its slot and no tone of the chord, or the note before once more. Without
   * it every bar fills up with quarters and each tune becomes a march.
   */
  weakStrike: 0.65,
  /** Two notes of one pitch in a row that the tune does not have so. */
  stammer: 0.85,
  /** Each step beyond a fifth of a leap that the tune does not make. */
  leapBeyondFifth: 0.15,
  /** A leap that the tune does not make and that is hard to sing: a sixth, a tritone, a seventh or more. */
  newSixth: 0.2,
  newTritone: 0.4,
  newSeventh: 0.5,
  /** Going up where the tune arrives from above, or the reverse. */
  contour: 0.15,
  /** Holding over a barline where the tune does not. */
  newTie: 1.2,
  /** Holding on, or striking early, where the tune rests. */
  soundInRest: 1,
  /** Resting where the tune sounds. */
  restInSound: 1.5,
  /** Losing the last note of a phrase or the first of the tune: never worth it. */
  lostEnd: 1_000,
} as const;

/** What a state is like, as bits of a number: states that go on alike share one. */
const SHORT = 1;
const SOUNDS = 2;
const OVER = 4;

interface State {
  /** The note struck last, −1 before the first. */
  readonly last: number;
  /**
   * `SOUNDS`; `SHORT`: it was struck between beats, and may not be held over the next one; `OVER`: it was held over the
   * beat that is going on.
   */
  readonly flags: number;
  /** What the beat has so far, where words are allowed one by one. */
  readonly word: string;
  readonly score: number;
  readonly choice: SlotChoice;
  readonly before: State | undefined;
}

const BEGINNING: State = { last: -1, flags: 0, word: '', score: 0, choice: 'rest', before: undefined };

/**
 * Chooses for every slot what it plays, by dynamic programming over the whole tune: the retained weight less the costs
 * is greatest. Ties go to the earlier note, so the result depends on nothing but the tune. Rule (soft), weighed over
 * the whole phrase together: keep notes that carry weight; a syncopated or anticipated note moves to the beat it leans
 * on; contour direction kept; no new repeated-note stammer.
 * @param passing of each note, whether it is short and no tone of its chord
 * @param mustKeep indices of notes that may not be lost
 * @param words what rhythms are allowed beside the slots
 * @param set for each slot what it has to play, where that is settled already
 */
export function chooseNotes(
  notes: readonly SoundingNote[],
  weights: readonly number[],
  slots: readonly Slot[],
  mustKeep: ReadonlySet<number>,
  passing: readonly boolean[],
  {
    untied: isUntied = false,
    undotted: isUndotted = false,
  }: { readonly untied?: boolean; readonly undotted?: boolean } = {},
  set: ReadonlyMap<Slot, SlotChoice> = new Map(),
): readonly SlotChoice[] {
  const keptBefore = countsBefore(notes.length, mustKeep);
  const frontier = new Frontier({ notes, weights, heights: heightsOf(notes), keptBefore, isUntied, isUndotted });
  for (const place of placesOf(notes, slots, passing)) frontier.advance(place, set.get(place.slot));
  const end = winnerOf(frontier.states, ({ score, last }) => score - skippedCost(last, notes.length, keptBefore));
  return choicesOf(end);
}

/** More beginnings of words than a beat can have. */
const MAX_PREFIXES = 256;

/** What a line is chosen from, and by which rules. */
interface Choosing {
  readonly notes: readonly SoundingNote[];
  readonly weights: readonly number[];
  readonly heights: Heights;
  readonly keptBefore: readonly number[];
  readonly isUntied: boolean;
  readonly isUndotted: boolean;
}

/**
 * The best lines up to a slot: of those that go on alike, one. There are a dozen, so a list is looked through more
 * quickly than a map.
 */
class Frontier {
  states: State[] = [BEGINNING];
  private next: State[] = [];
  private readonly names: number[] = [];

  constructor(private readonly choosing: Choosing) {}

  /** @param wanted what the slot has to play, where that is settled already */
  advance(place: SlotPlace, wanted: SlotChoice | undefined): void {
    const { states } = this;
    this.next = [];
    this.names.length = 0;
    for (const state of states) this.goOn(state, place, wanted);
    // What was settled for another place may not be possible here; then the line goes its own way.
    if (this.next.length === 0) for (const state of states) this.goOn(state, place, undefined);
    this.giveUp(place.cursor);
  }

  /** Leaves those that can still win. */
  private giveUp(cursor: number): void {
    const { keptBefore } = this.choosing;
    const due = ({ score, last }: State) => score - skippedCost(last, cursor, keptBefore);
    let most = -Infinity;
    for (const state of this.next) most = Math.max(most, due(state));
    this.states = [];
    for (const state of this.next) if (due(state) >= most - GIVEN_UP) this.states.push(state);
  }

  /** Everything that may be done at a slot after what was done before: strike a note, hold on, or rest. */
  private goOn(state: State, place: SlotPlace, wanted: SlotChoice | undefined): void {
    const { slot } = place;
    const over = this.choosing.isUndotted && slot.place !== 'beat' && (state.flags & OVER) !== 0;
    // Without dots, what was held over a beat is held to its end, and a small part follows another small part.
    const isHeldOn =
      this.choosing.isUndotted &&
      (state.flags & SOUNDS) !== 0 &&
      (over || (slot.place === 'part' && state.choice === 'hold'));
    if (!isHeldOn) for (const strike of place.strikes) this.strike(state, slot, strike, over, wanted);
    if (wanted === undefined || wanted === 'hold') this.hold(state, place, over);
    if (!isHeldOn && (wanted === undefined || wanted === 'rest'))
      this.offer(state, slot, 'rest', 0, state.score - COSTS.restInSound * place.sounding);
  }

  private strike(state: State, slot: Slot, strike: Strike, over: boolean, wanted: SlotChoice | undefined): void {
    const { heights, weights, keptBefore } = this.choosing;
    const { note, cost, costAtFirst } = strike;
    const { last, flags, score } = state;
    if (note <= last || (wanted !== undefined && wanted !== note)) return;
    const isFirst = last < 0;
    const gain = (weights[note] ?? 0) - cost - (isFirst ? costAtFirst : shapeCost(heights, last, note));
    const isWeak = !isFirst && (flags & SOUNDS) !== 0 && isWeakStrike(strike, last, heights);
    const struck = SOUNDS | (slot.isOffBeat ? SHORT : 0) | (over ? OVER : 0);
    const earned = gain - skippedCost(last, note, keptBefore);
    this.offer(state, slot, note, struck, score + earned - (isWeak ? COSTS.weakStrike : 0));
  }

  private hold(state: State, { slot, sounding }: SlotPlace, over: boolean): void {
    const { notes, isUntied, isUndotted } = this.choosing;
    const { flags, last, score } = state;
    if ((flags & SOUNDS) === 0 || ((flags & SHORT) !== 0 && !slot.isOffBeat) || (isUntied && slot.opensBar)) return;
    const isOver = isUndotted && (slot.place === 'beat' || over);
    const held = SOUNDS | (flags & SHORT) | (isOver ? OVER : 0);
    this.offer(state, slot, 'hold', held, score - holdCost(notes[last], slot, sounding));
  }

  private offer(before: State, slot: Slot, choice: SlotChoice, flags: number, score: number): void {
    const last = typeof choice === 'number' ? choice : before.last;
    const isHeld = this.choosing.isUndotted && choice === 'hold';
    const word = slot.inBeat ? wordWith(before.word, slot.inBeat.at, choice) : '';
    // A number for the beginning of its word; 0 where any may stand.
    const begun = slot.inBeat ? slot.inBeat.allowed.get(word) : 0;
    if (begun === undefined) return;
    const name = (16 * last + (isHeld ? 8 : 0) + flags) * MAX_PREFIXES + begun;
    const { names, next } = this;
    let at = 0;
    while (at < names.length && names[at] !== name) at += 1;
    const known = next[at];
    if (known && score <= known.score + 1e-9) return;
    names[at] = name;
    next[at] = { last, flags, word, score, choice, before };
  }
}

function wordWith(word: string, at: number, choice: SlotChoice): string {
  const sign: BeatSign = typeof choice === 'number' ? 'n' : choice === 'hold' ? 'h' : 'r';
  return at === 0 ? sign : word + sign;
}

/** A note that may be struck in a slot. */
interface Strike {
  /** Index of the note. */
  readonly note: number;
  /** What it costs that it is moved. */
  readonly cost: number;
  /** What it costs besides where nothing was struck before. */
  readonly costAtFirst: number;
  /** On a weak beat, where it only passes. */
  readonly isWeak: boolean;
  /** It is weak there after a note of the same pitch. */
  readonly isWeakAgain: boolean;
  /** But not after this one, the tune's own note before; −1 where none is excepted. */
  readonly except: number;
}

/** A slot with what may be struck there, whoever plays. */
interface SlotPlace {
  readonly slot: Slot;
  /** The first note that sounds on after the slot has begun. */
  readonly cursor: number;
  readonly strikes: readonly Strike[];
  /** How much of the slot the tune fills with sound, 0 to 1. */
  readonly sounding: number;
}

/** What lies out of reach differs between players; the places, and what may be struck there, do not. */
const placesOf = derived(
  (notes: readonly SoundingNote[], slots: readonly Slot[], passing: readonly boolean[]): readonly SlotPlace[] => {
    let cursor = 0;
    return slots.map((slot): SlotPlace => {
      const end = slot.start + slot.length;
      while (cursor < notes.length && noteEnd(notes[cursor]) <= slot.start) cursor += 1;
      const near: number[] = [];
      for (let k = Math.max(0, cursor - 1); k < notes.length && (notes[k]?.start ?? end) < end; k += 1) near.push(k);
      return {
        slot,
        cursor,
        strikes: near.flatMap((k) => strikeOf(notes, passing, k, slot) ?? []),
        sounding: soundingShare(notes, near, slot),
      };
    });
  },
);

/** How note `k` may be struck in a slot; `undefined` where it cannot be. */
function strikeOf(
  notes: readonly SoundingNote[],
  passing: readonly boolean[],
  k: number,
  slot: Slot,
): Strike | undefined {
  const note = notes[k];
  if (!note) return undefined;
  const late = slot.start - note.start;
  // A note may come late only where it sounds on for at least half as long as it already has.
  if (late > 0 && noteEnd(note) - slot.start < late / 2) return undefined;
  const moved = Math.abs(late) / slot.length;
  if (moved > 1) return undefined;
  const replacesPassing =
    late < 0 && passing[k] !== true && passing[k - 1] === true && notes[k - 1]?.start === slot.start;
  // Where words are allowed one by one, the place of a note may be missing: it does not come late to a weaker one for
  // that.
  const isOnItsBeat = late > 0 && !(slot.inBeat && slot.place !== 'beat');
  const cost = isOnItsBeat ? COSTS.movedToItsBeat : replacesPassing ? COSTS.movedOntoPassing : COSTS.moved;
  return {
    note: k,
    cost: cost * moved,
    costAtFirst: note.start > slot.start ? COSTS.soundInRest * moved : 0,
    isWeak: !slot.isLilt && slot.isWeakBeat && passing[k] === true,
    // The eighth of a compound beat is its lilt: only one that repeats the quarter is weak, where the tune has another
    // note between.
    isWeakAgain: slot.isLilt || (slot.isWeakBeat && note.length < slot.length),
    except: slot.isLilt ? k - 1 : -1,
  };
}

/** On a weak beat: a passing note, or a short one that repeats the one before. */
function isWeakStrike({ note, isWeak, isWeakAgain, except }: Strike, last: number, { semitone }: Heights): boolean {
  return isWeak || (isWeakAgain && last !== except && semitone[last] === semitone[note]);
}

/** The best state at the end; of equal ones the first. */
function winnerOf(states: readonly State[], scoreOf: (state: State) => number): State | undefined {
  let [winner] = states;
  let best = winner ? scoreOf(winner) : 0;
  for (const state of states) {
    const score = scoreOf(state);
    if (score > best + 1e-9) [winner, best] = [state, score];
  }
  return winner;
}

function choicesOf(end: State | undefined): readonly SlotChoice[] {
  const choices: SlotChoice[] = [];
  for (let state = end; state?.before; state = state.before) choices.push(state.choice);
  return choices.toReversed();
}

function noteEnd(note: SoundingNote | undefined): number {
  return note ? note.start + note.length : 0;
}

/** How many notes that must stay lie before each index. */
function countsBefore(length: number, mustKeep: ReadonlySet<number>): readonly number[] {
  const counts = [0];
  for (let k = 0; k < length; k += 1) counts.push((counts[k] ?? 0) + (mustKeep.has(k) ? 1 : 0));
  return counts;
}

/** What it costs to pass over the notes strictly between two that are struck. */
function skippedCost(last: number, next: number, keptBefore: readonly number[]): number {
  return next > last + 1 ? COSTS.lostEnd * ((keptBefore[next] ?? 0) - (keptBefore[last + 1] ?? 0)) : 0;
}

/** How much of the slot the tune fills with sound, 0 to 1. */
function soundingShare(notes: readonly SoundingNote[], candidates: readonly number[], slot: Slot): number {
  let ticks = 0;
  for (const k of candidates) {
    const note = notes[k];
    if (note)
      ticks += Math.max(0, Math.min(noteEnd(note), slot.start + slot.length) - Math.max(note.start, slot.start));
  }
  return ticks / slot.length;
}

/** Semitones and letters of the notes above C0: asked for at every state of every slot. */
interface Heights {
  readonly semitone: Int16Array;
  readonly letter: Int16Array;
}

const heightsOf = derived(freshHeights);

function freshHeights(notes: readonly SoundingNote[]): Heights {
  const [semitone, letter] = [new Int16Array(notes.length), new Int16Array(notes.length)];
  notes.forEach(({ pitch }, k) => {
    semitone[k] = semitones(pitch);
    letter[k] = staffPosition(pitch);
  });
  return { semitone, letter };
}

/** What it costs the line's shape to go on from one note to another. */
function shapeCost({ semitone, letter }: Heights, last: number, k: number): number {
  if (last === k - 1) return 0;
  const interval = (semitone[k] ?? 0) - (semitone[last] ?? 0);
  const steps = Math.abs((letter[k] ?? 0) - (letter[last] ?? 0));
  const arrival = k > 0 ? (semitone[k] ?? 0) - (semitone[k - 1] ?? 0) : 0;
  return (
    (interval === 0 ? COSTS.stammer : 0) +
    COSTS.leapBeyondFifth * Math.max(0, steps - 4) +
    hardLeap(Math.abs(interval)) +
    (arrival * interval < 0 ? COSTS.contour : 0)
  );
}

function hardLeap(distance: number): number {
  if (distance === 6) return COSTS.newTritone;
  if (distance === 8 || distance === 9) return COSTS.newSixth;
  return distance > 9 && distance !== 12 ? COSTS.newSeventh : 0;
}

function holdCost(held: SoundingNote | undefined, slot: Slot, sounding: number): number {
  if (!held) return Infinity;
  const tuneHolds = noteEnd(held) > slot.start;
  return (slot.opensBar && !tuneHolds ? COSTS.newTie : 0) + COSTS.soundInRest * (1 - sounding);
}
