// What may be used of this room from outside; all else is its own business.

// One key of a drill for one player.
export { bestKeys, type KeyOfDrill, keyTable } from './drillKeys';
// Finger marks a player wants.
export {
  type Group,
  GROUP_LIMITS,
  type GroupPlayer,
  instrumentOfPlayer,
  keyPlayers,
  WANTED_MARKS,
  type WantedMarks,
} from './group';
// What is handed out for a week, as it was chosen.
export {
  PACK_FILES,
  PACK_LIMITS,
  PACK_SHEET_NAMES,
  PACK_SHEETS,
  type PackChoice,
  type PackFile,
  type PackSheet,
  USUAL_PACK,
} from './pack';
// All levels in one key, at one tempo, through one form, and what that costs each.
export { allTogether, costsText, eachItsOwn } from './playTogether';
// Somebody who plays at a level.
export { type KeyPlayer } from './player';
// What one player of a group gets.
export { formedPartForPlayer, partForPlayer, type PlayerPart, recipeOfPlayer, workForPlayer } from './playerPart';
// How much a level's player weighs in the group's total.
export { type KeyForPlayer, type RankedKey, rankKeys, twelveKeys } from './rankKeys';
// Why a key is easy or hard for a player, in words, the weightiest first.
export { keyReasons, signatureText } from './reasons';
// For whom one key for all is much worse than a key of their own.
export { sufferersIn, suffererText } from './sufferers';
// One key for all, and the key that a level begins in.
export { bestRanked, startKey } from './startKey';
// The player of a level where no group is chosen.
export { lanePlayer, movedText, movedTexts, withOwnKey, withStartKey } from './startWork';
// What has to be the same for two levels to play at once.
export {
  accompanistText,
  apartBecause,
  type LevelSetting,
  playTogether,
  recordingText,
  writtenKeyOf,
} from './together';
