// What may be used of this room from outside; all else is its own business.

// How short the rhythm words of a line may be, longest first.
export {
  ALL_BEAT_RHYTHMS,
  BEAT_RHYTHMS,
  beatKinds,
  type BeatRhythm,
  type BeatRhythmEntry,
  fits,
  kindOfBeat,
  rhythmsOfKind,
  rhythmsWithin,
  type Shortest,
  SHORTEST,
  shortestOf,
} from './beatRhythms';
// What a level did at a bar, as data.
export { type Change, type ChangeText, describeChange } from './change';
// The tables of a recipe that are changed entry by entry.
export { apply, becoming, type Command, type RecipeTable } from './command';
// What a teacher can decide for a level, in groups that belong together.
export {
  type Aid,
  AIDS,
  type AidWishes,
  ALTERNATES_AS,
  type AlternatesAs,
  ARTICULATION_STYLES,
  type ArticulationStyle,
  type Phrasing,
  PHRASINGS,
  type PhrasingStyle,
  type BarAids,
  type BarChoice,
  type BarChoices,
  type BarWishes,
  type Device,
  DEVICES,
  type Fade,
  FADES,
  type Form,
  FORMS,
  type FormWishes,
  LEAP_NAMES,
  LEAPS,
  LEAVE_OUTS,
  type LeaveOut,
  LINE_AIDS,
  type OwnBar,
  PAGE_SIZE_TABLE,
  PAGE_SIZES,
  type PageSize,
  type PageWishes,
  REMEDIES,
  type Remedy,
  type RhythmLimits,
  SYLLABLE_SCHOOLS,
  type SyllableSchool,
} from './groups';
// The tune in fewer notes, as it is, or with more.
export {
  DENSITIES,
  FIRST_RECIPES,
  instrumentOf,
  LEVEL_DEFAULTS,
  levelTempo,
  MAX_SEED,
  MELODIES,
  type Melody,
  type Recipe,
  type Recipes,
} from './recipe';
// The parts of a recipe that serve any tune.
export { isAsSaved, MAX_RECIPE_NAME, savedChange, type SavedRecipe, savedWishes } from './savedRecipe';
// Everything on the bench that a person decided.
export { type RecipeChange, recipesOf, type TuneDetails, withRecipe, type Work } from './work';
// A work on its way to a worker.
export { type CarriedOut, isWorkMissed, type WorkMessage, WorkReceiver, WorkSender } from './workMessage';
