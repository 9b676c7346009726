import { type DayNumber, knownDay } from './dates';
import { type OpenDay } from './capacity';
import { isPaced, type Pin, type PlanRequest, QUANTUM, type School } from './pupilWork';
import { type StepProgress, type WorkProgress, quantaLeft } from './progress';
import { keyOfToday, type PacedState, pacedState } from './pace';
import { afterRecall, beginRecall, dueOn, type Recall } from './recall';

/** What stands on a day for one step, in quanta. */
export interface Portion {
  readonly work: WorkProgress;
  readonly step: StepProgress;
  readonly quanta: number;
  readonly use: 'step' | 'recall';
}

export interface FilledDay {
  readonly open: OpenDay;
  readonly portions: readonly Portion[];
  /** Quanta for warming up. */
  readonly warmUp: number;
}

export interface Schedule {
  readonly days: readonly FilledDay[];
  /** Quanta that each step still needs at the end, by work. */
  readonly ready: ReadonlyMap<string, DayNumber>;
}

/** What is known of a work while days are filled. */
interface Going {
  readonly progress: WorkProgress;
  readonly school: School;
  /** Quanta still needed by each step. */
  readonly left: number[];
  readonly due: DayNumber;
  readonly hasDate: boolean;
  readonly paced?: PacedState;
  /** By step, the day it was worked at last. */
  readonly seen: (DayNumber | undefined)[];
  total: number;
  /** The first step that is not finished, or one before it. */
  next: number;
  credit: number;
  lastDay: DayNumber;
  lastWeek: DayNumber;
  recall?: Recall;
  readyOn?: DayNumber;
}

/** Of the time until a date, what is planned with: the rest is for what goes wrong. */
const SAFE_SHARE = 0.85;
/** Without a date, or after it, a work is to be done in about so many days. */
const OVERDUE_DAYS = 14;
/** So much of a work at least, where the day has room for it: less is hardly begun. */
const GOOD_PORTION = 2;
/** Steps of a work that are gone through in turn where all are revisited. */
export const STEPS_IN_TURN = 3;

/**
 * Fills days with steps. All time that is not reserved goes to steps while any is left, whichever they are; so how far
 * everything together has come by a day depends on the minutes until then alone.
 */
export function scheduleOf(
  request: Pick<PlanRequest, 'school' | 'to' | 'pins'>,
  works: readonly WorkProgress[],
  days: readonly OpenDay[],
): Schedule {
  const first = days[0]?.day ?? 0;
  const going = works.map((progress) => begun(progress, request, first));
  const pinned = byDate(request.pins ?? []);
  const daily = going.reduce((sum, { paced, total }) => sum + (paced && total > 0 ? GOOD_PORTION : 0), 0);
  const room = roomUntil(days, daily);
  const filled = days.map((open, index) => fillDay(going, days, index, room, pinned.get(open.day) ?? []));
  return {
    days: filled,
    ready: new Map(
      going.flatMap(({ progress, readyOn }) => (readyOn === undefined ? [] : [[progress.work.id, readyOn]])),
    ),
  };
}

function begun(progress: WorkProgress, request: Pick<PlanRequest, 'school' | 'to'>, first: DayNumber): Going {
  const { work, steps, finishedOn, recalled } = progress;
  const left = steps.map(quantaLeft);
  const recall =
    finishedOn === undefined
      ? undefined
      : recalled.reduce((one, { day, isGood }) => afterRecall(one, day, isGood), beginRecall(finishedOn));
  const last = progress.lastEntry ? knownDay(progress.lastEntry.date) : undefined;
  return {
    progress,
    school: work.school ?? request.school,
    left,
    due: knownDay(work.by ?? request.to),
    hasDate: work.by !== undefined,
    ...(isPaced(work) && { paced: pacedState(progress, first) }),
    seen: steps.map(({ lastDay }) => lastDay),
    total: left.reduce((sum, one) => sum + one, 0),
    next: 0,
    credit: 0,
    lastDay: last ?? first - 365,
    // What was practised before the plan begins is no turn of it.
    lastWeek: first - 365,
    ...(recall && { recall }),
  };
}

function byDate(pins: readonly Pin[]): ReadonlyMap<DayNumber, readonly Pin[]> {
  const found = new Map<DayNumber, Pin[]>();
  for (const pin of pins) found.set(knownDay(pin.date), [...(found.get(knownDay(pin.date)) ?? []), pin]);
  return found;
}

/** Quanta for steps before each day, without what goes to drills that have a key each day. */
function roomUntil(days: readonly OpenDay[], daily: number): readonly number[] {
  const sums = [0];
  for (const { quanta, reserve } of days) sums.push((sums.at(-1) ?? 0) + Math.max(0, quanta - reserve - daily));
  return sums;
}

/** A day while it is filled. */
interface Filling {
  readonly open: OpenDay;
  readonly index: number;
  readonly room: readonly number[];
  readonly firstDay: DayNumber;
  left: number;
  readonly given: Map<Going, number>;
  readonly portions: Portion[];
}

function fillDay(
  all: readonly Going[],
  days: readonly OpenDay[],
  index: number,
  room: readonly number[],
  pins: readonly Pin[],
): FilledDay {
  const open = days[index];
  if (!open) throw new RangeError('a day beyond the plan');
  const { day, quanta, reserve } = open;
  const unfinished = all.filter(({ total }) => total > 0);
  const due = all
    .filter(({ recall, total }) => recall && total === 0 && dueOn(recall) <= day)
    .toSorted((a, b) => dueOn(a.recall ?? beginRecall(day)) - dueOn(b.recall ?? beginRecall(day)));
  if (quanta === 0 || (unfinished.length === 0 && due.length === 0 && pins.length === 0))
    return { open, portions: [], warmUp: 0 };
  if (unfinished.length === 0 && pins.length === 0) return onlyRecalls(open, due);

  const filling: Filling = {
    open,
    index,
    room,
    firstDay: days[0]?.day ?? day,
    left: Math.max(0, quanta - reserve),
    given: new Map(),
    portions: [],
  };
  const struck = new Set(pins.filter(({ minutes }) => minutes === 0).map(({ work }) => work));
  const wanted = unfinished.filter(({ progress }) => !struck.has(progress.work.id));
  placePins(filling, all, pins);
  // A week's key that had its turn in the week waits for those that had none.
  const waits = (one: Going) => one.paced?.pace === 'key-a-week' && one.lastWeek === open.monday;
  const waiting = wanted.filter(waits);
  const turns = turnsToday(filling, wanted, days);
  placePaced(
    filling,
    wanted.filter((one) => !waits(one)),
    turns.must,
  );
  const borrowed = placeUncovered(filling, turns, reserve);
  placePaced(filling, waiting, 0);
  placeUrgent(filling, wanted);
  placeByShare(filling, wanted);
  fillUp(filling, wanted);
  const steps = inOrder(filling);
  for (const one of all) if (one.total === 0 && one.recall === undefined && one.readyOn === undefined) finish(one, day);
  const kept = Math.max(0, reserve - borrowed);
  // On the day on which everything is finished, what is left over serves what is due.
  const places = Math.max(0, kept + (all.every(({ total }) => total === 0) ? filling.left : 0));
  const recalled = due.filter(({ progress }) => !struck.has(progress.work.id)).slice(0, places);
  const recalls = recalled.map((one) => recallPortion(one, day, 1));
  return { open, portions: [...steps, ...recalls], warmUp: Math.max(0, kept - recalls.length) };
}

function finish(one: Going, day: DayNumber): void {
  one.readyOn = day;
  one.recall = beginRecall(day);
}

function recallPortion(one: Going, day: DayNumber, quanta: number): Portion {
  one.recall = afterRecall(one.recall ?? beginRecall(day), day, true);
  const step = one.progress.steps.at(-1);
  if (!step) throw new RangeError('a finished work has steps');
  return { work: one.progress, step, quanta, use: 'recall' };
}

/** Nothing is left to learn: a day with something to recall is that. */
function onlyRecalls(open: OpenDay, due: readonly Going[]): FilledDay {
  const warmUp = open.quanta >= 5 ? 1 : 0;
  const places = open.quanta - warmUp;
  const played = due.slice(0, places);
  const portions = played.map((one, k) =>
    recallPortion(one, open.day, Math.floor(places / played.length) + (k < places % played.length ? 1 : 0)),
  );
  return { open, portions, warmUp };
}

/** What the teacher set for the day stands first, as far as the day goes. */
function placePins(filling: Filling, all: readonly Going[], pins: readonly Pin[]): void {
  for (const { work, step, minutes } of pins) {
    const one = all.find(({ progress }) => progress.work.id === work);
    if (!one || minutes === 0) continue;
    const at = one.progress.steps.findIndex((known) => known.step === step);
    const quanta = Math.min(filling.left, Math.max(1, Math.round(minutes / QUANTUM)));
    if (quanta === 0) continue;
    if (at >= 0) giveTo(filling, one, at, quanta);
    else if (one.total > 0) giveWork(filling, one, quanta);
    else giveTo(filling, one, one.progress.steps.length - 1, quanta);
  }
}

/**
 * Drills that go a key a day or a week: the day's key first, at least one quantum for each of them.
 * @param kept quanta that others have to get today
 */
function placePaced(filling: Filling, wanted: readonly Going[], kept: number): void {
  const paced = wanted.filter(({ paced: has }) => has).toSorted((a, b) => a.lastDay - b.lastDay);
  const { day, quanta, reserve } = filling.open;
  const most = Math.max(GOOD_PORTION, Math.floor((quanta - reserve) / 2));
  paced.forEach((one, k) => {
    if (!one.paced || filling.left === 0) return;
    const key = keyOfToday(one.paced, day, (step) => (one.left[step] ?? 0) > 0);
    const others = paced.length - k - 1;
    let free = Math.max(1, filling.left - others - kept);
    const rungs = key.steps.filter((step) => (one.left[step] ?? 0) > 0);
    const [first] = rungs;
    if (first === undefined) {
      // The week's key is done: it is kept warm until Monday.
      giveTo(filling, one, key.steps.at(-1) ?? 0, 1);
      return;
    }
    // A key a day has a visit of one length, whatever else the day holds: then a day more is never a day lost.
    free = Math.min(free, one.paced.pace === 'key-a-day' ? one.paced.visit : most);
    giveSteps(filling, one, rungs, free);
  });
}

/** Who has not had a turn in the week, where all is revisited. */
interface Turns {
  readonly uncovered: readonly Going[];
  /** So many of them have to come today: the rest of the week cannot hold them. */
  readonly must: number;
  /** Quanta of the week after today. */
  readonly later: number;
}

function turnsToday({ open: { monday }, index }: Filling, wanted: readonly Going[], days: readonly OpenDay[]): Turns {
  const uncovered = wanted
    .filter((one) => one.school === 'revisited' && one.lastWeek !== monday && !one.paced)
    .toSorted((a, b) => a.lastDay - b.lastDay || a.due - b.due);
  const daily = wanted.filter(({ paced }) => paced).length;
  let later = 0;
  for (let k = index + 1; days[k]?.monday === monday; k += 1)
    later += Math.max(0, (days[k]?.quanta ?? 0) - (days[k]?.reserve ?? 0) - daily * GOOD_PORTION);
  return { uncovered, must: Math.max(0, uncovered.length - later), later };
}

/**
 * Where all is revisited, each work has its turn in the week. What the rest of the week cannot hold is placed today, if
 * need be out of the reserve.
 * @returns quanta taken from the reserve
 */
function placeUncovered(filling: Filling, turns: Turns, reserve: number): number {
  const uncovered = turns.uncovered.filter((one) => !filling.given.has(one));
  if (uncovered.length === 0) return 0;
  const must = Math.min(uncovered.length, turns.must);
  const borrowed = Math.min(reserve, Math.max(0, must - filling.left));
  filling.left += borrowed;
  const all = filling.left + turns.later;
  const size = Math.max(1, Math.min(2 * GOOD_PORTION, Math.floor(all / uncovered.length)));
  // Those of the day's even share, and never fewer than have to.
  const share = Math.max(must, Math.ceil((uncovered.length * filling.left) / Math.max(1, all)));
  uncovered.slice(0, share).forEach((one, k) => {
    const others = Math.max(0, must - k - 1);
    giveWork(filling, one, Math.min(size, Math.max(1, filling.left - others)));
  });
  return borrowed;
}

/** What would not be ready by its date otherwise, the earliest date first. */
function placeUrgent(filling: Filling, wanted: readonly Going[]): void {
  const dated = wanted.filter(({ hasDate, paced }) => hasDate && !paced).toSorted((a, b) => a.due - b.due);
  let needed = 0;
  dated.forEach((one, k) => {
    needed += one.total;
    const must = needed - Math.floor(SAFE_SHARE * roomBetween(filling, 1, one.due));
    // What cannot be ready in any case has its share and no more: the others would wait for nothing.
    if (must <= 0 || needed > roomBetween(filling, 0, one.due)) return;
    let still = must;
    for (const earlier of dated.slice(0, k + 1)) {
      const already = filling.given.get(earlier) ?? 0;
      const amount = Math.min(earlier.total, Math.max(0, still - already));
      still -= already + giveWork(filling, earlier, amount);
      if (still <= 0) break;
    }
    // What was given stands in `needed` no more for those that come later.
    needed = dated.slice(0, k + 1).reduce((sum, { total }) => sum + total, 0);
  });
}

/** Quanta for steps from so many days on up to a day, both included. */
function roomBetween({ index, room, firstDay }: Filling, ahead: number, until: DayNumber): number {
  const end = Math.min(room.length - 1, Math.max(0, until - firstDay + 1));
  return Math.max(0, (room[end] ?? 0) - (room[Math.min(index + ahead, room.length - 1)] ?? 0));
}

/** The rest of the day by what each work needs a day; who got less than that lately comes first. */
function placeByShare(filling: Filling, wanted: readonly Going[]): void {
  const free = filling.left;
  const others = wanted.filter(({ paced, total }) => !paced && total > 0);
  if (free === 0 || others.length === 0) return;
  const rates = others.map((one) => {
    const until = one.due < filling.open.day ? filling.open.day + OVERDUE_DAYS : one.due;
    return one.total / Math.max(1, roomBetween(filling, 0, until));
  });
  const sum = rates.reduce((all, rate) => all + rate, 0);
  others.forEach((one, k) => {
    one.credit += (free * (rates[k] ?? 0)) / sum;
  });
  for (const one of others.toSorted((a, b) => b.credit - a.credit || a.due - b.due)) {
    const given = giveWork(filling, one, Math.max(GOOD_PORTION, Math.round(one.credit)));
    one.credit -= given;
  }
  // Rounding may leave a little.
  for (const one of others) one.credit -= giveWork(filling, one, filling.left);
}

/** Gives the steps of one key, in order, up to so many quanta; how many were not needed comes back. */
function giveSteps(filling: Filling, one: Going, steps: readonly number[], quanta: number): number {
  let free = quanta;
  for (const step of steps) {
    const amount = Math.min(free, one.left[step] ?? 0);
    if (amount > 0) giveTo(filling, one, step, amount);
    free -= amount;
  }
  return free;
}

/**
 * Time that nothing else needs while drills still wait for their day: the day's keys get it. A key a day gets it beyond
 * what was estimated, where a step has had that: the next tempo waits for its own day.
 */
function fillUp(filling: Filling, wanted: readonly Going[]): void {
  const paced = wanted.filter((one) => one.paced && one.total > 0 && filling.given.has(one));
  paced.forEach((one, k) => {
    const amount = Math.floor(filling.left / (paced.length - k));
    const key = one.paced?.keys[one.paced.at];
    if (!key || amount === 0) return;
    const given = filling.portions.flatMap(({ work, step }) =>
      work === one.progress ? [work.steps.indexOf(step)] : [],
    );
    const full = given.findLast((step) => (one.left[step] ?? 0) === 0);
    const over =
      one.paced?.pace === 'key-a-day' && full !== undefined ? amount : giveSteps(filling, one, key.steps, amount);
    const last = full ?? key.steps.at(-1);
    if (over > 0 && last !== undefined) giveTo(filling, one, last, over);
  });
}

/** Gives a work quanta, step after step as its school has it; how many it took comes back. */
function giveWork(filling: Filling, one: Going, quanta: number): number {
  let free = Math.min(quanta, filling.left, one.total);
  const before = free;
  while (free > 0) {
    const step = openStep(one, filling.open.day);
    if (step < 0) break;
    const most = one.school === 'revisited' ? Math.max(GOOD_PORTION, Math.ceil(free / 2)) : free;
    const amount = Math.min(free, one.left[step] ?? 0, most);
    giveTo(filling, one, step, amount);
    free -= amount;
  }
  return before - free;
}

/** The step to be worked at: the first that is not done, or of the first few the one that has waited longest. */
function openStep(one: Going, day: DayNumber): number {
  const { left } = one;
  // Steps are finished, never opened again: the first that is not can only move on.
  while (one.next < left.length && (left[one.next] ?? 0) === 0) one.next += 1;
  if (one.next === left.length) return -1;
  if (one.school === 'mastered' || one.paced) return one.next;
  const turns: number[] = [];
  for (let step = one.next; step < left.length && turns.length < STEPS_IN_TURN; step += 1)
    if ((left[step] ?? 0) > 0) turns.push(step);
  const waited = (step: number) => day - (one.seen[step] ?? day - 1_000);
  return turns.toSorted((a, b) => waited(b) - waited(a) || a - b)[0] ?? -1;
}

function giveTo(filling: Filling, one: Going, step: number, quanta: number): void {
  const idea = one.progress.steps[step];
  if (!idea || quanta <= 0) return;
  const left = one.left[step] ?? 0;
  const used = Math.min(left, quanta);
  one.left[step] = left - used;
  one.total -= used;
  one.seen[step] = filling.open.day;
  one.lastDay = filling.open.day;
  one.lastWeek = filling.open.monday;
  filling.left -= quanta;
  filling.given.set(one, (filling.given.get(one) ?? 0) + quanta);
  filling.portions.push({ work: one.progress, step: idea, quanta, use: 'step' });
}

/** The day's portions, those of one step joined: works with something new first, while the head is fresh. */
function inOrder({ portions }: Filling): readonly Portion[] {
  const works = [...new Set(portions.map(({ work }) => work))];
  const blocks = works.map((work) => {
    const joined = new Map<StepProgress, Portion>();
    for (const portion of portions.filter((one) => one.work === work))
      joined.set(portion.step, { ...portion, quanta: portion.quanta + (joined.get(portion.step)?.quanta ?? 0) });
    return [...joined.values()].toSorted((a, b) => work.steps.indexOf(a.step) - work.steps.indexOf(b.step));
  });
  const isNew = (block: readonly Portion[]) => (block.some(({ step }) => step.kind !== 'repeat') ? 0 : 1);
  return blocks.toSorted((a, b) => isNew(a) - isNew(b)).flat();
}
