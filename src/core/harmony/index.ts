// What may be used of this room from outside; all else is its own business.

// A chord degree as in ♭9 or ♯11.
export {
  type ChordKind,
  type ChordSymbol,
  kindText,
  nameChord,
  parseChord,
  printChord,
  transposeChord,
  withReadableRoot,
} from './chordSymbol';
// 1, 3, 5, 7, or 2, 4, 6, 9, 11, 13 where the chord has them.
export { chordNotes, type ChordTone, chordTones } from './chordTones';
// Thirds above a root, in semitones, and the triad they make.
export { diatonicChords } from './diatonicChords';
// A tonic and a family, as one number.
export { familyOfKey } from './form/keyAreas';
// Bare chords, those of a bar sharing it equally.
export { progressionChords } from './form/progressionChords';
// The key that the form is said to be in.
export { readForm } from './form/readForm';
// What a chord does in the key of its place.
export {
  CHORD_FUNCTIONS,
  type ChordFunction,
  type ChordReading,
  type FormPattern,
  type FormReading,
  type ReadingCorrection,
} from './form/reading';
// A chord as it goes by in a form.
export { classOfChord, type RootedChord, type TimedChord } from './form/timedChord';
// Of the progression, counted from 1.
export {
  parseProgression,
  parseProgressionForm,
  type ProgressionBar,
  type ProgressionMarks,
  progressionProblemText,
  sharedBeats,
} from './progression';
// Named sets of notes.
export { ALL_SCALE_NAMES, SCALE_DICTIONARY, type ScaleName } from './scaleDictionary';
// The sets that a melody is looked for in.
export {
  chromaBits,
  hasLetterForEach,
  intervalsGoing,
  MELODY_SCALES,
  nameDegree,
  nameOfSet,
  nameScale,
  parseScale,
  parseScaleName,
  printDegree,
  printScale,
  isMinorSet,
  readableScale,
  scaleBeside,
  type Scale,
  SCALE_OF_MODE,
  scaleDegrees,
  scaleIntervals,
  scaleOn,
  scaleProblemText,
} from './scales';
