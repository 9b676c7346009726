import {
  type FingeredLine,
  type FingeredNote,
  fingerLine,
  fingerMarks,
  type FingerNote,
  FINGER_SCHOOLS,
  type FingerPins,
  type FingerSchool,
  markLegend,
  type MarkSchool,
  type MarkStyle,
} from '../../fingering';
import { type Instrument, toSounding } from '../../instruments';
import { namePitchClass, transpose } from '../../pitch';
import { type EventId, quartersPerMinute, soundingNotes, type Tablature, type Tempo, type Tune } from '../../score';
import { TICKS_PER_QUARTER } from '../../time';

/** The notes of a written line as the hand meets them. */
export function fingerNotes(line: Pick<Tune, 'bars' | 'meter'>, tempo: Tempo): readonly FingerNote[] {
  const secondsPerTick = 60 / quartersPerMinute(tempo) / TICKS_PER_QUARTER;
  const notes = soundingNotes(line);
  return notes.map(({ first, pitch, start, length }, k) => ({
    id: first.id,
    pitch,
    seconds: ((notes[k + 1]?.start ?? start + length) - start) * secondsPerTick,
  }));
}

/** Names of the open strings, lowest first; none for instruments without. */
export function stringNames({ mechanism }: Pick<Instrument, 'mechanism'>): readonly string[] {
  return mechanism.kind === 'bowed' || mechanism.kind === 'fretted' ? mechanism.strings.map(namePitchClass) : [];
}

/** How a teacher wants a part fingered. */
export interface FingerWishes {
  readonly marks: MarkSchool;
  readonly school: FingerSchool;
  readonly pins: FingerPins;
  /** Where the hand stays, note by note, without a mark for that; pins go before. */
  readonly hands?: FingerPins;
  /** How marks on strings are written; by the finger or fret by default. */
  readonly style?: MarkStyle;
}

export interface FingeredPart {
  readonly line: FingeredLine;
  /** Text over the notes that get one, by event. */
  readonly marks: ReadonlyMap<EventId, string>;
}

/** Fingers a part's written line and chooses what is printed of it. */
export function fingerPart(
  line: Pick<Tune, 'bars' | 'meter'>,
  tempo: Tempo,
  instrument: Instrument,
  { marks, school, pins, hands, style = 'finger' }: FingerWishes,
): FingeredPart {
  const notes = fingerNotes(line, tempo);
  const fingered = fingerLine(notes, instrument, school, hands ? new Map([...hands, ...pins]) : pins);
  const done = hands ? { ...fingered, notes: fingered.notes.map((note) => pinnedIn(note, pins)) } : fingered;
  return {
    line: done,
    marks: fingerMarks(done, notes, marks, instrument.breaks, { style, strings: stringNames(instrument) }),
  };
}

/** A note that only its hand was told is not pinned. */
function pinnedIn(note: FingeredNote, pins: FingerPins): FingeredNote {
  if (!note.pinned || pins.has(note.id)) return note;
  const { pinned: _, ...rest } = note;
  return rest;
}

/**
 * Where each note of a fretted line is stopped: as it is fingered on the page, else as its fingers are wished for.
 * `undefined` on instruments without frets.
 */
export function tablatureOf(
  line: Pick<Tune, 'bars' | 'meter'>,
  tempo: Tempo,
  instrument: Instrument,
  given: FingeredPart | FingerWishes | undefined,
): Tablature | undefined {
  const { mechanism } = instrument;
  if (mechanism.kind !== 'fretted') return undefined;
  const { line: fingered } =
    given && 'line' in given
      ? given
      : fingerPart(line, tempo, instrument, given ?? { marks: 'none', school: FINGER_SCHOOLS[0], pins: new Map() });
  const places = fingered.notes.flatMap(({ id, fingering }) =>
    fingering?.kind === 'fretted' ? [[id, { string: fingering.string, fret: fingering.fret }] as const] : [],
  );
  const sounding = toSounding(instrument);
  return { strings: mechanism.strings.map((open) => transpose(open, sounding)), places: new Map(places) };
}

/** What the finger marks on a page mean; none where nothing is printed that has to be told. */
export function legendOf(fingered: FingeredPart | undefined, instrument: Instrument): readonly string[] {
  if (!fingered) return [];
  const marked = fingered.line.notes.flatMap(({ id, fingering }) => {
    const text = fingered.marks.get(id);
    return fingering && text !== undefined ? [{ fingering, text }] : [];
  });
  return markLegend(marked, stringNames(instrument));
}
