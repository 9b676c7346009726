import { hasLetterForEach, type Scale } from '../harmony';
import type { Instrument, WrittenRange } from '../instruments';
import { chroma, namePitchClass, type Pitch, type PitchClass, semitones } from '../pitch';
import { canReach, handAt, type Hand } from './hand';
import { rungsOfChord, rungsWithin } from './rungs';
import type { Message } from './message';
import { endingOn, type SectionLine } from './sectionLine';

/**
 * Pairs of a set's triads, by the step of their root from 0: those that follow each other in most tunes, the fourths
 * first (W. Piston, Harmony, ch. 3: usual root progressions).
 */
const PAIRS: Readonly<Record<3 | 4, readonly (readonly [number, number])[]>> = {
  3: [
    [0, 3],
    [0, 4],
    [1, 4],
    [5, 1],
    [2, 5],
    [3, 4],
  ],
  // Seventh chords a step apart lie under one hand: Imaj7 and ii7 first, as jazz methods pair them.
  4: [
    [0, 1],
    [1, 4],
    [4, 0],
    [2, 5],
    [5, 1],
    [3, 6],
  ],
};
/** Notes of each chord: its three tones and one an octave from the first. */
const SIZE = 4;
/** Where the second chord's top repeats the first one's, the ear does not hear the change. */
const SAME_TOP = 3;
/** For each half step that a pair begins away from where the last one ended. */
const AWAY = 0.4;
/** Farthest fret or position that is looked at. */
const HIGHEST_HAND = 12;

/** Pairs in one key, and the hand that holds all of them. */
export interface PairedLine extends SectionLine {
  readonly hand?: Hand;
}

/**
 * Two chords at a time, the first going up and the second coming down in the inversion that lies nearest. On strings
 * the hand stays where the most pairs lie under it, as low as that can be.
 * @param tones of each chord
 * @param given a hand that was asked for
 * @returns `undefined` for sets that have not a letter for each of seven degrees, and where no pair fits
 */
export function chordPairs(
  scale: Scale,
  range: WrittenRange,
  tones: 3 | 4,
  instrument?: Instrument,
  given?: Hand,
): PairedLine | undefined {
  if (scale.notes.length !== 7 || !hasLetterForEach(scale.name)) return undefined;
  const kind = instrument?.mechanism.kind;
  const isString = kind === 'fretted' || kind === 'bowed';
  if (!instrument || !isString) return pairsIn(scale, range, tones, () => true);
  const hands = given
    ? [given]
    : Array.from({ length: HIGHEST_HAND }, (_, k) => handAt(instrument, range, k + 1, false)).filter(
        (hand) => hand !== undefined,
      );
  let best: PairedLine | undefined;
  for (const hand of hands) {
    const line = pairsIn(scale, hand.range, tones, (pitch) => canReach(instrument, pitch, hand));
    if (line && (!best || (line.left ?? 0) < (best.left ?? 0))) best = { ...line, hand };
    if (best?.left === 0) break;
  }
  return best;
}

function pairsIn(
  scale: Scale,
  range: WrittenRange,
  tones: 3 | 4,
  isHeld: (pitch: Pitch) => boolean,
): SectionLine | undefined {
  const notes: Pitch[] = [];
  const left: string[] = [];
  for (const [one, other] of PAIRS[tones]) {
    const ones = voicings(stacked(scale, one, tones), range, isHeld);
    // The first chord begins at home where it can.
    const atHome = notes.length > 0 ? [] : ones.filter(([bottom]) => bottom && chroma(bottom) === chroma(scale.tonic));
    const pair = pairFrom(
      atHome.length > 0 ? atHome : ones,
      voicings(stacked(scale, other, tones), range, isHeld),
      notes.at(-1),
    );
    if (pair) notes.push(...pair);
    else left.push(`${namePitchClass(degree(scale, one))} with ${namePitchClass(degree(scale, other))}`);
  }
  const home = notes.find((note) => chroma(note) === chroma(scale.tonic)) ?? notes[0];
  if (!home) return undefined;
  const ended = endingOn(notes, scale.tonic, range, home);
  // Where the range has no tonic there is nothing to come home to.
  if (chroma(ended.at(-1) ?? home) !== chroma(scale.tonic)) return undefined;
  const messages: readonly Message[] =
    left.length > 0 ? [{ what: `${left.join(', ')} left out`, why: 'the two chords do not lie together' }] : [];
  return { notes: ended, group: SIZE, messages, left: left.length };
}

function degree({ notes, tonic }: Scale, place: number): PitchClass {
  return notes[place % notes.length] ?? tonic;
}

function stacked(scale: Scale, root: number, tones: 3 | 4): readonly PitchClass[] {
  return Array.from({ length: tones }, (_, k) => degree(scale, root + 2 * k));
}

/** Four neighbouring tones of a chord, wherever they lie under the hand. */
function voicings(
  tones: readonly PitchClass[],
  range: WrittenRange,
  isHeld: (pitch: Pitch) => boolean,
): readonly (readonly Pitch[])[] {
  const [root] = tones;
  const rungs = root && rungsOfChord(root, tones);
  const within = rungs && rungsWithin(rungs, range);
  if (!rungs || !within) return [];
  return Array.from({ length: Math.max(0, within.to - within.from - SIZE + 2) }, (_, k) =>
    rungs.up.slice(within.from + k, within.from + k + SIZE),
  ).filter((pitches) => pitches.every(isHeld));
}

/** The first chord up and the second down, in the inversions that lie nearest to each other and to the note before. */
function pairFrom(
  ones: readonly (readonly Pitch[])[],
  others: readonly (readonly Pitch[])[],
  before: Pitch | undefined,
): readonly Pitch[] | undefined {
  let best: { readonly notes: readonly Pitch[]; readonly cost: number } | undefined;
  for (const one of ones) {
    const [bottom, top] = [one[0], one.at(-1)];
    if (!bottom || !top) continue;
    const away = before ? Math.abs(semitones(bottom) - semitones(before)) : 0;
    for (const other of others) {
      const next = other.at(-1);
      if (!next) continue;
      const step = Math.abs(semitones(next) - semitones(top));
      const cost = (step === 0 ? SAME_TOP : step) + AWAY * away;
      if (!best || cost < best.cost - 1e-9) best = { notes: [...one, ...other.toReversed()], cost };
    }
  }
  return best?.notes;
}
