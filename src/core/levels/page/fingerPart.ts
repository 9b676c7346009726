import {
  type FingeredLine,
  type FingeredNote,
  fingerLine,
  fingerMarks,
  type FingerNote,
  type FingerPins,
  type FingerSchool,
  type MarkSchool,
} from '../../fingering';
import type { Instrument } from '../../instruments';
import { namePitchClass } from '../../pitch';
import { type EventId, quartersPerMinute, soundingNotes, type Tempo, type Tune } from '../../score';
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
  { marks, school, pins, hands }: FingerWishes,
): FingeredPart {
  const notes = fingerNotes(line, tempo);
  const fingered = fingerLine(notes, instrument, school, hands ? new Map([...hands, ...pins]) : pins);
  const done = hands ? { ...fingered, notes: fingered.notes.map((note) => pinnedIn(note, pins)) } : fingered;
  return { line: done, marks: fingerMarks(done, notes, marks, instrument.breaks) };
}

/** A note that only its hand was told is not pinned. */
function pinnedIn(note: FingeredNote, pins: FingerPins): FingeredNote {
  if (!note.pinned || pins.has(note.id)) return note;
  const { pinned: _, ...rest } = note;
  return rest;
}
