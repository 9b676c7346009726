import type { BarRun, Part } from '../levels';
import { type Key, midiNumber, octaves, type Pitch, semitones, transpose } from '../pitch';
import { isNote, soundingNotes, type Tune, TUNE_SCHEMA } from '../score';
import { TICKS_PER_WHOLE } from '../time';

/**
 * A step of learning a tune by ear: the home note is found, then the note that it begins with, then phrase after
 * phrase, each joined to the one before; the whole; and last the notes are looked at. Common practice of teaching tunes
 * by ear.
 */
export type EarStep =
  | { readonly kind: 'home' | 'start' | 'whole' | 'notes' }
  | { readonly kind: 'phrase'; readonly chunk: number }
  /** Two neighbours in one go: this one and the one before it. */
  | { readonly kind: 'joined'; readonly chunk: number };

/** The steps for so many phrases. */
export function earSteps(phrases: number): readonly EarStep[] {
  const each = Array.from({ length: phrases }, (_, chunk): readonly EarStep[] => [
    { kind: 'phrase', chunk },
    ...(chunk > 0 && phrases > 2 ? [{ kind: 'joined' as const, chunk }] : []),
  ]).flat();
  return [
    { kind: 'home' },
    { kind: 'start' },
    ...each,
    ...(phrases > 1 ? [{ kind: 'whole' as const }] : []),
    { kind: 'notes' },
  ];
}

/** One note of a shape: from where to where of the stretch, and how high between its lowest and highest, 0 to 1. */
export interface ShapeNote {
  readonly from: number;
  readonly to: number;
  readonly height: number;
}

/** The shape of a stretch of a part: how it goes up and down, without names. A single height lies in the middle. */
export function shapeOfBars(part: Pick<Part, 'bars' | 'meter'>, { from, to }: BarRun): readonly ShapeNote[] {
  const notes = soundingNotes(part).filter(({ bar }) => bar >= from && bar < to);
  const [first, last] = [notes[0], notes.at(-1)];
  if (!first || !last) return [];
  const begin = first.start;
  const length = Math.max(1, last.start + last.length - begin);
  const heights = notes.map(({ pitch }) => semitones(pitch));
  const [low, high] = [Math.min(...heights), Math.max(...heights)];
  return notes.map((note, k) => ({
    from: (note.start - begin) / length,
    to: (note.start + note.length - begin) / length,
    height: high === low ? 0.5 : ((heights[k] ?? low) - low) / (high - low),
  }));
}

/**
 * The home note nearest to where a part lies, and the note that it begins with, sounding; none where it has no notes.
 */
export function earNotes({
  soundingBars,
  concertKey,
}: Pick<Part, 'soundingBars' | 'concertKey'>): { readonly home: Pitch; readonly start: Pitch } | undefined {
  const pitches = soundingBars.flatMap(({ events }) => events.flatMap((event) => (isNote(event) ? [event.pitch] : [])));
  const [start] = pitches;
  if (!start) return undefined;
  const sorted = pitches.toSorted((a, b) => semitones(a) - semitones(b));
  const middle = semitones(sorted[Math.floor(sorted.length / 2)] ?? start);
  const base: Pitch = { ...concertKey.tonic, octave: start.octave };
  const home = [-1, 0, 1]
    .map((octave) => transpose(base, octaves(octave)))
    .filter((pitch) => midiNumber(pitch) >= 0)
    .toSorted((a, b) => Math.abs(semitones(a) - middle) - Math.abs(semitones(b) - middle))[0];
  return { home: home ?? base, start };
}

/** A note to be found: held for two slow bars, so that a drone can be laid under it. */
export function noteToFind(pitch: Pitch, key: Key): Tune {
  const bar = (id: string) => ({
    id,
    chords: [],
    events: [{ kind: 'note' as const, id: `${id}n`, length: TICKS_PER_WHOLE, pitch }],
  });
  return {
    schema: TUNE_SCHEMA,
    title: '',
    rights: 'own',
    key,
    meter: { count: 4, unit: 4 },
    tempo: { beat: { type: 'quarter', dots: 0 }, perMinute: 72 },
    bars: [bar('f1'), bar('f2')],
  };
}
