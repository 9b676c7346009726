// What may be used of this room from outside; all else is its own business.

// More bars than a lick has.
export { lickAt, lickFacts, type LickPlace, lickPlaces, liftLick, MAX_LICK_BARS } from './lick';
// Bars of a solo that stand for themselves as a lick.
export { licksFound, spreadLicks } from './licksFound';
// A plan with the phrases that are kept in it.
export {
  editablePlan,
  type EditedPlan,
  placedGiven,
  placedPlan,
  type PlanEdit,
  unusedId,
  unusedPlace,
  withPlanEdit,
} from './planEdit';
// A solo that somebody wrote or played, read as ours are.
export { readSolo, type ReadSolo } from './readSolo';
// A place for a note in a solo, from the start of the solo.
export { type FormBar } from './rhythm';
// How wide a phrase lies, in half steps, and where its middle lies in the range, 0 to 1.
export { type HeldNote } from './room';
// An early note stands an eighth before its phrase.
export { composeSolo, type Solo } from './solo';
// What a phrase does.
export { DEVICES, PHRASE_KINDS, type PhraseKind, type SoloDevice, type SoloNote } from './soloNote';
// The bars of a tune in time, its pickup left out.
export { evenBars, formBarsOf, soloTune } from './soloTune';
// How much a solo does of something.
export {
  type Amount,
  AMOUNTS,
  type GivenNote,
  type GivenPhrase,
  type PhraseWish,
  placeId,
  SOLO_LIMITS,
  SOLO_TOOLS,
  type SoloTarget,
  type SoloTool,
  type SoloWishes,
  TARGET_DEGREES,
  USUAL,
  wishesForTake,
  withoutTake,
} from './wishes';
