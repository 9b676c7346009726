// What may be used of this room from outside; all else is its own business.

// What each beam of a note does, outermost (eighth) first.
export { type BeamMark, beamsFor } from './beams';
// A time signature.
export {
  barTicks,
  type Beat,
  beatNumberAt,
  beatsOf,
  isCompound,
  isMeterUnit,
  type Meter,
  METER_UNITS,
  middleOf,
  parseMeter,
  printMeter,
  sameMeter,
  weightAt,
} from './meter';
// A printed note or rest length.
export {
  nameValue,
  notatedTicks,
  NOTE_TYPES,
  type NoteType,
  type NoteValue,
  soundingTicks,
  type Tuplet,
  valueOfTicks,
  valueTicks,
} from './noteValue';
// Cuts a sounding length into printed values, to be tied, so that the beats can be seen.
export { plainValues, readsWell, spellNoteLength, spellRestLength } from './spellLength';
// Ticks in a quarter note.
export { greatestCommonDivisor, quartersText, type Ticks, TICKS_PER_QUARTER, TICKS_PER_WHOLE } from './ticks';
