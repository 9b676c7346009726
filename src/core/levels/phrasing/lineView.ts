import { semitones } from '../../pitch';
import { type BarSpan, barSpans, type SoundingNote, soundingNotes, type Tune } from '../../score';
import { beatsRead } from '../simplify/slots';
import { type Beat, beatsOf, isCompound, type Meter, middleOf, type Ticks } from '../../time';

/** Runs of notes under a slur, first and last as indices into the sounding notes. */
export type Slur = readonly [number, number];

/** A line as whoever phrases it looks at it. */
export interface LineView {
  readonly tune: Tune;
  readonly notes: readonly SoundingNote[];
  readonly spans: readonly BarSpan[];
  /** Notes after which a phrase, or its half, is over. */
  readonly joints: ReadonlySet<number>;
  /** Where notes stand, as far as it was asked. */
  readonly places: Map<SoundingNote, PlaceInBar>;
}

export function viewOf(tune: Tune, joints: ReadonlySet<number>): LineView {
  return { tune, notes: soundingNotes(tune), spans: barSpans(tune), joints, places: new Map() };
}

export const meterAt = ({ spans, tune }: LineView, note: SoundingNote): Meter => spans[note.bar]?.meter ?? tune.meter;

/** Farther than this two notes are not slurred: a ninth under the bow and the breath alike is another gesture. */
const WIDEST_SLUR = 9;

/** Whether a note and the next may stand under one slur: joined, in one bar and phrase, and not the same note again. */
export function joins({ notes, joints }: LineView, k: number, overBar = false): boolean {
  const [here, next] = [notes[k], notes[k + 1]];
  if (!here || !next || joints.has(k)) return false;
  if (next.bar !== here.bar && !overBar) return false;
  if (here.start + here.length !== next.start) return false;
  const distance = Math.abs(semitones(here.pitch) - semitones(next.pitch));
  return distance > 0 && distance <= WIDEST_SLUR;
}

export const tupletOf = (note: SoundingNote | undefined) => note?.first.tuplet?.id;

/** Notes `k` and the next are of one tuplet. */
export const isOneTuplet = ({ notes }: LineView, k: number): boolean =>
  tupletOf(notes[k]) !== undefined && tupletOf(notes[k]) === tupletOf(notes[k + 1]);

export interface PlaceInBar {
  readonly meter: Meter;
  /** Which beat, from 0, how far into it, and how long it is; cut time is read in quarters. */
  readonly beat: number;
  readonly inBeat: Ticks;
  readonly beatLength: Ticks;
  readonly isCompound: boolean;
}

export function placeOf(view: LineView, note: SoundingNote): PlaceInBar {
  const known = view.places.get(note);
  if (known) return known;
  const place = freshPlace(view, note);
  view.places.set(note, place);
  return place;
}

function freshPlace(view: LineView, note: SoundingNote): PlaceInBar {
  const meter = meterAt(view, note);
  const beats: readonly Beat[] = beatsRead(meter);
  const beat = Math.max(
    0,
    beats.findLastIndex(({ start }) => start <= note.inBar),
  );
  return {
    meter,
    beat,
    inBeat: note.inBar - (beats[beat]?.start ?? 0),
    beatLength: beats[beat]?.length ?? 1,
    isCompound: isCompound(meter),
  };
}

/**
 * Which stretch of its bar a note is in: the halves of four or six beats, three and two of five, bars of two or three
 * beats whole.
 */
export function stretchOf(view: LineView, note: SoundingNote): number {
  // Cut time is read in quarters.
  const own = meterAt(view, note);
  const meter: Meter = own.unit === 2 ? { count: own.count * 2, unit: 4 } : own;
  const beats = beatsOf(meter);
  const middle =
    middleOf(meter) ?? (beats.length > 3 ? (beats[Math.ceil(beats.length / 2)]?.start ?? Infinity) : Infinity);
  return note.inBar < middle ? 0 : 1;
}
