import { QUANTUM } from './pupilWork';

/**
 * Minutes that learning takes. Rules of thumb of ours, not measured facts: each pupil's log corrects them (see
 * `paceOf`). They grow with bars, difficulty and the tempo that is still to climb.
 */
export const TASKS = {
  /** A bar that is new, at its first tempo: for itself, and for each point of difficulty (0–10). */
  bar: 2.2,
  barByDifficulty: 0.6,
  /** Joining bars that are known, against learning them. */
  joined: 0.35,
  /** All of a tune once more at a first tempo, against learning it. */
  whole: 0.3,
  /** Climbing by the whole first tempo, against learning. */
  climb: 1.1,
  /** Playing it without the page, against learning. */
  byHeart: 0.5,
  /** A drill's key, for a pattern in pairs. */
  drillKey: 6,
  drillByNote: 0.6,
  /** What is new in a round, the same in another key, something of one's own. */
  roundNew: 18,
  roundMoved: 9,
  roundOwn: 15,
  /** Each of the four steps of knowing a scale. */
  memory: 6,
  pool: 12,
} as const;

/** Whole minutes, none less than an item lasts. */
export function inQuanta(minutes: number): number {
  return QUANTUM * Math.max(1, Math.ceil(minutes / QUANTUM - 1e-9));
}

/** Minutes corrected by a pupil's pace: the nearest quantum, so that a pace of almost 1 changes nothing. */
export function atPace(minutes: number, factor: number): number {
  return QUANTUM * Math.max(1, Math.round((minutes * factor) / QUANTUM));
}

/** Minutes for learning some bars at their first tempo. */
export function learningMinutes(bars: number, difficulty: number): number {
  return bars * (TASKS.bar + TASKS.barByDifficulty * difficulty);
}

/** Beats a minute from one rung of a ladder to the next, about: a step that the ear just follows. */
const RUNG = 10;
const MAX_RUNGS = 8;

/**
 * The tempos from the first to the goal, both included, as even as whole numbers are; one where there is nothing to
 * climb.
 */
export function rungsOf(start: number, goal: number, most = MAX_RUNGS): readonly number[] {
  if (goal <= start) return [goal];
  const count = Math.min(most - 1, Math.ceil((goal - start) / RUNG));
  return Array.from({ length: count + 1 }, (_, k) => Math.round(start + ((goal - start) * k) / count));
}

/** Where nobody says at which tempo to begin: three fifths of the goal, as in the first tempo of a level. */
const FIRST_SHARE = 0.6;

/** First tempo and goal of a work, or none. A start above the goal is taken as the goal. */
export function climbOf(work: {
  readonly goal?: number;
  readonly start?: number;
}): { readonly start: number; readonly goal: number } | undefined {
  const { goal, start } = work;
  if (goal === undefined) return undefined;
  return { goal, start: Math.min(goal, start ?? Math.max(20, Math.round(goal * FIRST_SHARE))) };
}
