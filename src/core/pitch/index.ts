// What may be used of this room from outside; all else is its own business.

// The letters as they follow one another on the line of fifths.
export { fifthsOf, pitchClassAtFifths } from './fifths';
// A directed interval.
export { addIntervals, type Interval, octaves, opposite, TWELVE_ABOVE, UNISON } from './interval';
// A tonic and a mode.
export {
  alterInKey,
  alterInSignature,
  intervalBetweenTonics,
  intervalUp,
  type Key,
  keyProblemText,
  keyWithSignature,
  type Mode,
  MODES,
  nameKey,
  parseKey,
  printKey,
  sameKey,
  signatureAlters,
  signatureOf,
  transposeKey,
} from './key';
// How many notes a player may be said to know.
export { MAX_KNOWN_NOTES, parseNotes, printNotes } from './noteList';
// The seven letters, in the order in which the octave number counts them (from C).
export {
  alterOf,
  byOctaves,
  chroma,
  isStep,
  type Letter,
  LETTERS,
  midiNumber,
  namePitchClass,
  naturalAt,
  parsePitch,
  type Pitch,
  type PitchClass,
  pitchClassOf,
  pitchOf,
  printPitch,
  printPitchClass,
  samePitch,
  semitones,
  staffPosition,
  stepIndex,
} from './pitch';
// Same sound, one letter up.
export {
  nameWithoutDouble,
  readableInterval,
  TO_FLATTER_TWIN,
  TO_SHARPER_TWIN,
  transposeReadably,
  withAlterUpTo,
  withoutDoubleAccidental,
} from './respell';
// The note so many letters away, as the key and the chord of the moment spell that letter.
export { leadingNoteTo, scaleStep } from './scaleSteps';
// How far on the line of fifths the usual names reach on either side of a major key's tonic.
export { raisedInKey, spellInKey } from './spell';
// The pitch an interval away, spelled by the interval.
export { transpose, transposeClass } from './transpose';
