// What may be used of this room from outside; all else is its own business.

// Who plays a drill, and what was decided for them.
export {
  type DrillLine,
  type DrillRequest,
  formOfTune,
  isOverForm,
  keysOfDrill,
  layDrill,
  patternName,
  setOfKey,
  signsText,
} from './drill';
// A place of the hand on strings.
export { canReach } from './hand';
// The usual names of the twelve tonics, by their height above C.
export { ALL_TONICS, tonicsInOrder } from './keyOrder';
// What a teacher decides for one level of a drill.
export { DRILL_DEFAULTS, type DrillWishes } from './levelDrill';
// What is done on every step of a set.
export { groupSize, parsePattern, PATTERN_GROUPS, patternProblemText, PATTERNS } from './pattern';
// A stretch of an instrument that a drill may keep to.
export { placesOf } from './places';
// A drill that a tune asks for.
export { type DrillProposal, drillsFromTune, rhythmOfBars } from './proposals';
// Keys of the sketch.
export { drillTune, withIdea } from './sketch';
