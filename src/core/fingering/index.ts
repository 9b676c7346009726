// What may be used of this room from outside; all else is its own business.

// Which finger presses a hole or key.
export { type Chart } from './charts/chart';
export { CHARTS } from './charts/index';
// Heights of all written pitches that occur, C0 to G10.
export { fingerDistances } from './distance';
// A note of a line as the hand meets it.
export {
  type FingeredLine,
  type FingeredNote,
  fingerLine,
  type FingerNote,
  type FingerPins,
  handPin,
  isUnderHand,
  pinnedWays,
} from './fingerLine';
// Lies lower or higher than the finger's usual place in its position.
export {
  type BowedFingering,
  describeFingering,
  type Fingering,
  fingeringId,
  type FrettedFingering,
  type HolesFingering,
  keyName,
  markOf,
  ordinal,
  type ValvesFingering,
} from './fingering';
// Schools of how much is written over the notes.
export { fingerMarks, MARK_SCHOOLS, type MarkSchool } from './marks';
// One way to play a pitch.
export { chartOf, type CostedFingering, fingeringsFor, isFingered } from './options';
// For each fret the hand lies higher.
export { HIGHEST_HAND } from './plucked';
// 1 is the highest string.
export { inFourths, movableShape, type MovableShape, shapeName, shapeSteps } from './shapes';
// Schools of fingering.
export { FINGER_SCHOOLS, type FingerSchool, SCHOOL_NAMES } from './travel';
// What the signs over a line's notes mean.
export { markLegend } from './legend';
// How a fingering on strings is written.
export { MARK_STYLES, type MarkStyle } from './stringMarks';
