import { addIntervals, type Interval } from './interval';
import { signatureOf, transposeKey, type Key } from './key';
import { naturalAt, semitones, staffPosition, type Pitch, type PitchClass } from './pitch';
import { transpose } from './transpose';

/** Same sound, one letter up: C♯ becomes D♭. Twelve fifths down the line. */
export const TO_FLATTER_TWIN: Interval = { diatonic: 1, chromatic: 0 };
/** Same sound, one letter down: D♭ becomes C♯. */
export const TO_SHARPER_TWIN: Interval = { diatonic: -1, chromatic: 0 };

/**
 * The interval, or its enharmonic twin, that gives the moved key the fewest accidentals.
 * On a tie (six sharps or six flats) the given spelling stays, so that a sharp key keeps its sharps; a minor key that
 * moves takes the flats, since E♭ minor is spelled with fewer accidentals than D♯ minor as soon as its 6 or 7 is raised.
 */
export function readableInterval(key: Key, interval: Interval): Interval {
  const twins = [interval, addIntervals(interval, TO_FLATTER_TWIN), addIntervals(interval, TO_SHARPER_TWIN)];
  const takesFlats = isMinor(key) && interval.chromatic % 12 !== 0;
  const accidentals = (candidate: Interval) => {
    const signature = signatureOf(transposeKey(key, candidate));
    return Math.abs(signature) - (takesFlats && signature < 0 ? 0.5 : 0);
  };
  return twins.reduce((best, next) => (accidentals(next) < accidentals(best) ? next : best));
}

function isMinor({ mode }: Key): boolean {
  return mode === 'minor' || mode === 'aeolian';
}

/**
 * The same sound with at most one sharp or flat: F𝄪 becomes G, C♭♭ becomes B♭. Simple pitches come back as they are.
 * Rule (hard): no double accidental in a beginner part; elsewhere only where the harmony means it.
 */
export function withoutDoubleAccidental(pitch: Pitch): Pitch {
  return withAlterUpTo(pitch, 1);
}

/** The same for a note name; one that is plain comes back as the same object. */
export function nameWithoutDouble(note: PitchClass): PitchClass {
  if (Math.abs(note.alter) <= 1) return note;
  const { step, alter } = withoutDoubleAccidental({ ...note, octave: 4 });
  return { step, alter };
}

/** Spelled nearer by while the accidental is larger than `most` (1 or 2). */
export function withAlterUpTo(pitch: Pitch, most: number): Pitch {
  if (Math.abs(pitch.alter) <= most) return pitch;
  const neighbour = naturalAt(staffPosition(pitch) + Math.sign(pitch.alter));
  return withAlterUpTo({ ...neighbour, alter: semitones(pitch) - semitones(neighbour) }, most);
}

/** Moves a pitch and makes triple accidentals readable; doubles stay, since they mean their letter. */
export function transposeReadably(pitch: Pitch, interval: Interval): Pitch {
  return withAlterUpTo(transpose(pitch, interval), 2);
}
