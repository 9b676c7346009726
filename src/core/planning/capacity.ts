import { type DayNumber, knownDay, mondayOf, weekdayOf } from './dates';
import { isPaced, type PlanRequest, QUANTUM } from './pupilWork';

/** A day of the plan before anything stands in it. Time is counted in quanta. */
export interface OpenDay {
  readonly day: DayNumber;
  readonly monday: DayNumber;
  /** Minutes. */
  readonly available: number;
  readonly isLesson: boolean;
  /** All of it, in quanta. */
  readonly quanta: number;
  /** Of these, for warming up and for what is recalled. */
  readonly reserve: number;
}

/** Days a plan may have, three years and a little more. */
export const MAX_PLAN_DAYS = 1_100;

/** From how many minutes so many quanta are kept for warming up and for what is recalled. */
const RESERVES = [
  { minutes: 90, quanta: 4 },
  { minutes: 60, quanta: 3 },
  { minutes: 30, quanta: 2 },
  { minutes: 15, quanta: 1 },
] as const;
/** On shorter days it is one quantum, one day of the calendar in so many. */
const SHORT_DAYS = 5;

/**
 * The days of a plan. What a day keeps for warming up and recalls depends on its minutes alone, not on what is finished
 * by then: so more minutes, or a day more, never leave less time for what is to be learned up to any day.
 */
export function openDays(request: PlanRequest, first: DayNumber): readonly OpenDay[] {
  const last = Math.min(knownDay(request.to), first + MAX_PLAN_DAYS - 1);
  // Drills that want an item on every day.
  const paced = request.work.filter(isPaced).length;
  const off = request.off.map(({ from, to }) => ({ from: knownDay(from), to: knownDay(to) }));
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, k): OpenDay => {
    const day = first + k;
    const weekday = weekdayOf(day);
    const isOff = off.some(({ from, to }) => day >= from && day <= to);
    const available = isOff ? 0 : (request.practice[weekday] ?? 0);
    const quanta = Math.floor(available / QUANTUM);
    const isShortOnesTurn = quanta > paced && day % SHORT_DAYS === 0;
    const usual = RESERVES.find(({ minutes }) => available >= minutes)?.quanta ?? (isShortOnesTurn ? 1 : 0);
    const reserve = Math.min(usual, Math.max(0, quanta - paced));
    return { day, monday: mondayOf(day), available, isLesson: weekday === request.lesson, quanta, reserve };
  });
}
