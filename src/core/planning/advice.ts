import { type OpenDay, openDays } from './capacity';
import { dateWords, knownDay, WEEKDAYS } from './dates';
import { climbOf } from './estimates';
import { minutesUntil, neededMinutes } from './minutes';
import { type PlanRequest } from './pupilWork';
import type { WorkProgress } from './progress';
import { type Schedule, scheduleOf } from './schedule';

/** Minutes more a day that are tried, the fewest first. */
const TRIED_MINUTES = [5, 10, 15, 20, 30] as const;
/** What the level below saves, about: fewer notes, mostly quarters. */
const LEVEL_BELOW = 0.35;

interface Late {
  readonly request: PlanRequest;
  readonly schedule: Schedule;
  /** By work: the fewest minutes more on each practice day that make it ready in time, where any of the tried do. */
  readonly minutesMore: ReadonlyMap<string, number>;
  readonly works: ReadonlySet<WorkProgress>;
}

/** The works that are not ready by their date, or by the end of the plan, and what more time would do for them. */
export function lateWorks(
  request: PlanRequest,
  works: readonly WorkProgress[],
  schedule: Schedule,
  days: readonly OpenDay[],
): Late {
  const late = works.filter((one) => isLate(request, one, schedule));
  const minutesMore = new Map<string, number>();
  for (const more of late.length > 0 && days.some(({ available }) => available > 0) ? TRIED_MINUTES : []) {
    const open = late.filter(({ work }) => !minutesMore.has(work.id));
    if (open.length === 0) break;
    const longer = withMore(request, more);
    const again = scheduleOf(longer, works, openDays(longer, days[0]?.day ?? 0));
    for (const one of open) if (!isLate(request, one, again)) minutesMore.set(one.work.id, more);
  }
  return { request, schedule, minutesMore, works: new Set(late) };
}

function isLate(request: PlanRequest, { work, isFinished }: WorkProgress, { ready }: Schedule): boolean {
  if (isFinished) return false;
  const on = ready.get(work.id);
  return on === undefined || on > knownDay(work.by ?? request.to);
}

function withMore(request: PlanRequest, more: number): PlanRequest {
  const practice = Object.fromEntries(
    WEEKDAYS.flatMap((day) => {
      const minutes = request.practice[day] ?? 0;
      return minutes > 0 ? [[day, minutes + more]] : [];
    }),
  );
  return { ...request, practice };
}

/** What would help a work to be ready in time, each with figures; none where it will be. */
export function adviceFor(one: WorkProgress, { request, schedule, minutesMore, works }: Late): readonly string[] {
  if (!works.has(one)) return [];
  const { work } = one;
  const until = knownDay(work.by ?? request.to);
  const needed = neededMinutes(one);
  const there = minutesUntil(schedule, one, until);
  const missing = Math.max(0, needed - there);
  const on = schedule.ready.get(work.id);
  const head = `Needs ${needed} minutes; ${there} are there until ${dateWords(until)}${on === undefined ? '' : `: ready on ${dateWords(on)}`}.`;
  const more = minutesMore.get(work.id);
  const helps = [
    more === undefined ? moreDays(request, missing) : `${more} minutes more on each practice day would be enough.`,
    ...slowerGoal(one, missing),
    ...hardLeftOut(one, missing),
    ...levelBelow(one, request, needed),
  ];
  return [head, ...helps];
}

/** Where no minutes that were tried are enough: what is lacking, in figures. */
function moreDays({ practice, to }: PlanRequest, missing: number): string {
  const days = Object.values(practice).filter((minutes) => minutes > 0).length;
  if (days === 0) return `There are no practice days: ${missing} minutes are missing until ${dateWords(knownDay(to))}.`;
  return `${missing} minutes are missing; half an hour more on each of the ${days} practice days a week is not enough.`;
}

function slowerGoal({ work, steps }: WorkProgress, missing: number): readonly string[] {
  if (!climbOf(work)) return [];
  let saved = 0;
  const open = steps.filter(({ isDone, tempo }) => !isDone && tempo !== undefined);
  const tempos = [...new Set(open.map(({ tempo }) => tempo ?? 0))].toSorted((a, b) => b - a);
  for (const [k, tempo] of tempos.slice(0, -1).entries()) {
    saved += open.reduce((sum, step) => sum + (step.tempo === tempo ? step.estimate - step.spent : 0), 0);
    const goal = tempos[k + 1];
    if (saved >= missing && goal !== undefined)
      return [`A goal of ${goal} rather than ${work.goal ?? tempo} would save about ${saved} minutes.`];
  }
  return [];
}

function hardLeftOut({ work, steps }: WorkProgress, missing: number): readonly string[] {
  if (!('chunks' in work) || work.chunks.length < 2) return [];
  const hardest = work.chunks.toSorted((a, b) => b.difficulty - a.difficulty)[0];
  const step = hardest && steps.find(({ fromBar, toBar }) => fromBar === hardest.fromBar && toBar === hardest.toBar);
  if (!hardest || !step || step.isDone || missing === 0) return [];
  const saved = step.estimate - step.spent;
  return [
    `Without bars ${hardest.fromBar} to ${hardest.toBar}, the hardest, it would take about ${saved} minutes less.`,
  ];
}

function levelBelow({ work }: WorkProgress, { pupil }: PlanRequest, needed: number): readonly string[] {
  if (work.kind !== 'tune' || pupil.level === 'beginner') return [];
  const below = pupil.level === 'advanced' ? 'intermediate' : 'beginner';
  return [`The ${below} part would need about ${Math.round(needed * (1 - LEVEL_BELOW))} minutes.`];
}
