import { nameKey, namePitchClass, parseKey, parsePitch, printKey, printPitchClass } from '../pitch';
import type { Instrument, Level } from '../instruments';
import { writtenKeyOf } from '../keys';
import { adviceFor, lateWorks } from './advice';
import { openDays } from './capacity';
import { type CalendarDate, dateOfDay, type DayNumber, knownDay, type Weekday, weekdayOf } from './dates';
import { isPaced, type ItemKind, type PlannedWork, type PlanRequest, QUANTUM, type StepKind } from './pupilWork';
import { progressOf, type StepProgress, type WorkProgress } from './progress';
import { type FilledDay, type Portion, type Schedule, scheduleOf, STEPS_IN_TURN } from './schedule';
import { keyOfSet } from './steps';
import { minutesUntil, neededMinutes } from './minutes';
import { reasonsFor, type StepReasons, warmUpWords, whyRecall, whyStep } from './reasons';

/** What stands on a day. */
export interface PlanItem {
  readonly work: string;
  readonly step: string;
  readonly kind: ItemKind;
  readonly what: string;
  readonly why: string;
  /** Concert. */
  readonly key?: string;
  readonly writtenKey?: string;
  readonly tempo?: number;
  readonly fromBar?: number;
  readonly toBar?: number;
  readonly minutes: number;
}

export interface PlanDay {
  readonly date: CalendarDate;
  readonly weekday: Weekday;
  readonly available: number;
  readonly lesson: boolean;
  readonly items: readonly PlanItem[];
}

export interface PlanStep {
  readonly step: string;
  readonly what: string;
  readonly kind: StepKind;
  readonly key?: string;
  readonly tempo?: number;
  readonly estimate: number;
  readonly spent: number;
  readonly state: 'done' | 'open' | 'ahead';
}

export interface PlanWork {
  readonly id: string;
  readonly title: string;
  readonly steps: readonly PlanStep[];
  /** Minutes still. */
  readonly needed: number;
  /** Minutes that the plan gives it until its date, or to its end. */
  readonly there: number;
  readonly ready: CalendarDate | null;
  readonly by?: CalendarDate;
  readonly advice: readonly string[];
}

export interface Plan {
  readonly pupil: { readonly name: string; readonly instrument: string; readonly level: Level };
  readonly from: CalendarDate;
  readonly to: CalendarDate;
  readonly days: readonly PlanDay[];
  readonly work: readonly PlanWork[];
  readonly warnings: readonly string[];
}

/** A pupil's practice from the later of `from` and today to the end: the same for the same request. */
export function planOf(request: PlanRequest): Plan {
  const today = knownDay(request.today);
  const first = Math.max(knownDay(request.from), today);
  const progress = progressOf(request.work, request.log, today, request.pupil.instrument);
  const days = openDays(request, first);
  const schedule = scheduleOf(request, progress.works, days);
  const late = lateWorks(request, progress.works, schedule, days);
  const table = itemTable(request.pupil.instrument, progress.works);
  return {
    pupil: {
      name: request.pupil.name,
      instrument: request.pupil.instrument.id,
      level: request.pupil.level,
    },
    from: request.from,
    to: request.to,
    days: schedule.days.map((filled) => dayOf(filled, table)),
    work: progress.works.map((work) => workOf(work, request, schedule, adviceFor(work, late))),
    warnings: [...requestWarnings(request), ...progress.warnings],
  };
}

function requestWarnings(request: PlanRequest): readonly string[] {
  const { work, practice, from, to, today } = request;
  const start = knownDay(from);
  const warnings: string[] = [];
  if (!Object.values(practice).some((minutes) => minutes > 0))
    warnings.push('practice: no day has minutes, so nothing is planned; give a weekday some, like "monday": 20');
  if (work.length === 0) warnings.push('work: there is none, so nothing is planned');
  if (knownDay(today) > knownDay(to))
    warnings.push(`today (${today}) is after the end (${to}): no day is left to plan`);
  for (const one of work) {
    if (one.by !== undefined && knownDay(one.by) < start)
      warnings.push(`work "${one.id}": its date ${one.by} is before the beginning (${from}); it is planned as late`);
    if (one.start !== undefined && one.goal !== undefined && one.start > one.goal)
      warnings.push(
        `work "${one.id}": it would begin at ${one.start}, faster than its goal of ${one.goal}; it is planned at ${one.goal}`,
      );
  }
  return warnings;
}

/** What items need to know of their works, worked out once for the plan. */
interface ItemTable {
  readonly instrument: Instrument;
  readonly written: ReadonlyMap<StepProgress, string>;
  readonly facts: Map<StepProgress, StepFacts>;
  /** Minutes given to a step so far. */
  readonly given: Map<StepProgress, number>;
  readonly finished: Map<WorkProgress, { last: DayNumber; readonly since: DayNumber }>;
}

function itemTable(instrument: Instrument, works: readonly WorkProgress[]): ItemTable {
  return {
    instrument,
    written: new Map(
      works.flatMap(({ work, steps }) =>
        steps.flatMap((step) =>
          step.key === undefined ? [] : [[step, writtenOf(instrument, work, step.key)] as const],
        ),
      ),
    ),
    facts: new Map(),
    given: new Map(),
    finished: new Map(
      works.flatMap((one) =>
        one.finishedOn === undefined
          ? []
          : [[one, { since: one.finishedOn, last: one.recalled.at(-1)?.day ?? one.finishedOn }] as const],
      ),
    ),
  };
}

/** The key as the pupil reads it. */
function writtenOf(instrument: Instrument, work: PlannedWork, key: string): string {
  if ('chunks' in work) return work.key ? printKey(writtenKeyOf(instrument, work.key)) : key;
  const parsed = parsePitch(`${key}4`);
  if (!parsed.ok) return key;
  const set = 'set' in work ? work.set : 'major';
  return printPitchClass(writtenKeyOf(instrument, keyOfSet(parsed.value, set)).tonic);
}

function dayOf({ open, portions, warmUp }: FilledDay, table: ItemTable): PlanDay {
  const { day, available, isLesson } = open;
  const steps = portions.map((portion) => itemOf(portion, day, table));
  for (const { work } of portions) noteFinished(work, day, table);
  const leader = portions.find(({ step }) => step.key !== undefined) ?? portions[0];
  const used = steps.reduce((sum, { minutes }) => sum + minutes, 0);
  // What is left of an odd number of minutes goes into warming up.
  const minutes = warmUp === 0 ? 0 : warmUp * QUANTUM + Math.min(QUANTUM - 1, available - used - warmUp * QUANTUM);
  return {
    date: dateOfDay(day),
    weekday: weekdayOf(day),
    available,
    lesson: isLesson,
    items: minutes > 0 && leader ? [warmUpItem(leader, minutes, table), ...steps] : steps,
  };
}

function keysOf(step: StepProgress, table: ItemTable): Pick<PlanItem, 'key' | 'writtenKey'> {
  const writtenKey = table.written.get(step);
  return step.key === undefined ? {} : { key: step.key, ...(writtenKey !== undefined && { writtenKey }) };
}

function warmUpItem({ work, step }: Portion, minutes: number, table: ItemTable): PlanItem {
  const keys = keysOf(step, table);
  return {
    work: work.work.id,
    step: step.step,
    kind: 'warm-up',
    what: warmUpWords(table.instrument, keyWords(keys.writtenKey)),
    why: keys.writtenKey === undefined ? 'before anything else' : `the key of what comes today: ${work.work.title}`,
    ...keys,
    minutes,
  };
}

/** `B♭ major` for `Bb`, `F♯ minor` for `F#m`. */
function keyWords(key: string | undefined): string | undefined {
  if (key === undefined) return undefined;
  const parsed = parseKey(key);
  // A tonic beyond the signatures that are written: G♯ major has a name all the same.
  if (!parsed.ok) return key.replace('#', '♯').replace(/(?<=^[A-G])b/, '♭');
  return parsed.value.mode === 'major' ? namePitchClass(parsed.value.tonic) : nameKey(parsed.value);
}

/** What all items of a step share. */
interface StepFacts {
  readonly head: Pick<PlanItem, 'work' | 'step'>;
  readonly what: string;
  readonly place: Omit<PlanItem, 'work' | 'step' | 'kind' | 'what' | 'why' | 'minutes'>;
  readonly why: StepReasons;
}

function factsOf(work: WorkProgress, step: StepProgress, table: ItemTable): StepFacts {
  const known = table.facts.get(step);
  if (known) return known;
  const facts: StepFacts = {
    head: { work: work.work.id, step: step.step },
    what: `${work.work.title}: ${lowerFirst(step.what)}`,
    place: {
      ...keysOf(step, table),
      ...(step.tempo !== undefined && { tempo: step.tempo }),
      ...(step.fromBar !== undefined && { fromBar: step.fromBar }),
      ...(step.toBar !== undefined && { toBar: step.toBar }),
    },
    why: reasonsFor(work, step),
  };
  table.facts.set(step, facts);
  return facts;
}

function itemOf({ work, step, quanta, use }: Portion, day: DayNumber, table: ItemTable): PlanItem {
  const minutes = quanta * QUANTUM;
  const { head, what, place, why } = factsOf(work, step, table);
  if (use === 'recall') {
    const finished = table.finished.get(work);
    return {
      ...head,
      kind: 'recall',
      what: `${work.work.title}: once from beginning to end`,
      why: whyRecall(finished?.since ?? day, finished?.last ?? day, day),
      ...place,
      minutes,
    };
  }
  const before = table.given.get(step) ?? 0;
  table.given.set(step, before + minutes);
  return {
    ...head,
    kind: step.kind,
    what,
    why: whyStep(step, why, { minutes, before: step.spent + before }),
    ...place,
    minutes,
  };
}

/** Bars and "all of it" go on after a title; names of keys keep their capital. */
function lowerFirst(text: string): string {
  return /^(Bars?|Pickup|All|Round) /.test(text) ? text.charAt(0).toLowerCase() + text.slice(1) : text;
}

function noteFinished(work: WorkProgress, day: DayNumber, table: ItemTable): void {
  const isThrough = work.steps.every(
    (step) => step.isDone || step.spent + (table.given.get(step) ?? 0) >= step.estimate,
  );
  if (!isThrough) return;
  table.finished.set(work, { since: table.finished.get(work)?.since ?? day, last: day });
}

function workOf(progress: WorkProgress, request: PlanRequest, schedule: Schedule, advice: readonly string[]): PlanWork {
  const { work, steps, isFinished, lastEntry } = progress;
  const until = knownDay(work.by ?? request.to);
  const readyOn = schedule.ready.get(work.id);
  const ready = isFinished ? (lastEntry?.date ?? null) : readyOn === undefined ? null : dateOfDay(readyOn);
  const states = statesOf(progress, work.school ?? request.school);
  return {
    id: work.id,
    title: work.title,
    steps: steps.map((step, k): PlanStep => ({
      step: step.step,
      what: step.what,
      kind: step.kind,
      ...(step.key !== undefined && { key: step.key }),
      ...(step.tempo !== undefined && { tempo: step.tempo }),
      estimate: step.estimate,
      spent: step.spent,
      state: states[k] ?? 'ahead',
    })),
    needed: neededMinutes(progress),
    there: minutesUntil(schedule, progress, until),
    ready,
    ...(work.by !== undefined && { by: work.by }),
    advice,
  };
}

function statesOf({ work, steps }: WorkProgress, school: PlanRequest['school']): readonly PlanStep['state'][] {
  const waiting = steps.filter(({ isDone }) => !isDone);
  let open = 1;
  if (isPaced(work)) {
    // The first step of each key may be worked now, as far as they follow one another.
    const keys = new Set<string | undefined>();
    open = 0;
    while (open < waiting.length && !keys.has(waiting[open]?.key)) keys.add(waiting[open++]?.key);
  } else if (school === 'revisited') open = STEPS_IN_TURN;
  const opened = new Set(waiting.slice(0, open));
  return steps.map((step) => (step.isDone ? 'done' : opened.has(step) ? 'open' : 'ahead'));
}
