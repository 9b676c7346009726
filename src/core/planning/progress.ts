import { type DayNumber, knownDay } from './dates';
import { atPace, inQuanta } from './estimates';
import { type LogEntry, type PlannedWork, QUANTUM, type StepIdea } from './pupilWork';
import { type Reader, stepsOf } from './steps';

/** A step with what the log says of it. */
export interface StepProgress extends StepIdea {
  /** Minutes, from the log. */
  readonly spent: number;
  readonly isDone: boolean;
  /** The fastest tempo of a good round so far. */
  readonly bestTempo?: number;
  readonly lastDay?: DayNumber;
}

export interface WorkProgress {
  readonly work: PlannedWork;
  readonly steps: readonly StepProgress[];
  readonly isFinished: boolean;
  /** The day on which the last step was done. */
  readonly finishedOn?: DayNumber;
  /** The last entry, of any of its steps. */
  readonly lastEntry?: LogEntry;
  /** What was played of it after it was finished, in order. */
  readonly recalled: readonly { readonly day: DayNumber; readonly isGood: boolean }[];
}

export interface Progress {
  readonly works: readonly WorkProgress[];
  /** What was not counted, and why. */
  readonly warnings: readonly string[];
}

/** Good rounds after which a step is done. */
const ROUNDS_TO_GO_ON = 3;

/**
 * What a log says of works: entries up to today, each counted for its step. A step of a tempo ladder is done with three
 * good rounds at its tempo or faster, or when the teacher says so; what is done stays done.
 */
export function progressOf(
  works: readonly PlannedWork[],
  log: readonly LogEntry[],
  today: DayNumber,
  reader?: Reader,
): Progress {
  const { counted, warnings } = entriesThatCount(works, log, today);
  const measured = works.map((work) => workProgress(work, counted.get(work.id) ?? [], reader));
  const factor = paceOf(measured.flatMap(({ steps }) => steps));
  return {
    works: measured.map((one) => ({ ...one, steps: one.steps.map((step) => corrected(step, factor)) })),
    warnings,
  };
}

function entriesThatCount(works: readonly PlannedWork[], log: readonly LogEntry[], today: DayNumber) {
  const steps = new Map(works.map((work) => [work.id, new Set(stepsOf(work).map(({ step }) => step))]));
  const counted = new Map<string, LogEntry[]>();
  const tally = new Map<string, number>();
  const warn = (text: string) => tally.set(text, (tally.get(text) ?? 0) + 1);
  for (const entry of log) {
    const known = steps.get(entry.work);
    if (knownDay(entry.date) > today) warn(`log: after today, not counted: ${entry.date}`);
    else if (!known) warn(`log: the work "${entry.work}" is not in the plan; not counted`);
    else if (!known.has(entry.step)) warn(`log: "${entry.work}" has no step "${entry.step}"; not counted`);
    else {
      const entries = counted.get(entry.work);
      if (entries) entries.push(entry);
      else counted.set(entry.work, [entry]);
    }
  }
  return {
    counted,
    warnings: [...tally].map(([text, times]) => (times === 1 ? text : `${text} (${times} entries)`)),
  };
}

function workProgress(work: PlannedWork, entries: readonly LogEntry[], reader: Reader | undefined): WorkProgress {
  const inOrder = entries.toSorted((a, b) => a.date.localeCompare(b.date));
  const doneOn = new Map<string, DayNumber>();
  const ideas = stepsOf(work, reader);
  const steps = ideas.map((idea): StepProgress => {
    const own = inOrder.filter(({ step }) => step === idea.step);
    const done = dayDone(idea, own);
    if (done !== undefined) doneOn.set(idea.step, done);
    const tempos = own.flatMap(({ tempo, good }) => (tempo !== undefined && good > 0 ? [tempo] : []));
    const last = own.at(-1);
    return {
      ...idea,
      spent: own.reduce((sum, { minutes }) => sum + minutes, 0),
      isDone: done !== undefined,
      ...(tempos.length > 0 && { bestTempo: Math.max(...tempos) }),
      ...(last && { lastDay: knownDay(last.date) }),
    };
  });
  const isFinished = steps.length > 0 && steps.every(({ isDone }) => isDone);
  const finishedOn = isFinished ? Math.max(...doneOn.values()) : undefined;
  const last = inOrder.at(-1);
  return {
    work,
    steps,
    isFinished,
    ...(finishedOn !== undefined && { finishedOn }),
    ...(last && { lastEntry: last }),
    recalled: finishedOn === undefined ? [] : recallsOf(inOrder, finishedOn),
  };
}

function dayDone({ tempo }: StepIdea, entries: readonly LogEntry[]): DayNumber | undefined {
  let good = 0;
  for (const entry of entries) {
    if (entry.by === 'teacher' && entry.good >= 1 && entry.again === 0) return knownDay(entry.date);
    if (tempo === undefined || (entry.tempo !== undefined && entry.tempo >= tempo)) good += entry.good;
    if (good >= ROUNDS_TO_GO_ON) return knownDay(entry.date);
  }
  return undefined;
}

/** One a day: a day on which something had to be played again counts as that. */
function recallsOf(entries: readonly LogEntry[], finishedOn: DayNumber): WorkProgress['recalled'] {
  const days = new Map<DayNumber, boolean>();
  for (const { date, good, again } of entries) {
    const day = knownDay(date);
    if (day > finishedOn && good + again > 0) days.set(day, (days.get(day) ?? true) && again === 0);
  }
  return [...days].map(([day, isGood]) => ({ day, isGood }));
}

/** As if so many minutes had gone as they were estimated: few entries move the pace little. */
const MINUTES_BEFORE = 120;
const PACE_LIMITS = { least: 0.5, most: 2 } as const;

/** How long this pupil's finished steps took, against what was estimated: 1 as estimated, 2 twice as long. */
function paceOf(steps: readonly StepProgress[]): number {
  const done = steps.filter(({ isDone, spent }) => isDone && spent > 0);
  const spent = done.reduce((sum, step) => sum + step.spent, 0);
  const estimated = done.reduce((sum, step) => sum + step.estimate, 0);
  const pace = (MINUTES_BEFORE + spent) / (MINUTES_BEFORE + estimated);
  return Math.min(PACE_LIMITS.most, Math.max(PACE_LIMITS.least, pace));
}

/** A step that took all of its minutes and is not done needs half as many again as it had: who is stuck is not nearly there. */
function corrected(step: StepProgress, factor: number): StepProgress {
  if (step.isDone) return step;
  const estimate = atPace(step.estimate, factor);
  return {
    ...step,
    estimate: step.spent >= estimate ? step.spent + inQuanta(Math.max(estimate, step.spent) / 2) : estimate,
  };
}

/** Quanta of time that a step still needs. */
export function quantaLeft({ isDone, estimate, spent }: StepProgress): number {
  return isDone ? 0 : Math.ceil((estimate - spent) / QUANTUM);
}
