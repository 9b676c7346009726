import { chordTonesUnder } from '../../analysis/chordsUnder';
import { phrasesOf, type Phrase } from '../../analysis/phrases';
import { outsideBy, toSounding, type Instrument, type Level, type WrittenRange } from '../../instruments/instrument';
import { alterInSignature, signatureOf } from '../../pitch/key';
import {
  byOctaves,
  chroma,
  pitchClassOf,
  printPitch,
  semitones,
  STEPS,
  type Pitch,
  type PitchClass,
} from '../../pitch/pitch';
import { opposite, type Interval } from '../../pitch/interval';
import { transpose, transposeClass } from '../../pitch/transpose';
import { barSpans, soundingNotes, type BarSpan, type SoundingNote } from '../../score/sounding';
import { barNumbers, isNote, mapNotes, type Bar, type Tune } from '../../score/tune';
import { withoutSlursOnOneNote, withPairedHairpins, withPairedSlurs, withTrueTies } from '../../score/balance';
import type { Change } from '../change';
import type { Remedy } from '../recipe/groups';
import { gesturesOf, octavesOfGestures, type Gesture } from './gestures';
import { costOfPlace, isKnown, placeGesture, PLACING, type KnownNotes, type PlacedNote } from './placing';

/** Costs of octaves for a whole line: what lies outside outweighs the rest. */
const COSTS = {
  /** For each semitone outside. */
  outside: 10,
  /** For each semitone of the middle of the line away from the middle of the easy range. */
  offCentre: 0.2,
  /** For each octave away from where the tune sounds. */
  octave: 1,
} as const;

export interface NoteOutside {
  readonly bar: number;
  readonly barIndex: number;
  readonly event: string;
  /** Written pitch. */
  readonly pitch: Pitch;
}

export interface Fitted {
  /** Concert pitch, moved by whole octaves. */
  readonly tune: Tune;
  /** Octaves by which most of the tune was moved. */
  readonly octaves: number;
  readonly changes: readonly Change[];
  /** Notes that the level does not have yet but the instrument does. Beginners have none. */
  readonly outside: readonly NoteOutside[];
}

/**
 * Puts a line into a player's range: the whole tune in one octave if it can be; else the smallest whole gestures by octaves, those with the
 * same notes alike; above the first level a step or two beyond the usual range; and only then the nearest note that keeps
 * the contour, named. The first note of the tune and the last of a phrase only ever change their octave.
 * Rule, out of reach: another key comes before this (the teacher's choice, or the level's beginning); then this order; never a
 * single note flipped inside a gesture. Equal phrases are treated alike: hard.
 * @param known written heights the player knows; a note that is not among them is swapped as if it were out of range
 * @param phrases runs of the tune's sounding notes; those of a simplified tune are its source's, not what it looks like now
 */
export function fit(
  tune: Tune,
  instrument: Instrument,
  level: Level,
  phrases: readonly Phrase[] = phrasesOf(tune),
  remedies: Remedies = {},
  known?: KnownNotes,
): Fitted {
  const range = instrument.range[level];
  const limits = playable(instrument, level);
  const notes = soundingNotes(tune);
  if (notes.length === 0) return { tune, octaves: 0, changes: [], outside: [] };
  const numbers = barNumbers(tune);
  const spans = barSpans(tune);
  const layout = layOut(tune, notes, phrases, instrument, level, remedies, known);
  const { best, gestures } = layout;
  const changes: Change[] = [];
  const outside: NoteOutside[] = [];
  notes.forEach((note, index) => {
    const from = layout.written[index];
    const to = layout.placed[index];
    if (!from || !to) return;
    const place = { bar: numbers[note.bar] ?? 0, barIndex: note.bar };
    const remedy = remedies[note.first.id];
    const tell = (detail: Change['detail']) =>
      changes.push(
        ...barsOf(note, spans).map((barIndex) => ({
          bar: numbers[barIndex] ?? 0,
          barIndex,
          events: [note.first.id],
          detail,
        })),
      );
    if (remedy === 'leave-out') tell({ kind: 'left-out', pitch: pitchClassOf(note.pitch) });
    else if (from !== to)
      tell(substituteDetail(note, from, to, remedy === 'chord-tone' ? range : limits, instrument, known));
    else if (outsideBy(from, range) !== 0) outside.push({ ...place, event: note.first.id, pitch: from });
  });
  gestures.forEach(({ from, to }, index) => {
    const shift = layout.octaves[index] ?? best;
    const isWhole = phrases.some((phrase) => phrase.from === from && phrase.to === to);
    if (shift !== best)
      changes.push(...gestureChanges(notes.slice(from, to), shift - best, isWhole, numbers, spans, range));
  });
  const concert = new Map(
    notes.map((note, index) => [note.first.id, transpose(layout.placed[index] ?? note.pitch, toSounding(instrument))]),
  );
  const swapped = new Set(
    notes.flatMap(({ first }, index) => (layout.written[index] === layout.placed[index] ? [] : [first.id])),
  );
  const moved = withPitches(tune, concert, best);
  const placedTune = swapped.size === 0 ? moved : { ...moved, bars: withoutSlursOnOneNote(moved.bars, swapped) };
  const silent = new Set(notes.flatMap(({ first }) => (remedies[first.id] === 'leave-out' ? [first.id] : [])));
  return { tune: silent.size > 0 ? withSilence(placedTune, silent) : placedTune, octaves: best, changes, outside };
}

/** How far beyond its usual range a player above the first level may be asked to go: three half steps. */
const BEYOND: Interval = { diatonic: 2, chromatic: 3 };

const playableRanges = new WeakMap<Instrument, Partial<Record<Level, WrittenRange>>>();

/** What a part may hold: a beginner's range; the range of others and a little beyond, where the instrument has it. */
function playable(instrument: Instrument, level: Level): WrittenRange {
  const range = instrument.range[level];
  if (level === 'beginner') return range;
  const known = playableRanges.get(instrument) ?? {};
  const { full } = instrument.range;
  const [low, high] = [transpose(range.low, opposite(BEYOND)), transpose(range.high, BEYOND)];
  const made = known[level] ?? {
    low: outsideBy(low, full) === 0 ? low : full.low,
    high: outsideBy(high, full) === 0 ? high : full.high,
  };
  playableRanges.set(instrument, { ...known, [level]: made });
  return made;
}

/** Where every note of a line lies for a player. */
interface Layout {
  readonly best: number;
  readonly gestures: readonly Gesture[];
  /** Of each gesture. */
  readonly octaves: readonly number[];
  /** The line in the octaves of its gestures, as read. */
  readonly written: readonly Pitch[];
  /** The same with what stands instead of notes that cannot be played; other notes are the same objects. */
  readonly placed: readonly Pitch[];
}

function layOut(
  tune: Tune,
  notes: readonly SoundingNote[],
  phrases: readonly Phrase[],
  instrument: Instrument,
  level: Level,
  remedies: Remedies,
  known: KnownNotes | undefined,
): Layout {
  const range = instrument.range[level];
  const limits = playable(instrument, level);
  const heights = notes.map(({ pitch }) => transpose(pitch, instrument.transposition));
  const numbers = heights.map(semitones);
  const usual = bestOctave(numbers, range, instrument.range.beginner);
  const isMended = Object.keys(remedies).length > 0;
  const gestures = isMended
    ? gesturesOf(tune, notes, phrases, ({ first }) => remedies[first.id] !== undefined)
    : cachedGestures(tune, notes, phrases);
  const at = (index: number, octave: number) => byOctaves(heights[index] as Pitch, octave);
  const [low, high] = [semitones(range.low), semitones(range.high)];
  const isEasy = (height: number) => height >= low && height <= high && (!known || known.has(height));
  if (!isMended && numbers.every((height) => isEasy(height + OCTAVE * usual))) {
    const written = notes.map((_, index) => at(index, usual));
    return { best: usual, gestures, octaves: gestures.map(() => usual), written, placed: written };
  }
  const tones = chordTonesUnder(tune, notes);
  const key = signatureOf(tune.key);
  const written = (classes: readonly PitchClass[]) =>
    classes.map((one) => transposeClass(one, instrument.transposition));
  const scale = written(STEPS.map((step) => ({ step, alter: alterInSignature(step, key) })));
  const ends = new Set(phrases.map(({ to }) => to - 1));
  const members: Gesture[][] = [];
  for (const gesture of gestures) (members[gesture.kind] ??= []).push(gesture);
  const isFixed = (all: readonly Gesture[], k: number) => all.some(({ from }) => from + k === 0 || ends.has(from + k));
  const [least, most] = [semitones(limits.low), semitones(limits.high)];
  /** All gestures of a kind get the same notes: a chord tone must be one in each of them, and what is fixed in one is in all. */
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
      };
    });
  };
  const placed = new Map<string, readonly Pitch[]>();
  const place = (kind: number, octave: number): readonly Pitch[] => {
    const name = `${kind}/${octave}`;
    const made = placed.get(name) ?? placeGesture(notesOf(kind, octave), range, scale, known);
    placed.set(name, made);
    return made;
  };
  const costs = new Map<number, number>();
  const costOf = (kind: number, octave: number): number => {
    const name = kind * 64 + octave;
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
  const found = octavesOfGestures(gestures, notes, [usual, usual + 1, usual - 1], costOf);
  const octaves = found.map(
    (octave, index) => octave + (isMended ? remedyOctaves(gestures[index], notes, phrases, remedies) : 0),
  );
  const byNote = gestures.flatMap(({ from, to }, index) => Array<number>(to - from).fill(octaves[index] ?? usual));
  const read = notes.map((_, index) => at(index, byNote[index] ?? usual));
  return {
    best: mostUsed(byNote, usual),
    gestures,
    octaves,
    written: read,
    // Untouched notes stay the objects they are, so that what changed is seen at once.
    placed: gestures.flatMap(({ kind, from }, index) =>
      place(kind, octaves[index] ?? usual).map((pitch, k) => {
        const own = read[from + k];
        return own && semitones(own) === semitones(pitch) && own.step === pitch.step ? own : pitch;
      }),
    ),
  };
}

const OCTAVE = 12;

/** The gestures of a line, kept with it: players of many instruments have the same. */
const gesturesKnown = new WeakMap<
  Tune,
  { readonly phrases: readonly Phrase[]; readonly gestures: readonly Gesture[] }
>();

function cachedGestures(tune: Tune, notes: readonly SoundingNote[], phrases: readonly Phrase[]): readonly Gesture[] {
  const found = gesturesKnown.get(tune);
  if (found?.phrases === phrases) return found.gestures;
  const gestures = gesturesOf(tune, notes, phrases, () => false);
  gesturesKnown.set(tune, { phrases, gestures });
  return gestures;
}

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

/** Struck notes (with what is tied to them) as rests. */
function withSilence(tune: Tune, silent: ReadonlySet<string>): Tune {
  let held = false;
  const bars = tune.bars.map((bar): Bar => ({
    ...bar,
    events: bar.events.map((event) => {
      if (!isNote(event)) {
        held = false;
        return event;
      }
      const goes = held || silent.has(event.id);
      held = goes && event.tied === true;
      return goes
        ? {
            kind: 'rest' as const,
            id: event.id,
            length: event.length,
            ...(event.tuplet && { tuplet: event.tuplet }),
            ...(event.optional && { optional: event.optional }),
          }
        : event;
    }),
  }));
  return { ...tune, bars: withPairedHairpins(withPairedSlurs(withTrueTies(bars).bars).bars).bars };
}

/** Events of a tune for which a level of an instrument would need another note than the tune's, in the octaves that suit the tune best. */
export function eventsOutOfReach(
  tune: Tune,
  instrument: Instrument,
  level: Level,
  phrases: readonly Phrase[],
  known?: KnownNotes,
): ReadonlySet<string> {
  const notes = soundingNotes(tune);
  const { written, placed } = layOut(tune, notes, phrases, instrument, level, {}, known);
  return new Set(
    notes.flatMap(({ first }, index) => {
      const [from, to] = [written[index], placed[index]];
      return from && to && chroma(from) !== chroma(to) ? [first.id] : [];
    }),
  );
}

const SHIFTS = [0, 1, -1, 2, -2, 3, -3, 4, -4] as const;

/** The octave that most notes are in: what a phrase is said to be higher or lower than. */
function mostUsed(shifts: readonly number[], usual: number): number {
  const count = (shift: number) => shifts.filter((other) => other === shift).length;
  return [...new Set(shifts)].reduce((most, next) => (count(next) > count(most) ? next : most), shifts[0] ?? usual);
}

/**
 * The octaves by which a whole line is best moved for a range: what lies outside weighs most, then the middle of the easy one.
 * @param heights written semitones above C0, before any shift
 * @param easy where the instrument lies best, for players of any level
 */
export function bestOctave(heights: readonly number[], range: WrittenRange, easy: WrittenRange): number {
  const costs = SHIFTS.map((shift) => octaveCost(heights, range, easy, shift));
  return SHIFTS[costs.indexOf(Math.min(...costs))] ?? 0;
}

/** @param heights written semitones, before the shift */
function octaveCost(heights: readonly number[], range: WrittenRange, easy: WrittenRange, shift: number): number {
  const [low, high] = [semitones(range.low) - 12 * shift, semitones(range.high) - 12 * shift];
  let [outside, lowest, highest] = [0, Infinity, -Infinity];
  for (const height of heights) {
    outside += Math.max(0, low - height) + Math.max(0, height - high);
    lowest = Math.min(lowest, height);
    highest = Math.max(highest, height);
  }
  const middle =
    heights.length === 0 ? 0 : (lowest + highest - semitones(easy.low) - semitones(easy.high)) / 2 + 12 * shift;
  return COSTS.outside * outside + COSTS.offCentre * Math.abs(middle) + COSTS.octave * Math.abs(shift);
}

function substituteDetail(
  note: SoundingNote,
  from: Pitch,
  to: Pitch,
  limits: WrittenRange,
  instrument: Instrument,
  known: KnownNotes | undefined,
): Change['detail'] {
  if (outsideBy(from, limits) === 0 && !isKnown(from, known))
    return {
      kind: 'not-known',
      from: pitchClassOf(note.pitch),
      to: transposeClass(to, toSounding(instrument)),
      octaves: (semitones(to) - semitones(from)) / 12,
    };
  const isLow = outsideBy(from, limits) < 0;
  const edge = { edge: printPitch(isLow ? limits.low : limits.high), isLow };
  const distance = semitones(to) - semitones(from);
  if (distance % 12 === 0)
    return { kind: 'note-octave', pitch: pitchClassOf(note.pitch), octaves: distance / 12, ...edge };
  return { kind: 'swapped', from: pitchClassOf(note.pitch), to: transposeClass(to, toSounding(instrument)), ...edge };
}

function gestureChanges(
  notes: readonly SoundingNote[],
  octaves: number,
  isWhole: boolean,
  numbers: readonly number[],
  spans: readonly BarSpan[],
  range: WrittenRange,
): readonly Change[] {
  const bars = [...new Set(notes.flatMap((note) => barsOf(note, spans)))];
  return bars.map((barIndex) => ({
    bar: numbers[barIndex] ?? 0,
    barIndex,
    events: notes.filter(({ bar }) => bar === barIndex).map(({ first }) => first.id),
    detail: {
      kind: 'phrase-octave',
      octaves,
      low: printPitch(range.low),
      high: printPitch(range.high),
      ...(!isWhole && { isPart: true as const }),
    },
  }));
}

/** The bars in which a note sounds: the one it is struck in and those it is tied into. */
function barsOf(note: SoundingNote, spans: readonly BarSpan[]): readonly number[] {
  const bars: number[] = [];
  for (let bar = note.bar; bar < spans.length && (spans[bar]?.start ?? 0) < note.start + note.length; bar += 1)
    bars.push(bar);
  return bars;
}

/** Gives struck notes their pitch; tied continuations follow them, grace notes move by the same octaves. */
function withPitches(tune: Tune, pitches: ReadonlyMap<string, Pitch>, usual: number): Tune {
  let current: Pitch | undefined;
  const bars = mapNotes(tune.bars, (note) => {
    const own = pitches.get(note.id);
    const by = own ? Math.round((semitones(own) - semitones(note.pitch)) / 12) : usual;
    current = own ?? current;
    const pitch = current ?? note.pitch;
    const isSame = semitones(pitch) === semitones(note.pitch);
    if (isSame && (by === 0 || !note.graces)) return note;
    return {
      ...note,
      pitch,
      ...(note.graces && { graces: note.graces.map((grace) => ({ ...grace, pitch: byOctaves(grace.pitch, by) })) }),
    };
  });
  return bars.every((bar, index) => bar === tune.bars[index]) ? tune : { ...tune, bars };
}

/** Highest and lowest of some bars; `undefined` for bars without notes. */
export function extremesOf(bars: Tune['bars']): { readonly lowest: Pitch; readonly highest: Pitch } | undefined {
  let [lowest, highest]: (Pitch | undefined)[] = [undefined, undefined];
  let [low, high] = [Infinity, -Infinity];
  for (const { events } of bars)
    for (const event of events) {
      if (!isNote(event)) continue;
      const height = semitones(event.pitch);
      if (height < low) [low, lowest] = [height, event.pitch];
      if (height > high) [high, highest] = [height, event.pitch];
    }
  return lowest && highest && { lowest, highest };
}
