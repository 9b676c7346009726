import { derived } from '../../derived';
import { chordTonesUnder, type Phrase } from '../../analysis';
import { type Instrument, type Level, LEVELS, outsideBy, type WrittenRange, profileOf } from '../../instruments';
import {
  alterInSignature,
  byOctaves,
  chroma,
  type Interval,
  LETTERS,
  opposite,
  type Pitch,
  type PitchClass,
  semitones,
  signatureOf,
  transpose,
  transposeClass,
} from '../../pitch';
import { type SoundingNote, soundingNotes, type Tune } from '../../score';
import type { Remedy } from '../../work';
import { gesturesOf, octavesOfGestures, type Gesture } from './gestures';
import { costOfPlace, placeGesture, PLACING, type KnownNotes, type PlacedNote } from './placing';

/** Costs of octaves for a whole line: what lies outside outweighs the rest. */
const COSTS = {
  /** For each semitone outside. */
  outside: 10,
  /**
   * For each semitone of the line's height, as long as it sounds there, away from the middle of the easy range; and of
   * its middle, so that neither end sticks out.
   */
  offCentre: 0.12,
  offMiddle: 0.08,
  /** For each octave away from where a first-year player has it, so that levels can be played at once. */
  apart: 0.5,
  /** For each octave away from where the tune sounds: it stays there unless another serves it clearly. */
  octave: 1.4,
} as const;

/** How far beyond its usual range a player above the first level may be asked to go: three half steps. */
const BEYOND: Interval = { diatonic: 2, chromatic: 3 };

/** What a part may hold: a beginner's range; the range of others and a little beyond, where the instrument has it. */
export const playable = derived((instrument: Instrument, level: Level): WrittenRange => {
  const range = instrument.range[level];
  if (!profileOf(level).goesBeyondRange) return range;
  const { full } = instrument.range;
  const [low, high] = [transpose(range.low, opposite(BEYOND)), transpose(range.high, BEYOND)];
  return {
    low: outsideBy(low, full) === 0 ? low : full.low,
    high: outsideBy(high, full) === 0 ? high : full.high,
  };
});

/** Where every note of a line lies for a player. */
interface Layout {
  readonly best: number;
  /** The octave that suits the line as a whole. */
  readonly usual: number;
  readonly gestures: readonly Gesture[];
  /** Of each gesture. */
  readonly octaves: readonly number[];
  /** The line in the octaves of its gestures, as read. */
  readonly written: readonly Pitch[];
  /** The same with what stands instead of notes that cannot be played; other notes are the same objects. */
  readonly placed: readonly Pitch[];
}

/**
 * The octave in which a player has the whole line as it is, within the usual range; `undefined` where there is none.
 */
export function octaveThatFits(
  notes: readonly SoundingNote[],
  instrument: Instrument,
  level: Level,
  known: KnownNotes | undefined,
): number | undefined {
  const range = instrument.range[level];
  const heights = heightsIn(notes);
  const { chromatic } = instrument.transposition;
  const usual = octaveOfLevel(notes, instrument, level);
  const up = chromatic + OCTAVE * usual;
  const [low, high] = [semitones(range.low) - up, semitones(range.high) - up];
  for (const height of heights.keys())
    if (height < low || height > high || (known && !known.has(height + up))) return undefined;
  return usual;
}

/** A line, the player who is to have it, and what a teacher decided about its notes. */
export interface LayoutRequest {
  readonly tune: Tune;
  readonly notes: readonly SoundingNote[];
  readonly phrases: readonly Phrase[];
  readonly instrument: Instrument;
  readonly level: Level;
  readonly remedies: Remedies;
  readonly known: KnownNotes | undefined;
}

export function layOut(request: LayoutRequest): Layout {
  const { notes } = request;
  const places = gesturePlaces(request);
  const { usual, gestures, octaves, at } = places;
  const byNote = Array<number>(notes.length).fill(usual);
  gestures.forEach(({ from, to }, index) => byNote.fill(octaves[index] ?? usual, from, to));
  const read = notes.map((_, index) => at(index, byNote[index] ?? usual));
  const settled = [...read];
  gestures.forEach((gesture, index) =>
    places.instead(gesture, octaves[index] ?? usual)?.forEach((pitch, k) => {
      const own = read[gesture.from + k];
      // Untouched notes stay the objects they are, so that what changed is seen at once.
      settled[gesture.from + k] = own && semitones(own) === semitones(pitch) && own.step === pitch.step ? own : pitch;
    }),
  );
  return { best: mostUsed(byNote, usual), usual, gestures, octaves, written: read, placed: settled };
}

/** The gestures of a line in the octaves that suit a player. */
interface GesturePlaces {
  /** The octave that suits the line as a whole. */
  readonly usual: number;
  readonly gestures: readonly Gesture[];
  /** Of each gesture. */
  readonly octaves: readonly number[];
  /** A note as it is read in an octave. */
  readonly at: (index: number, octave: number) => Pitch;
  /** What is played of a gesture in an octave; `undefined` where it is played as it stands. */
  readonly instead: (gesture: Gesture, octave: number) => readonly Pitch[] | undefined;
}

function gesturePlaces({ tune, notes, phrases, instrument, level, remedies, known }: LayoutRequest): GesturePlaces {
  const range = instrument.range[level];
  const limits = playable(instrument, level);
  const { transposition } = instrument;
  const numbers = Int16Array.from(notes, ({ pitch }) => semitones(pitch) + transposition.chromatic);
  const usual = octaveOfLevel(notes, instrument, level);
  const isMended = Object.keys(remedies).length > 0;
  const atBars = !profileOf(level).goesBeyondRange;
  const gestures = isMended
    ? gesturesOf(tune, notes, phrases, ({ first }) => remedies[first.id] !== undefined)
    : usualGestures(tune, notes, phrases);
  const at = (index: number, octave: number) =>
    byOctaves(transpose((notes[index] as SoundingNote).pitch, transposition), octave);
  const [low, high] = [semitones(range.low), semitones(range.high)];
  const tones = chordTonesUnder(tune, notes);
  const key = signatureOf(tune.key);
  const written = (classes: readonly PitchClass[]) =>
    classes.map((one) => transposeClass(one, instrument.transposition));
  const scale = written(LETTERS.map((step) => ({ step, alter: alterInSignature(step, key) })));
  // What is played again after the end of a phrase stays with it.
  const ends = new Set(
    phrases.flatMap(({ to }) => {
      const [end, next] = [notes[to - 1], notes[to]];
      return end && next && semitones(end.pitch) === semitones(next.pitch) ? [to - 1, to] : [to - 1];
    }),
  );
  const members: Gesture[][] = [];
  for (const gesture of gestures) (members[gesture.kind] ??= []).push(gesture);
  const isFixed = (all: readonly Gesture[], k: number) => all.some(({ from }) => from + k === 0 || ends.has(from + k));
  const [least, most] = [semitones(limits.low), semitones(limits.high)];
  /**
   * All gestures of a kind get the same notes: a chord tone must be one in each of them, and what is fixed in one is in
   * all.
   */
  const notesOf = (kind: number, octave: number): readonly PlacedNote[] => {
    const all = members[kind] ?? [];
    const first = all[0];
    const isSet = isMended && remedyOctaves(first, notes, phrases, remedies) !== 0;
    return Array.from({ length: first ? first.to - first.from : 0 }, (_, k) => {
      const index = (first?.from ?? 0) + k;
      const isOfChord = remedies[notes[index]?.first.id ?? ''] === 'chord-tone';
      return {
        pitch: at(index, octave),
        limits: isOfChord ? range : limits,
        isOfChord,
        isSet,
        tonesOf: () => {
          const [own, ...others] = all.map(({ from }) => tones[from + k] ?? []);
          return written(
            (own ?? []).filter((tone) =>
              others.every((list) => list.some(({ step, alter }) => step === tone.step && alter === tone.alter)),
            ),
          );
        },
        isFixed: isFixed(all, k),
        bends: atBars,
        isInBar: atBars && k > 0 && notes[index - 1]?.bar === notes[index]?.bar,
      };
    });
  };
  const placed = new Map<number, readonly Pitch[]>();
  const isAllPlayable = (from: number, to: number, octave: number): boolean => {
    for (let index = from; index < to; index += 1) {
      const height = (numbers[index] ?? 0) + OCTAVE * octave;
      if (height < least || height > most || (known && !known.has(height))) return false;
    }
    return true;
  };
  const instead = ({ kind, from, to }: Gesture, octave: number): readonly Pitch[] | undefined => {
    if (!isMended && isAllPlayable(from, to, octave)) return undefined;
    const name = kind * MAX_OCTAVES + octave;
    const made = placed.get(name) ?? placeGesture(notesOf(kind, octave), range, scale, known);
    placed.set(name, made);
    return made;
  };
  const costs = new Map<number, number>();
  const costOf = (kind: number, octave: number): number => {
    const name = kind * MAX_OCTAVES + octave;
    const ready = costs.get(name);
    if (ready !== undefined) return ready;
    const all = members[kind] ?? [];
    const { from = 0, to = 0 } = all[0] ?? {};
    const cost = costOfPlace(
      to - from,
      (k) => (numbers[from + k] ?? 0) + OCTAVE * octave,
      (k) => isFixed(all, k),
      { low, high, least, most, known },
    );
    const made = cost + PLACING.octave * Math.abs(octave - usual);
    costs.set(name, made);
    return made;
  };
  const found = octavesOfGestures(gestures, notes, [usual, usual + 1, usual - 1], costOf, atBars);
  const octaves = found.map(
    (octave, index) => octave + (isMended ? remedyOctaves(gestures[index], notes, phrases, remedies) : 0),
  );
  return { usual, gestures, octaves, at, instead };
}

const OCTAVE = 12;
/** More octaves than a line is moved by. */
const MAX_OCTAVES = 64;

/** The gestures of a line in which nothing is mended: players of many instruments have the same. */
const usualGestures = derived((tune: Tune, notes: readonly SoundingNote[], phrases: readonly Phrase[]) =>
  gesturesOf(tune, notes, phrases, () => false),
);

/** What is done about notes out of range, by event. */
export type Remedies = Readonly<Record<string, Remedy>>;

/** Octaves by which a remedy moves the phrase that a gesture belongs to. */
function remedyOctaves(
  gesture: Gesture | undefined,
  notes: readonly SoundingNote[],
  phrases: readonly Phrase[],
  remedies: Remedies,
): number {
  const phrase = phrases.find(({ from, to }) => gesture && gesture.from >= from && gesture.from < to);
  const wanted = notes
    .slice(phrase?.from, phrase?.to)
    .map(({ first }) => remedies[first.id])
    .find((remedy) => remedy === 'phrase-up' || remedy === 'phrase-down');
  return wanted === undefined ? 0 : wanted === 'phrase-up' ? 1 : -1;
}

const NONE: ReadonlySet<string> = new Set();

/**
 * Events of a tune for which a level of an instrument would need another note than the tune's, in the octaves that suit
 * the tune best.
 */
export function eventsOutOfReach(
  tune: Tune,
  instrument: Instrument,
  level: Level,
  phrases: readonly Phrase[],
  known?: KnownNotes,
): ReadonlySet<string> {
  const notes = soundingNotes(tune);
  if (octaveThatFits(notes, instrument, level, known) !== undefined) return NONE;
  const { usual, gestures, octaves, at, instead } = gesturePlaces({
    tune,
    notes,
    phrases,
    instrument,
    level,
    remedies: {},
    known,
  });
  const found = new Set<string>();
  gestures.forEach((gesture, index) => {
    const octave = octaves[index] ?? usual;
    instead(gesture, octave)?.forEach((pitch, k) => {
      const note = notes[gesture.from + k];
      if (note && chroma(at(gesture.from + k, octave)) !== chroma(pitch)) found.add(note.first.id);
    });
  });
  return found;
}

const SHIFTS = [0, 1, -1, 2, -2, 3, -3, 4, -4] as const;

/** The octave that most notes are in: what a phrase is said to be higher or lower than. */
function mostUsed(shifts: readonly number[], usual: number): number {
  const counts = new Map<number, number>();
  for (const shift of shifts) counts.set(shift, (counts.get(shift) ?? 0) + 1);
  const count = (shift: number) => counts.get(shift) ?? 0;
  return [...counts.keys()].reduce((most, next) => (count(next) > count(most) ? next : most), shifts[0] ?? usual);
}

/**
 * The octave in which a level of an instrument has a line: where it lies well, and rather where a first-year player has
 * it. Rule: mean height weighted by duration; the level below's octave where both fit.
 */
function octaveOfLevel(notes: readonly SoundingNote[], instrument: Instrument, level: Level): number {
  const place = { heights: heightsIn(notes), mean: meanHeight(notes) };
  return octaveOfLine(place, instrument.transposition.chromatic, instrument, level);
}

/**
 * The same for a line that is known by its heights.
 * @param chromatic semitones from the line's height to what the player reads, before any shift
 */
export function octaveOfLine(
  { heights, mean }: { readonly heights: Heights; readonly mean: { readonly height: number } },
  chromatic: number,
  { range }: Pick<Instrument, 'range'>,
  level: Level,
): number {
  // Each level looks at the one below.
  let octave: number | undefined;
  for (const one of LEVELS.slice(0, LEVELS.indexOf(level) + 1))
    octave = bestOctave(heights, chromatic, range[one], range.beginner, mean, octave);
  return octave ?? 0;
}

/** In semitones above C0, each as long as it sounds. */
export const meanHeight = derived((notes: readonly SoundingNote[]): { readonly height: number } => {
  let [sum, ticks] = [0, 0];
  for (const { pitch, length } of notes) {
    sum += semitones(pitch) * length;
    ticks += length;
  }
  return { height: ticks === 0 ? 0 : sum / ticks };
});

/** How often each height stands in a line. */
type Heights = ReadonlyMap<number, number>;

/** The heights of a line, in semitones above C0, and how many notes have each; every player of every level asks. */
const heightsIn = derived((notes: readonly SoundingNote[]): Heights => {
  const heights = new Map<number, number>();
  for (const { pitch } of notes) heights.set(semitones(pitch), (heights.get(semitones(pitch)) ?? 0) + 1);
  return heights;
});

/**
 * The octaves by which a whole line is best moved for a range: what lies outside weighs most, then the middle of the
 * easy one.
 * @param chromatic semitones from a line's height to what the player reads, before any shift
 * @param easy where the instrument lies best, for players of any level
 * @param mean the line's height, each note as long as it sounds
 * @param below the octave of the level below, which is preferred
 */
function bestOctave(
  heights: Heights,
  chromatic: number,
  range: WrittenRange,
  easy: WrittenRange,
  mean: { readonly height: number },
  below?: number,
): number {
  const costs = SHIFTS.map(
    (shift) =>
      octaveCost(heights, chromatic, range, easy, shift, mean) +
      (below === undefined ? 0 : COSTS.apart * Math.abs(shift - below)),
  );
  return SHIFTS[costs.indexOf(Math.min(...costs))] ?? 0;
}

function octaveCost(
  heights: Heights,
  chromatic: number,
  range: WrittenRange,
  easy: WrittenRange,
  shift: number,
  mean: { readonly height: number },
): number {
  const up = chromatic + OCTAVE * shift;
  const [low, high] = [semitones(range.low) - up, semitones(range.high) - up];
  let [outside, lowest, highest] = [0, Infinity, -Infinity];
  for (const [height, count] of heights) {
    outside += count * (Math.max(0, low - height) + Math.max(0, height - high));
    lowest = Math.min(lowest, height);
    highest = Math.max(highest, height);
  }
  if (heights.size === 0) return COSTS.octave * Math.abs(shift);
  const centre = (semitones(easy.low) + semitones(easy.high)) / 2 - up;
  const middle = (lowest + highest) / 2 - centre;
  return (
    COSTS.outside * outside +
    COSTS.offCentre * Math.abs(mean.height - centre) +
    COSTS.offMiddle * Math.abs(middle) +
    COSTS.octave * Math.abs(shift)
  );
}
