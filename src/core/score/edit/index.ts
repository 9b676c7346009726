// What may be used of this room from outside; all else is its own business.

// Puts empty bars before the one at `at`.
export { deleteBars, insertBars, markBar, repeatBars } from './barEdits';
// Puts a chord at a place of a bar.
export { chordsLike, layOutProgression, setChord, setChordsOfBar } from './chordEdits';
// A stretch of music taken along.
export { type Clip, copyStretch, cutStretch, pasteClip } from './clipEdits';
// Signs that stand at a bar's beginning.
export { isLanding, setEnding, setKeyFrom, setMeterFrom, setTempoFrom, toggleJump, toggleRepeat } from './courseEdits';
// What an edit made.
export { type EditResult, onSecondPart } from './edited';
// A mark that notes may carry.
export {
  type NoteMark,
  setLyric,
  setPhraseMark,
  toggleHairpin,
  toggleMark,
  toggleOptional,
  toggleSlur,
} from './markEdits';
// A tune that is to be written from nothing.
export { MAX_NEW_BARS, newTune, tuneOfProgression } from './newTune';
// How notes are moved.
export { movePitches, nearestPitch, type PitchMove, respellNotes, toggleTie } from './pitchEdits';
// Where the next thing typed goes.
export {
  advance,
  type Caret,
  compareCarets,
  eventAt,
  eventsIn,
  findEvent,
  moveCaret,
  pitchBefore,
  settled,
  type Stretch,
} from './place';
// `actual` notes in the time of `normal`.
export { makeTuplet, type Ratio, removeTuplet } from './tupletEdits';
// What is laid over the line.
export { changeLength, forecast, silence, writeAt } from './write';
