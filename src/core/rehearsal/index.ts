// What may be used of this room from outside; all else is its own business.

// A step of learning a tune by ear.
export { earNotes, type EarStep, earSteps, noteToFind, type ShapeNote, shapeOfBars } from './byEar';
// A round of practice.
export { chain, type Round, roundName } from './chain';
// A stretch that is learned by itself.
export { type Chunk, chunksFrom, likeWords, proposeChunks } from './chunks';
// What a metronome sounds of the beats.
export { CLICK_PATTERNS, type ClickPattern, isClicked } from './clicks';
// What a pitch detector says of a moment.
export { type HeardNote, heardNotes } from './heardNotes';
// A note that should be played.
export { judgeTake, type Verdict, type WantedNote } from './judgeTake';
// How a tempo is worked up.
export { afterRound, beginLadder, type LadderPlace, type LadderPlan } from './ladder';
// A note of the page with what became of it.
export { GOOD_SHARE, takeReport, type TakeReport, takeWords } from './takeReport';
// After so long without a tap another tempo begins, seconds.
export { tappedTempo } from './tapTempo';
// After how long a rest is due.
export { restMinutes } from './restMinutes';
