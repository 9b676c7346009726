// What may be used of this room from outside; all else is its own business.

// The work with the chords of another version of its tune.
export { acceptProposedChords } from './acceptProposedChords';
// Long bows, one a chord.
export {
  BOW_RHYTHMS,
  type BowRhythm,
  describeGrip,
  hasGrips,
  stringChords,
  type StringChords,
  usualBowRhythm,
} from './accompany/stringChords';
// How many notes the easier part has.
export { firstNotes, UNDER_PACES, type UnderPace, underPart, type UnderPart } from './accompany/underPart';
// The tune's own scale for one player.
export { warmUpPart } from './accompany/warmUpPart';
// A tune's chords with nothing played over them, for a player to try out notes.
export { backingOnly, heardNotes } from './backingTune';
// A run of whole bars, `from` up to but without `to`.
export { type BarRun, withRests } from './bars/leaveOut';
// The events of a bar that was written as its player reads it, in concert pitch, under ids of its own.
export { soundingEvents } from './bars/ownBar';
// A drill for a level of an instrument as a part.
export { drillPart, type DrillPart } from './parts/drillPart';
// Bars with the key at their head.
export { inKey, readableKey } from './fit/inKey';
// The octave in which a level of an instrument has a whole line.
export { meanHeight, octaveOfLine } from './fit/layout';
// The part of a level as its recipe says, once through.
export {
  alternativesOfLevel,
  drillOfLevel,
  formedFrom,
  formedPartOfLevel,
  type PartMaker,
  partOfLevel,
  requestOf,
  soloOfLevel,
  workingOutOf,
} from './levelPart';
// A level's notes to improvise with, for one player.
export { type PlayerPools, poolsOfLevel } from './levelPools';
// How much harder than the level below a level should be.
export { APART } from './line/ensureHarderThan';
// What decides a level's line.
export { knownNotes } from './line/lineRequest';
// Families that breathe through what they play.
export { aidsFor, usualAids } from './page/aids';
// The notes of a written line as the hand meets them.
export { fingerNotes, fingerPart, legendOf, stringNames } from './page/fingerPart';
// What is printed over and under the notes of a part, with nothing left open.
export { fingerWishes, pageRequest } from './page/pageRequest';
// What one player reads, computed from tune, level and instrument.
export { type Part, partOfLine } from './parts/part';
// The part of one level for one instrument, with a word for everything that is not as in the tune.
export { partFor, type PartRequest } from './parts/partFor';
// What a solo is practised by, beside itself.
export { emptyChorus, SOLO_PAGE_NAMES, SOLO_PAGES, soloPage, type SoloPage } from './soloPages';
// An example solo of a level.
export {
  analysed,
  analysedTune,
  deviceWords,
  FIRST_TAKE,
  givenFrom,
  keptTake,
  landings,
  phraseWords,
  shortestSpoken,
  soloAsPart,
  type SoloPart,
  soloTempo,
} from './parts/soloPart';
// Times through a tune, written one after another.
export { joinChoruses } from './form/form';
// A line with what a player would pencil in, and the kind of tune that decides it.
export { phrased } from './phrasing/phrasing';
export { phrasingOf } from './phrasing/styles';
// What of a level stands on the stand.
export { ON_STAND, type OnStand, type StandAids, standPart, withStandAids } from './standPart';
// One plan through the keys of a round.
export { keysOfRound, roundOf, type RoundNumber, ROUNDS } from './rounds';
