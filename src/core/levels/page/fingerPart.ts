import { fingerLine, type FingeredLine, type FingerNote, type FingerPins } from '../../fingering/fingerLine';
import { fingerMarks, type MarkSchool } from '../../fingering/marks';
import type { FingerSchool } from '../../fingering/travel';
import type { Instrument } from '../../instruments/instrument';
import { namePitchClass } from '../../pitch/pitch';
import { soundingNotes } from '../../score/sounding';
import { quartersPerMinute, type EventId, type Tempo, type Tune } from '../../score/tune';
import { TICKS_PER_QUARTER } from '../../time/ticks';

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
  { marks, school, pins }: FingerWishes,
): FingeredPart {
  const notes = fingerNotes(line, tempo);
  const fingered = fingerLine(notes, instrument, school, pins);
  return { line: fingered, marks: fingerMarks(fingered, notes, marks) };
}
