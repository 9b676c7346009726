import { type Phrase, phrasesOf } from '../../analysis';
import {
  type Instrument,
  type Level,
  LEVELS,
  outsideBy,
  profileOf,
  toSounding,
  type WrittenRange,
} from '../../instruments';
import { byOctaves, type Pitch, pitchClassOf, printPitch, semitones, transpose, transposeClass } from '../../pitch';
import {
  type Bar,
  barNumbers,
  type BarSpan,
  barSpans,
  isNote,
  lineByOctaves,
  mapNotes,
  type SoundingNote,
  soundingNotes,
  type Tune,
  withoutSlursOnOneNote,
  withPairedHairpins,
  withPairedSlurs,
  withTrueTies,
} from '../../score';
import type { Change } from '../../work';
import { isKnown, type KnownNotes } from './placing';
import { layOut, octaveThatFits, playable, type Remedies } from './layout';

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
 * Puts a line into a player's range: the whole tune in one octave if it can be; else the smallest whole gestures by
 * octaves, those with the same notes alike; above the first level a step or two beyond the usual range; and only then
 * the nearest note that keeps the contour, named. The first note of the tune and the last of a phrase only ever change
 * their octave. Rule, out of reach: another key comes before this (the teacher's choice, or the level's beginning);
 * then this order; never a single note flipped inside a gesture. Equal phrases are treated alike: hard.
 * @param known written heights the player knows; a note that is not among them is swapped as if it were out of range
 * @param phrases runs of the tune's sounding notes; those of a simplified tune are its source's, not what it looks like
 *   now
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
  const whole = Object.keys(remedies).length === 0 ? octaveThatFits(notes, instrument, level, known) : undefined;
  if (whole !== undefined) return { tune: lineByOctaves(tune, whole), octaves: whole, changes: [], outside: [] };
  const numbers = barNumbers(tune);
  const spans = barSpans(tune);
  const layout = layOut({ tune, notes, phrases, instrument, level, remedies, known });
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
  const wanted = profileOf(level).goesBeyondRange ? undefined : worthTeaching(notes, layout.usual, instrument, level);
  if (wanted && changes.length > 0) {
    const { note, pitch, isLow } = wanted;
    const place = { bar: numbers[note.bar] ?? 0, barIndex: note.bar, events: [note.first.id] };
    changes.push({ ...place, detail: { kind: 'teach', pitch: printPitch(pitch), isLow, count: wanted.count } });
  }
  const silent = new Set(notes.flatMap(({ first }) => (remedies[first.id] === 'leave-out' ? [first.id] : [])));
  return { tune: silent.size > 0 ? withSilence(placedTune, silent) : placedTune, octaves: best, changes, outside };
}

/** How far beyond the range a note may lie that is proposed to be taught, in half steps. */
const TEACHABLE = 3;

/**
 * The note beyond the level's range that a player would have to learn to have the line as it is: a step or two further
 * on one side, which the next level has. Rule: one note beyond a first-year range that saves a line is proposed to be
 * taught, before a gesture is folded; the teacher decides.
 */
function worthTeaching(
  notes: readonly SoundingNote[],
  octave: number,
  instrument: Instrument,
  level: Level,
): { readonly note: SoundingNote; readonly pitch: Pitch; readonly isLow: boolean; readonly count: number } | undefined {
  const next = LEVELS[LEVELS.indexOf(level) + 1];
  if (!next) return undefined;
  const beyond = notes.flatMap((note) => {
    const pitch = byOctaves(transpose(note.pitch, instrument.transposition), octave);
    const by = outsideBy(pitch, instrument.range[level]);
    return by === 0 ? [] : [{ note, pitch, by }];
  });
  const [first] = beyond;
  if (!first) return undefined;
  const isLow = first.by < 0;
  const isNear = beyond.every(
    ({ by, pitch }) => by < 0 === isLow && Math.abs(by) <= TEACHABLE && outsideBy(pitch, instrument.range[next]) === 0,
  );
  if (!isNear) return undefined;
  const farthest = beyond.reduce((most, one) => (Math.abs(one.by) > Math.abs(most.by) ? one : most), first);
  return { note: farthest.note, pitch: farthest.pitch, isLow, count: beyond.length };
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
  const distance = semitones(to) - semitones(from);
  if (outsideBy(from, limits) === 0 && distance % 12 === 0)
    return { kind: 'along', pitch: pitchClassOf(note.pitch), octaves: distance / 12 };
  const isLow = outsideBy(from, limits) < 0;
  const edge = { edge: printPitch(isLow ? limits.low : limits.high), isLow };
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
