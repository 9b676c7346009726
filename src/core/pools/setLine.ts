import {
  hasLetterForEach,
  intervalsGoing,
  isMinorSet,
  type Scale,
  SCALE_OF_MODE,
  scaleIntervals,
  scaleOn,
} from '../harmony';
import {
  chroma,
  type Interval,
  type Key,
  keyWithSignature,
  MODES,
  type Pitch,
  semitones,
  signatureOf,
  transpose,
  withoutDoubleAccidental,
} from '../pitch';
import type { WrittenRange } from '../instruments';
import { quarterBars, QUARTERS_METER, type SetSignature, type Tune, TUNE_SCHEMA } from '../score';

export const EXTENTS = ['1', '2', 'full'] as const;
/** How far a set is played: one octave or two from the lowest tonic, or all of the range. */
export type Extent = (typeof EXTENTS)[number];

/** Schools of the melodic minor: natural coming down, or the same notes both ways. */
export const MINOR_SCHOOLS = ['natural', 'same'] as const;
export type MinorSchool = (typeof MINOR_SCHOOLS)[number];

export interface SetLine {
  /** Written pitches in playing order; both hold the top note. */
  readonly up: readonly Pitch[];
  readonly down: readonly Pitch[];
  /** Whether the range ends before the octaves asked for. */
  readonly isShortened: boolean;
}

/**
 * A set up and down again on an instrument, within a range of written pitches: from the lowest tonic that is in it for
 * so many octaves, or from its lowest note to the highest. `undefined` where the range holds no tonic (or, for `full`,
 * fewer than two of its notes).
 */
export function setLine(
  scale: Scale,
  range: WrittenRange,
  extent: Extent,
  minor: MinorSchool = 'natural',
): SetLine | undefined {
  const rising = ladder(scale, range, intervalsGoing(scale.name, 'up'));
  const falling = ladder(
    scale,
    range,
    scale.name === 'melodic minor' && minor === 'natural'
      ? scaleIntervals('natural minor')
      : intervalsGoing(scale.name, 'down'),
  );
  const isTonic = (pitch: Pitch) => chroma(pitch) === chroma(scale.tonic);
  const tonic = rising.find(isTonic);
  const from = extent === 'full' ? rising[0] : tonic;
  if (!from) return undefined;
  const top = extent === 'full' ? Infinity : semitones(from) + 12 * Number(extent);
  const up = rising.filter((pitch) => semitones(pitch) >= semitones(from) && semitones(pitch) <= top);
  const highest = up.at(-1);
  if (!highest || up.length < 2) return undefined;
  // Coming down begins on the note at the top, however it is spelled going up, and ends where the way up began.
  const below = falling
    .filter((pitch) => semitones(pitch) < semitones(highest) && semitones(pitch) >= semitones(from))
    .toReversed();
  const last = below.at(-1);
  const down = [highest, ...below, ...(last && semitones(last) > semitones(from) ? [from] : [])];
  return { up, down, isShortened: extent !== 'full' && semitones(highest) < top };
}

/** All notes of a set in a range, upwards. */
function ladder({ tonic, name }: Scale, { low, high }: WrittenRange, intervals: readonly Interval[]): readonly Pitch[] {
  const found: Pitch[] = [];
  for (let octave = low.octave - 2; octave <= high.octave + 1; octave += 1)
    for (const interval of intervals) {
      const moved = transpose({ ...tonic, octave }, interval);
      const pitch = hasLetterForEach(name) ? moved : withoutDoubleAccidental(moved);
      if (semitones(pitch) >= semitones(low) && semitones(pitch) <= semitones(high)) found.push(pitch);
    }
  return found.toSorted((a, b) => semitones(a) - semitones(b));
}

/**
 * A key whose signature suits a set: minor for the sets of minor, as they are printed in tutors; else, and where a
 * teacher wants the raised notes in the signature, of the modes on its tonic the one that shares most notes with it. Six
 * sharps or flats at most; where none is readable (C♯ altered), no signature.
 */
export function keyForSet({ tonic, name, notes }: Scale, signature: SetSignature = 'minor'): Key {
  const minor: Key = { tonic, mode: 'minor' };
  if (signature === 'minor' && isMinorSet(name) && Math.abs(signatureOf(minor)) <= 6) return minor;
  const own = new Set(notes.map((note) => `${note.step}${note.alter}`));
  const missing = (key: Key) =>
    scaleOn(key.tonic, SCALE_OF_MODE[key.mode]).notes.filter((note) => !own.has(`${note.step}${note.alter}`)).length;
  const readable = SIGNATURE_MODES.map((mode): Key => ({ tonic, mode })).filter(
    (key) => Math.abs(signatureOf(key)) <= 6,
  );
  const [first] = readable;
  if (!first) return keyWithSignature(0, 'major');
  return readable.reduce((best, next) => (missing(next) < missing(best) ? next : best), first);
}

/** Major and minor first: a set of five notes takes the usual one. */
const SIGNATURE_MODES = MODES.filter((mode) => mode !== 'ionian' && mode !== 'aeolian').toSorted(
  (a, b) => Number(b === 'minor') - Number(a === 'minor') || Number(b === 'major') - Number(a === 'major'),
);

/** A line of quarters, its last note held, as a tune in the pitch in which it is given. */
export function setTune(title: string, line: readonly Pitch[], key: Key, perMinute: number): Tune {
  return {
    schema: TUNE_SCHEMA,
    title,
    rights: 'own',
    key,
    meter: QUARTERS_METER,
    tempo: { beat: { type: 'quarter', dots: 0 }, perMinute },
    bars: quarterBars(line),
  };
}

/** The written pitches of a line taken by an interval: what sounds, or what is read. */
export function movedLine(line: readonly Pitch[], interval: Interval): readonly Pitch[] {
  return line.map((pitch) => transpose(pitch, interval));
}
