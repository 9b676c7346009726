import { semitones, staffPosition } from '../../pitch/pitch';
import type { SoundingNote } from '../../score/sounding';
import type { BeatSign } from './beatWords';
import type { Slot } from './slots';

/** What a slot of the simplified melody does: strike a note of the tune (by index), hold on, or rest. */
export type SlotChoice = number | 'hold' | 'rest';

/**
 * How far a line may fall behind the best one before it is given up, in the weights of `noteWeight`. Two lines differ in what
 * they may still strike by the few notes between the ones they struck last, so a lag of several notes is never made good;
 * without a limit every line that once fell silent would be carried to the end.
 */
const GIVEN_UP = 7;

/**
 * Costs of a simplified melody, against the weights of `noteWeight` for what it keeps. Open to argument; the order matters
 * more than the figures.
 */
export const COSTS = {
  /** A note moved by a whole slot; less in proportion. A passing note loses its place in the line when it moves. */
  moved: 2,
  /** The same for a tone of the chord that comes where a passing note stood on the beat before it: B (A G) becomes B G. */
  movedOntoPassing: 0.3,
  /** The same for a syncopated note that comes on the beat it leans on: that is where it belongs. */
  movedToItsBeat: 0.3,
  /**
   * A weak note on a weak beat: shorter than its slot and no tone of the chord, or the note before once more. Without it every bar fills up with
   * quarters and each tune becomes a march.
   */
  weakStrike: 0.65,
  /** Two notes of one pitch in a row that the tune does not have so. */
  stammer: 0.7,
  /** Each step beyond a fifth of a leap that the tune does not make. */
  leapBeyondFifth: 0.15,
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

interface State {
  /** The note struck last, −1 before the first. */
  readonly last: number;
  readonly sounds: boolean;
  /** It was struck between beats: it may not be held over the next one. */
  readonly isShort: boolean;
  /** It was held over the beat that is going on. */
  readonly isOver: boolean;
  /** What the beat has so far, where words are allowed one by one. */
  readonly word: string;
  readonly score: number;
  readonly choice: SlotChoice;
  readonly before: State | undefined;
}

/**
 * Chooses for every slot what it plays, by dynamic programming over the whole tune: the retained weight less the costs is
 * greatest. Ties go to the earlier note, so the result depends on nothing but the tune.
 * Rule (soft), weighed over the whole phrase together: keep notes that carry weight; a syncopated or anticipated note
 * moves to the beat it leans on; contour direction kept; no new repeated-note stammer.
 * @param mustKeep indices of notes that may not be lost
 * @param words what rhythms are allowed beside the slots
 * @param set for each slot what it has to play, where that is settled already
 */
export function chooseNotes(
  notes: readonly SoundingNote[],
  weights: readonly number[],
  slots: readonly Slot[],
  mustKeep: ReadonlySet<number>,
  isWeak: (index: number) => boolean,
  {
    untied: isUntied = false,
    undotted: isUndotted = false,
  }: { readonly untied?: boolean; readonly undotted?: boolean } = {},
  set: ReadonlyMap<Slot, SlotChoice> = new Map(),
): readonly SlotChoice[] {
  const keptBefore = countsBefore(notes.length, mustKeep);
  let states: readonly State[] = [
    { last: -1, sounds: false, isShort: false, isOver: false, word: '', score: 0, choice: 'rest', before: undefined },
  ];
  const heights = heightsOf(notes);
  let cursor = 0;
  for (const slot of slots) {
    const end = slot.start + slot.length;
    while (cursor < notes.length && noteEnd(notes[cursor]) <= slot.start) cursor += 1;
    const candidates: number[] = [];
    for (let k = Math.max(0, cursor - 1); k < notes.length && (notes[k]?.start ?? end) < end; k += 1)
      candidates.push(k);
    const sounding = soundingShare(notes, candidates, slot);
    const best = new Map<number, State>();
    const offer = (state: State) => {
      // A number for the beginning of its word; 0 where any may stand.
      const begun = slot.inBeat ? slot.inBeat.allowed.get(state.word) : 0;
      if (begun === undefined) return;
      const name = nameOf(state, isUndotted) * MOST_PREFIXES + begun;
      const known = best.get(name);
      if (!known || state.score > known.score + 1e-9) best.set(name, state);
    };
    const place: SlotPlace = {
      slot,
      notes,
      heights,
      weights,
      isWeak,
      candidates,
      sounding,
      keptBefore,
      isUntied,
      isUndotted,
    };
    const wanted = set.get(slot);
    const offerWanted = (state: State) => {
      if (wanted === undefined || state.choice === wanted) offer(state);
    };
    for (const state of states) goOn(state, place, offerWanted);
    // What was settled for another place may not be possible here; then the line goes its own way.
    if (best.size === 0) for (const state of states) goOn(state, place, offer);
    const due = (state: State) => state.score - skippedCost(state.last, cursor, keptBefore);
    let least = -Infinity;
    for (const state of best.values()) least = Math.max(least, due(state) - GIVEN_UP);
    states = [...best.values()].filter((state) => due(state) >= least);
  }
  return choicesOf(winnerOf(states, (state) => state.score - skippedCost(state.last, notes.length, keptBefore)));
}

/** More beginnings of words than a beat can have. */
const MOST_PREFIXES = 256;

/** States that go on alike share a number; the best of them is enough. */
function nameOf({ last, choice, isOver, sounds, isShort }: State, isUndotted: boolean): number {
  const isHeld = isUndotted && choice === 'hold';
  return 16 * last + (isHeld ? 8 : 0) + (isOver ? 4 : 0) + (sounds ? 2 : 0) + (isShort ? 1 : 0);
}

/** A slot and what is known there. */
interface SlotPlace {
  readonly slot: Slot;
  readonly notes: readonly SoundingNote[];
  readonly heights: Heights;
  readonly weights: readonly number[];
  /** A note that is short and no tone of its chord. */
  readonly isWeak: (index: number) => boolean;
  /** Indices of the notes that sound in it. */
  readonly candidates: readonly number[];
  readonly sounding: number;
  readonly keptBefore: readonly number[];
  readonly isUntied: boolean;
  readonly isUndotted: boolean;
}

/** Everything that may be done at a slot after what was done before: strike a note, hold on, or rest. */
function goOn(state: State, place: SlotPlace, offer: (state: State) => void): void {
  const { slot, notes, heights, weights, isWeak, candidates, sounding, keptBefore, isUntied, isUndotted } = place;
  const sign = (one: BeatSign) => (slot.inBeat ? (slot.inBeat.at === 0 ? one : state.word + one) : '');
  const over = isUndotted && slot.place !== 'beat' && state.isOver;
  // Without dots, what was held over a beat is held to its end, and a small part follows another small part.
  const isHeldOn = isUndotted && state.sounds && (over || (slot.place === 'part' && state.choice === 'hold'));
  for (const k of isHeldOn ? [] : candidates) {
    if (k <= state.last) continue;
    const gain =
      strikeGain(notes, heights, weights, isWeak, state.last, k, slot) - skippedCost(state.last, k, keptBefore);
    if (gain === -Infinity) continue;
    const weak = state.sounds && isWeakStrike(place, k, notes[state.last]) ? COSTS.weakStrike : 0;
    const score = state.score + gain - weak;
    offer({
      last: k,
      sounds: true,
      isShort: slot.isOffBeat,
      isOver: over,
      word: sign('n'),
      score,
      choice: k,
      before: state,
    });
  }
  if (state.sounds && !(state.isShort && !slot.isOffBeat) && !(isUntied && slot.opensBar))
    offer({
      last: state.last,
      sounds: true,
      isShort: state.isShort,
      isOver: isUndotted && (slot.place === 'beat' || over),
      word: sign('h'),
      score: state.score - holdCost(notes[state.last], slot, sounding),
      choice: 'hold',
      before: state,
    });
  if (!isHeldOn)
    offer({
      last: state.last,
      sounds: false,
      isShort: false,
      isOver: false,
      word: sign('r'),
      score: state.score - COSTS.restInSound * sounding,
      choice: 'rest',
      before: state,
    });
}

/** On a weak beat: a passing note, or a short one that repeats the one before. */
function isWeakStrike({ slot, notes, isWeak }: SlotPlace, k: number, before: SoundingNote | undefined): boolean {
  const note = notes[k];
  if (!note || !before) return false;
  const repeats = semitones(before.pitch) === semitones(note.pitch);
  // The eighth of a compound beat is its lilt: only one that repeats the quarter is weak, where the tune has another note between.
  if (slot.isLilt) return repeats && notes[k - 1] !== before;
  return slot.isWeakBeat && (isWeak(k) || (note.length < slot.length && repeats));
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

function heightsOf(notes: readonly SoundingNote[]): Heights {
  const [semitone, letter] = [new Int16Array(notes.length), new Int16Array(notes.length)];
  notes.forEach(({ pitch }, k) => {
    semitone[k] = semitones(pitch);
    letter[k] = staffPosition(pitch);
  });
  return { semitone, letter };
}

/** The worth of striking note `k` in a slot after note `last`; −∞ where it cannot be. */
function strikeGain(
  notes: readonly SoundingNote[],
  heights: Heights,
  weights: readonly number[],
  isWeak: (index: number) => boolean,
  last: number,
  k: number,
  slot: Slot,
): number {
  const note = notes[k];
  if (!note) return -Infinity;
  const late = slot.start - note.start;
  // A note may come late only where it sounds on for at least half as long as it already has.
  if (late > 0 && noteEnd(note) - slot.start < late / 2) return -Infinity;
  const moved = Math.abs(late) / slot.length;
  if (moved > 1) return -Infinity;
  const before = notes[last];
  const replacesPassing = late < 0 && !isWeak(k) && isWeak(k - 1) && notes[k - 1]?.start === slot.start;
  // Where words are allowed one by one, the place of a note may be missing: it does not come late to a weaker one for that.
  const isOnItsBeat = late > 0 && !(slot.inBeat && slot.place !== 'beat');
  const cost = isOnItsBeat ? COSTS.movedToItsBeat : replacesPassing ? COSTS.movedOntoPassing : COSTS.moved;
  let gain = (weights[k] ?? 0) - cost * moved;
  if (note.start > slot.start && !before) gain -= COSTS.soundInRest * moved;
  if (!before) return gain;
  return gain - shapeCost(heights, last, k);
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
    (arrival * interval < 0 ? COSTS.contour : 0)
  );
}

function holdCost(held: SoundingNote | undefined, slot: Slot, sounding: number): number {
  if (!held) return Infinity;
  const tuneHolds = noteEnd(held) > slot.start;
  return (slot.opensBar && !tuneHolds ? COSTS.newTie : 0) + COSTS.soundInRest * (1 - sounding);
}
