// What may be used of this room from outside; all else is its own business.

// Dates of the calendar, without hour or zone.
export {
  dateAt,
  dateOfDay,
  dateWords,
  dayNumber,
  type DayNumber,
  knownDay,
  mondayOf,
  type Weekday,
  weekdayOf,
  WEEKDAYS,
  weekdayWords,
} from './dates';
// What a pupil works at, how, and what was logged.
export {
  LOG_SOURCES,
  type LogEntry,
  PACES,
  type Pace,
  type Pin,
  type PlannedWork,
  type PlanRequest,
  type School,
  SCHOOLS,
  type WorkKind,
} from './pupilWork';
// The steps of a work.
export { barWords, stepsOf } from './steps';
// From goals, days and log to a schedule.
export { type Plan, type PlanDay, type PlanItem, planOf, type PlanStep, type PlanWork } from './plan';
// Days that a plan may have.
export { MAX_PLAN_DAYS } from './capacity';
// What a tune is learned in.
export { chunksOfPart, evenChunks } from './workChunks';
// A pupil, and the groups that pupils stand in.
export {
  instrumentOfPlaying,
  joinPupils,
  newPupil,
  type Playing,
  playingOf,
  possiblySame,
  playerAsPupil,
  type Pupil,
  pupilAsPlayer,
  PUPIL_LIMITS,
  type PupilWork,
  requestFor,
} from './pupil';
// A group at one tune: who is ready, where everybody stumbles, what to rehearse.
export {
  type GroupMember,
  lately,
  memberStates,
  type MemberState,
  type RehearsalItem,
  rehearsalPlan,
  type Stumble,
  stumblesOf,
} from './groupWork';
