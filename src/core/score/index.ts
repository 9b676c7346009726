// What may be used of this room from outside; all else is its own business.

// A reminder that the rules do not ask for but a reader is glad of.
export { accidentalsFor, type AccidentalTable } from './accidentals';
// Bars with what has no other end taken off, and the index of the bar of each mark that went.
export { type Balanced, withoutSlursOnOneNote, withPairedHairpins, withPairedSlurs, withTrueTies } from './balance';
// Staff position (letters above C0) of the middle line under each clef.
export { type Clef, CLEF_SIGNS, clefFor, stepsBelowStaff } from './clef';
// A stretch in which two tunes differ.
export { type Difference, differences } from './compare';
// Which way the steps of a drill go.
export {
  DRILL_ARTICULATIONS,
  DRILL_DIRECTIONS,
  DRILL_EXTENTS,
  DRILL_LIMITS,
  DRILL_RHYTHMS,
  type DrillArticulation,
  type DrillDirection,
  type DrillExtent,
  type DrillForm,
  type DrillIdea,
  type DrillRhythm,
  type Exercise,
  KEY_ORDERS,
  type KeyDates,
  type KeyOrder,
  SET_SIGNATURES,
  type SetSignature,
} from './drillIdea';
// Bars with a final line at the end of the last, where there is no other sign.
export { withFinalBarline } from './finalBarline';
// How a tune is played, and what may be added to it.
export { type HarmonyNotes, type ReadingNote, type Style, STYLES } from './harmonyNotes';
// Hands out ids in order, `n1`, `n2` … and `b1`, `b2` ….
export { idMaker, type IdMaker } from './identify';
// What a file may hold at most.
export {
  MAX_BARS,
  MAX_BYTES,
  MAX_CHORDS_IN_BAR,
  MAX_EVENTS_IN_BAR,
  MAX_GRACES_IN_BAR,
  MAX_LINES,
  MAX_NOTES,
  MAX_PROBLEMS,
  MAX_STORED_BARS,
  MAX_TEXT,
  MAX_VERSES,
  MAX_WARNINGS,
  MAX_XML_DEPTH,
} from './limits';
// Loudness of a note, 1–127 as MIDI counts it, by its last dynamic.
export { loudnessOf, USUAL_LOUDNESS } from './loudness';
// Bars, and by how many octaves they were moved to become others.
export { barsByOctaves, beforeOctaves, lineByOctaves, noteByOctaves } from './octaves';
// A line of quarters in bars of four, the last note held to the end of its bar.
export { quarterBars, QUARTERS_METER } from './quarterBars';
// As printed, in the old barring.
export { rebar, type RebarProblem, rebarProblemText } from './rebar';
// A note as it is heard.
export { type BarSpan, barSpans, type SoundingNote, soundingNotes } from './sounding';
// An event as several in a row, notes tied.
export { asPieces } from './splitNote';
// The number of the document's shape.
export {
  type Articulation,
  ARTICULATIONS,
  type Bar,
  type BarId,
  barLength,
  barNumbers,
  barOffset,
  countedBars,
  type Dynamic,
  DYNAMICS,
  type EventId,
  firstLyric,
  type GraceNote,
  type Hairpin,
  HAIRPINS,
  hasPickup,
  hasSecondPart,
  isNote,
  type Jump,
  JUMPS,
  keysOf,
  type LickNotes,
  type Lyric,
  mapNotes,
  MAX_LICK_PUPILS,
  metersOf,
  type Note,
  type Ornament,
  ORNAMENTS,
  PHRASE_MARKS,
  type PhraseMark,
  type PlacedChord,
  type PlacedCount,
  placedEvents,
  type PlacedTempo,
  quartersPerMinute,
  type Rest,
  type Rights,
  RIGHTS,
  type ScoreEvent,
  secondPartBars,
  type Swing,
  SWING_UNITS,
  type Tempo,
  type Tune,
  TUNE_SCHEMA,
  withoutSecondPart,
} from './tune';
// The bars of a tune in the order in which they are played.
export { unfold, unfoldProblemText } from './unfold';
// Slowest and fastest beat of a tune or level.
export { inBeatsOf, slowTempo, TEMPO_LIMITS, usualTempo } from './usualTempo';
// A fault in a tune document, with the bar as people count it.
export { type ScoreProblem, scoreProblems, scoreProblemText } from './validate';
// What a teacher decided about playing a tune together.
export {
  type Closing,
  CLOSINGS,
  type Handing,
  HANDINGS,
  type Introduction,
  INTRODUCTIONS,
  type PartRole,
  PART_ROLES,
  type TogetherBar,
  type TogetherCell,
  type TogetherNotes,
} from './together';
// The tune without what was decided about playing it together.
export { withoutTogether } from './withoutTogether';
// Where a fretted line is stopped.
export { type Tablature } from './tablature';
