// What may be used of this room from outside; all else is its own business.

// All instruments, in score order.
export { instrumentById, INSTRUMENTS } from './catalogue/index';
// A custom instrument of the studio.
export { customInstrument, type CustomInstrument, customInstrumentProblems, withChart } from './customInstrument';
// `strings` are bowed, `fretted` are plucked, `percussion` has pitched bars.
export {
  type BowedHand,
  FAMILIES,
  type Family,
  HOLE_CHARTS,
  type HoleChart,
  type Instrument,
  type Level,
  LEVELS,
  type Mechanism,
  outsideBy,
  toSounding,
  type WrittenRange,
} from './instrument';
// Limits of one player, in written pitch.
export { limitsProblem, type PlayerLimits, withLimits } from './limits';
// What beginner, intermediate and advanced mean, for every engine.
export { profileOf } from './levelProfile';
