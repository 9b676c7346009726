// What may be used of this room from outside; all else is its own business.

// What can be told of a phrase without naming its notes, so that it can be looked for by ear.
export { degreeName, kinWords, phraseWords, type PhraseWords } from './byEar';
// Causes that carry a total, heaviest first, each with its share of it in points.
export { heaviestCauses } from './causeWords';
// The chord tones in force where each note is struck.
export { chordTonesAt, chordTonesUnder } from './chordsUnder';
// What makes a bar hard, each 0 (not at all) to 10.
export {
  barDifficulties,
  type Causes,
  CAUSES,
  type Difficulty,
  fixedCauses,
  type FixedCauses,
  hardestBar,
  lineCause,
  lineDifficulty,
  lineTotal,
  passagesThatStandOut,
  totalOf,
} from './difficulty';
// What a teacher would say of a part for a player of a level.
export { difficultyText, judgementText } from './difficultyWords';
// The key that a tune's notes and chords speak for.
export { findKey, KEY_METHOD, type KeyFinding } from './findKey';
// What a line is like, measured bar by bar, for the causes that `difficulty` weighs.
export {
  feltSigns,
  homeSignatures,
  type LineMeasure,
  lineShape,
  measureBreath,
  measureLine,
  measurePlayer,
  signatureCause,
} from './lineMeasure';
// A phrase as a run of sounding notes, `from` up to but without `to`.
export { type Phrase, phrasesOf } from './phrases';
// What speaks for it, as the end of a sentence.
export { styleOf, styleOfChords } from './style';
// What a tune is made of.
export { analyseTune, type PhraseFinding, type TuneAnalysis } from './tuneAnalysis';
// A set of fewer notes is no scale to warm up on.
export { ownScale, scaleText, warmUpTune } from './warmUp';
