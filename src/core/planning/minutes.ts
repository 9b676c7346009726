import type { DayNumber } from './dates';
import { QUANTUM } from './pupilWork';
import type { WorkProgress } from './progress';
import type { Schedule } from './schedule';

/** Estimate less spent, over the steps that are not done. */
export function neededMinutes({ steps }: Pick<WorkProgress, 'steps'>): number {
  return steps.reduce((sum, { isDone, estimate, spent }) => sum + (isDone ? 0 : estimate - spent), 0);
}

/** Minutes of steps that a plan gives a work up to a day. */
export function minutesUntil({ days }: Schedule, progress: WorkProgress, until: DayNumber): number {
  let quanta = 0;
  for (const { open, portions } of days)
    if (open.day <= until)
      for (const portion of portions) if (portion.work === progress && portion.use === 'step') quanta += portion.quanta;
  return quanta * QUANTUM;
}
