import { chordTonesUnder } from '../../analysis/chordsUnder';
import { phrasesOf, type Phrase } from '../../analysis/phrases';
import { outsideBy, toSounding, type Instrument, type Level, type WrittenRange } from '../../instruments/instrument';
import { byOctaves, pitchClassOf, printPitch, semitones, type Pitch, type PitchClass } from '../../pitch/pitch';
import { transpose, transposeClass } from '../../pitch/transpose';
import { barSpans, soundingNotes, type BarSpan, type SoundingNote } from '../../score/sounding';
import { barNumbers, isNote, mapNotes, type Bar, type Tune } from '../../score/tune';
import { withoutSlursOnOneNote, withPairedHairpins, withPairedSlurs, withTrueTies } from '../../score/balance';
import type { Change } from '../change';
import type { Remedy } from '../recipe/groups';

/** Costs of octaves: a note outside the range outweighs any join that an octave change inside the tune makes. */
const COSTS = {
  /** For each semitone outside. */
  outside: 10,
  /** For a phrase in another octave than the one before. */
  join: 25,
  /** For each semitone of the middle of the line away from the middle of the easy range. */
  offCentre: 0.2,
  /** For each octave away from where the tune sounds. */
  octave: 1,
} as const;

/** Costs of what takes the place of a note that is out of reach, beside the semitones by which the line bends. */
const SUBSTITUTE_COSTS = {
  /** A chord tone is another note than the tune's; the octave is the same note. */
  otherNote: 4,
  /** It repeats the note before. */
  stammer: 4,
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
 * Puts a line into a player's range by octaves: the whole tune in one if it can be, else phrase by phrase, never inside a
 * phrase. A note that is still outside is left for the teacher where the instrument has it; a beginner's, or one
 * that the instrument does not have, is swapped for its octave or the nearest chord tone, and named.
 * The first note of the tune and the last of a phrase only ever change their octave.
 * Rule, out of reach: another key comes before this (the teacher's choice); then octaves at the start of a phrase;
 * then the nearest note that keeps the contour.
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
  const limits = level === 'beginner' ? range : instrument.range.full;
  const notes = soundingNotes(tune);
  if (notes.length === 0) return { tune, octaves: 0, changes: [], outside: [] };
  const numbers = barNumbers(tune);
  const spans = barSpans(tune);
  const usual = octavesFor(notes, phrases, instrument, range);
  const { best } = usual;
  const byNote = withPhraseRemedies(usual.byNote, notes, phrases, remedies);
  const written = notes.map(({ pitch }, index) =>
    byOctaves(transpose(pitch, instrument.transposition), byNote[index] ?? best),
  );
  const placed = substitutes(
    tune,
    notes,
    written,
    notes.map(({ first }) => (remedies[first.id] === 'chord-tone' ? range : limits)),
    instrument,
    phrases,
    known,
  );
  const changes: Change[] = [];
  const outside: NoteOutside[] = [];
  notes.forEach((note, index) => {
    const from = written[index];
    const to = placed[index];
    if (!from || !to) return;
    const place = { bar: numbers[note.bar] ?? 0, barIndex: note.bar };
    if (remedies[note.first.id] === 'leave-out')
      changes.push(
        ...barsOf(note, spans).map((barIndex) => ({
          bar: numbers[barIndex] ?? 0,
          barIndex,
          events: [note.first.id],
          detail: { kind: 'left-out' as const, pitch: pitchClassOf(note.pitch) },
        })),
      );
    else if (from !== to)
      changes.push(
        ...barsOf(note, spans).map((barIndex) => ({
          bar: numbers[barIndex] ?? 0,
          barIndex,
          events: [note.first.id],
          detail: substituteDetail(
            note,
            from,
            to,
            remedies[note.first.id] === 'chord-tone' ? range : limits,
            instrument,
            known,
          ),
        })),
      );
    else if (outsideBy(from, range) !== 0) outside.push({ ...place, event: note.first.id, pitch: from });
  });
  for (const { from, to } of phrases) {
    const shift = byNote[from] ?? best;
    if (shift !== best) changes.push(...phraseChanges(notes.slice(from, to), shift - best, numbers, spans, range));
  }
  const concert = new Map(
    notes.map((note, index) => [note.first.id, transpose(placed[index] ?? note.pitch, toSounding(instrument))]),
  );
  const swapped = new Set(notes.flatMap(({ first }, index) => (written[index] === placed[index] ? [] : [first.id])));
  const moved = withPitches(tune, concert, best);
  const placedTune = swapped.size === 0 ? moved : { ...moved, bars: withoutSlursOnOneNote(moved.bars, swapped) };
  const silent = new Set(notes.flatMap(({ first }) => (remedies[first.id] === 'leave-out' ? [first.id] : [])));
  return { tune: silent.size > 0 ? withSilence(placedTune, silent) : placedTune, octaves: best, changes, outside };
}

/** Written heights (semitones above C0) that a player knows. */
export type KnownNotes = ReadonlySet<number>;

/** What is done about notes out of range, by event. */
export type Remedies = Readonly<Record<string, Remedy>>;

/** Phrases that a remedy moves, an octave from where they would lie. */
function withPhraseRemedies(
  byNote: readonly number[],
  notes: readonly SoundingNote[],
  phrases: readonly Phrase[],
  remedies: Remedies,
): readonly number[] {
  const moved = [...byNote];
  for (const { from, to } of phrases) {
    const wanted = notes
      .slice(from, to)
      .map(({ first }) => remedies[first.id])
      .find((remedy) => remedy === 'phrase-up' || remedy === 'phrase-down');
    if (wanted) for (let k = from; k < to; k += 1) moved[k] = (moved[k] ?? 0) + (wanted === 'phrase-up' ? 1 : -1);
  }
  return moved;
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

/** Events of a tune that a level of an instrument cannot reach, in the octaves that suit the tune best. */
export function eventsOutOfReach(
  tune: Tune,
  instrument: Instrument,
  level: Level,
  phrases: readonly Phrase[],
  known?: KnownNotes,
): ReadonlySet<string> {
  const notes = soundingNotes(tune);
  const range = instrument.range[level];
  const { best, byNote } = octavesFor(notes, phrases, instrument, range);
  return new Set(
    notes.flatMap((note, index) => {
      const pitch = byOctaves(transpose(note.pitch, instrument.transposition), byNote[index] ?? best);
      return outsideBy(pitch, range) === 0 && isKnown(pitch, known) ? [] : [note.first.id];
    }),
  );
}

const SHIFTS = [0, 1, -1, 2, -2, 3, -3, 4, -4] as const;

function octavesFor(
  notes: readonly SoundingNote[],
  phrases: readonly Phrase[],
  instrument: Instrument,
  range: WrittenRange,
): { readonly best: number; readonly byNote: readonly number[] } {
  const heights = notes.map(({ pitch }) => transpose(pitch, instrument.transposition));
  const numbers = heights.map(semitones);
  const best = bestOctave(numbers, range, instrument.range.beginner);
  const shifts = phraseShifts(
    phrases.map(({ from, to }) => heights.slice(from, to)),
    range,
    best,
  );
  const byNote = phrases.flatMap(({ from, to }, index) => Array<number>(to - from).fill(shifts[index] ?? best));
  return { best: mostUsed(byNote, best), byNote };
}

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

/**
 * An octave for each phrase: the least sum of what lies outside and of joins, by dynamic programming.
 * Rule: octave changes only at phrase starts, never inside a gesture.
 */
function phraseShifts(phrases: readonly (readonly Pitch[])[], range: WrittenRange, best: number): readonly number[] {
  const whole = phrases.flat().every((pitch) => outsideBy(byOctaves(pitch, best), range) === 0);
  if (whole) return phrases.map(() => best);
  interface Path {
    readonly cost: number;
    readonly shift: number;
    readonly before?: Path;
  }
  let paths: readonly Path[] = [];
  for (const phrase of phrases) {
    paths = [best, best + 1, best - 1].map((shift): Path => {
      const outside = phrase.reduce((sum, pitch) => sum + Math.abs(outsideBy(byOctaves(pitch, shift), range)), 0);
      const here = COSTS.outside * outside + COSTS.octave * Math.abs(shift - best);
      const reach = paths.map((path) => ({ path, cost: path.cost + (path.shift === shift ? 0 : COSTS.join) }));
      const cheapest = reach.reduce<(typeof reach)[number] | undefined>(
        (least, next) => (!least || next.cost < least.cost ? next : least),
        undefined,
      );
      return { cost: here + (cheapest?.cost ?? 0), shift, ...(cheapest && { before: cheapest.path }) };
    });
  }
  const shifts: number[] = [];
  for (
    let path = paths.reduce<Path | undefined>(
      (least, next) => (!least || next.cost < least.cost ? next : least),
      undefined,
    );
    path;
    path = path.before
  )
    shifts.unshift(path.shift);
  return shifts;
}

/** Every written pitch that lies outside the limits swapped for one inside; the others come back as they are. */
function substitutes(
  tune: Tune,
  notes: readonly SoundingNote[],
  written: readonly Pitch[],
  limitsOf: readonly WrittenRange[],
  instrument: Instrument,
  phrases: readonly Phrase[],
  known: KnownNotes | undefined,
): readonly Pitch[] {
  if (
    written.every(
      (pitch, index) => outsideBy(pitch, limitsOf[index] ?? instrument.range.full) === 0 && isKnown(pitch, known),
    )
  )
    return written;
  const tones = chordTonesUnder(tune, notes);
  const fixed = new Set([0, ...phrases.map(({ to }) => to - 1)]);
  const placed: Pitch[] = [];
  written.forEach((pitch, index) => {
    const limits = limitsOf[index] ?? instrument.range.full;
    if (outsideBy(pitch, limits) === 0 && isKnown(pitch, known)) return placed.push(pitch);
    const classes = fixed.has(index)
      ? []
      : (tones[index] ?? []).map((tone) => transposeClass(tone, instrument.transposition));
    const inTune = [pitchClassOf(pitch), ...classes]
      .flatMap((pitchClass) => octavesInside(pitchClass, limits))
      .filter((candidate) => isKnown(candidate, known));
    // Where neither the note nor its chord is known in any octave, the nearest known note is better than none.
    const candidates =
      inTune.length > 0 || !known
        ? inTune
        : naturalsAndKin
            .flatMap((pitchClass) => octavesInside(pitchClass, limits))
            .filter((candidate) => isKnown(candidate, known));
    const [before, sourceBefore, after] = [placed[index - 1], written[index - 1], written[index + 1]];
    const cost = (candidate: Pitch) => {
      const bend = (other: Pitch | undefined, source: Pitch | undefined) =>
        other && source
          ? Math.abs(semitones(candidate) - semitones(other) - (semitones(pitch) - semitones(source)))
          : 0;
      const isOther = semitones(candidate) % 12 !== semitones(pitch) % 12;
      const stammers =
        before &&
        sourceBefore &&
        semitones(before) === semitones(candidate) &&
        semitones(sourceBefore) !== semitones(pitch);
      return (
        bend(before, sourceBefore) +
        bend(after, after) +
        (isOther ? SUBSTITUTE_COSTS.otherNote : 0) +
        (stammers ? SUBSTITUTE_COSTS.stammer : 0)
      );
    };
    const cheapest = candidates.reduce<Pitch | undefined>(
      (least, next) => (!least || cost(next) < cost(least) ? next : least),
      undefined,
    );
    return placed.push(cheapest ?? pitch);
  });
  return placed;
}

/** The usual spellings of the twelve notes. */
const naturalsAndKin: readonly PitchClass[] = (['C', 'D', 'E', 'F', 'G', 'A', 'B'] as const).flatMap((step) =>
  [0, ...('CFG'.includes(step) ? [1] : []), ...('EB'.includes(step) ? [-1] : [])].map((alter) => ({ step, alter })),
);

function isKnown(pitch: Pitch, known: KnownNotes | undefined): boolean {
  return known === undefined || known.has(semitones(pitch));
}

/** A note's octaves within a range, kept with the range: lines ask for the same few again and again. */
const octavesKnown = new WeakMap<WrittenRange, Map<string, readonly Pitch[]>>();

function octavesInside({ step, alter }: PitchClass, limits: WrittenRange): readonly Pitch[] {
  const known = octavesKnown.get(limits) ?? new Map<string, readonly Pitch[]>();
  octavesKnown.set(limits, known);
  const name = `${step}${alter}`;
  const made =
    known.get(name) ??
    Array.from({ length: 10 }, (_, octave): Pitch => ({ step, alter, octave })).filter(
      (pitch) => outsideBy(pitch, limits) === 0,
    );
  known.set(name, made);
  return made;
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

function phraseChanges(
  notes: readonly SoundingNote[],
  octaves: number,
  numbers: readonly number[],
  spans: readonly BarSpan[],
  range: WrittenRange,
): readonly Change[] {
  const bars = [...new Set(notes.flatMap((note) => barsOf(note, spans)))];
  return bars.map((barIndex) => ({
    bar: numbers[barIndex] ?? 0,
    barIndex,
    events: notes.filter(({ bar }) => bar === barIndex).map(({ first }) => first.id),
    detail: { kind: 'phrase-octave', octaves, low: printPitch(range.low), high: printPitch(range.high) },
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
