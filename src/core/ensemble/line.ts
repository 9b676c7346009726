import { type Pitch, semitones } from '../pitch';
import type { SoundingNote } from '../score';
import type { Ticks } from '../time';

/** How a note of an accompanying part came to be there; what the part says of its bars is made of these. */
export type NoteKind =
  /** A tone of the chord. */
  | 'chord'
  /** Goes along with the tune in thirds or sixths. */
  | 'parallel'
  /** By step from one tone to the next. */
  | 'passing'
  | 'suspension'
  | 'resolution'
  /** Taken from the tune's own figure. */
  | 'figure'
  /** The tune itself. */
  | 'tune'
  /** Written by hand. */
  | 'own';

/** A note as it sounds, ties once, in concert pitch. */
export interface LineNote {
  readonly from: Ticks;
  readonly to: Ticks;
  readonly pitch: Pitch;
  /** Half steps above C0. */
  readonly height: number;
  readonly kind: NoteKind;
}

/** What a player plays; notes in order, without overlap. */
export type VoiceLine = readonly LineNote[];

export function lineNote(from: Ticks, to: Ticks, pitch: Pitch, kind: NoteKind): LineNote {
  return { from, to, pitch, height: semitones(pitch), kind };
}

export function asLine(notes: readonly SoundingNote[], kind: NoteKind): VoiceLine {
  return notes.map(({ start, length, pitch }) => lineNote(start, start + length, pitch, kind));
}

/** The note that sounds at a place. */
export function noteAt(line: VoiceLine, at: Ticks): LineNote | undefined {
  let [low, high] = [0, line.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((line[middle]?.from ?? Infinity) <= at) low = middle + 1;
    else high = middle;
  }
  const note = line[low - 1];
  return note && note.to > at ? note : undefined;
}

/** The notes that sound somewhere in a stretch. */
export function notesIn(line: VoiceLine, from: Ticks, to: Ticks): readonly LineNote[] {
  let [low, high] = [0, line.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((line[middle]?.to ?? Infinity) <= from) low = middle + 1;
    else high = middle;
  }
  const found: LineNote[] = [];
  for (let k = low; k < line.length; k += 1) {
    const note = line[k];
    if (!note || note.from >= to) break;
    found.push(note);
  }
  return found;
}
