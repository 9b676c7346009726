// What may be used of this room from outside; all else is its own business.

// Words for pupils and teachers about sets and chords.
export { backingWords, coverageWords, MEMORY_STEPS, rubWords, sheetAdvice } from './advice';
// A set that a beginner could start with on an instrument, in written pitch.
export { firstSets } from './firstSet';
// Where a chord stands.
export { formIn, formOf, type ImprovisingForm } from './form';
// The twelve notes that a tune's melody uses, as bits above C.
export { melodyBits, openingOf } from './opens';
// Degree of the chord.
export {
  changeWords,
  type ChordPool,
  type ChordPools,
  coloursOf,
  degreeOver,
  type LevelPools,
  type PoolNote,
  poolOfScale,
  poolsFor,
  setOnForm,
} from './poolsOf';
// What speaks against a chord.
export { withProposedChords } from './proposeChords';
// What a note does over a chord.
export { type Role, rolesOver } from './roles';
// How far a set is played.
export { type Extent, EXTENTS, keyForSet, MINOR_SCHOOLS, movedLine, setLine, type SetLine, setTune } from './setLine';
// A set that serves the whole form, and how it sits on it.
export { type WholeFormSet } from './wholeForm';
// Kinds of pools, from one set over everything to a scale for each chord.
export {
  chordPlace,
  type ChordWish,
  type ImprovisingWishes,
  MAX_ADVICE,
  POOL_KINDS,
  POOL_NAMES,
  POOL_SCHOOLS,
  type PoolKind,
  type PoolSchool,
  presetFor,
} from './wishes';
