import {
  dateOfDay,
  knownDay,
  type LogEntry,
  type Plan,
  type PlanWork,
  type Pupil,
  type WorkKind,
  weekdayOf,
} from '../../core/planning';

export interface DatedFigure {
  readonly date: string;
  readonly value: number;
}

/** The tempo of a work by date, its goal, and when the plan has it there. */
export interface TempoFigures {
  readonly id: string;
  readonly title: string;
  readonly goal: number;
  readonly by: string | undefined;
  /** The fastest good tempo of each day. */
  readonly reached: readonly DatedFigure[];
  /** From the last good tempo on: each tempo on the day that the plan finishes it. */
  readonly forecast: readonly DatedFigure[];
  /** The same where it goes a quarter faster, and a quarter slower. */
  readonly early: readonly DatedFigure[];
  readonly late: readonly DatedFigure[];
  /** Between which tempos it is, by date: the spread of the forecast. */
  readonly spread: readonly { readonly date: string; readonly low: number; readonly high: number }[];
}

/** How far a forecast may be out, as a share of the days until then: what the logs of steady pupils show, by our own reckoning. */
const SPREAD = 0.25;

export function tempoFigures(
  pupil: Pupil,
  plan: Plan | undefined,
  log: readonly LogEntry[],
  today: string,
): readonly TempoFigures[] {
  return pupil.work.flatMap((work): TempoFigures[] => {
    const planned = plan?.work.find(({ id }) => id === work.id);
    // Keys of a drill are at tempos of their own: they have a table.
    if (work.state !== 'going' || work.goal === undefined || work.kind === 'drill' || !planned) return [];
    const best = new Map<string, number>();
    for (const { work: id, date, tempo, good } of log)
      if (id === work.id && tempo !== undefined && good > 0) best.set(date, Math.max(best.get(date) ?? 0, tempo));
    const reached = [...best]
      .map(([date, value]) => ({ date, value }))
      .toSorted((a, b) => a.date.localeCompare(b.date));
    const forecast = forecastOf(planned, plan, reached.at(-1), today);
    const [early, late] = [stretched(forecast, today, 1 - SPREAD), stretched(forecast, today, 1 + SPREAD)];
    return [
      {
        id: work.id,
        title: work.title,
        goal: work.goal,
        by: work.by,
        reached,
        forecast,
        early,
        late,
        spread: spreadOf(early, late),
      },
    ];
  });
}

function forecastOf(
  { id, steps, ready }: PlanWork,
  plan: Plan | undefined,
  last: DatedFigure | undefined,
  today: string,
): readonly DatedFigure[] {
  const ends = new Map<number, string>();
  for (const { date, items } of plan?.days ?? [])
    for (const { work, kind, tempo } of items)
      if (
        work === id &&
        tempo !== undefined &&
        kind !== 'warm-up' &&
        kind !== 'recall' &&
        (ready === null || date <= ready)
      )
        ends.set(tempo, date);
  const open = new Set(steps.flatMap(({ state, tempo }) => (state !== 'done' && tempo !== undefined ? [tempo] : [])));
  const points = [...ends]
    .filter(([tempo]) => open.has(tempo) && tempo > (last?.value ?? 0))
    .map(([value, date]) => ({ date, value }))
    .toSorted((a, b) => a.value - b.value);
  return points.length === 0 ? [] : [...(last ? [{ date: today, value: last.value }] : []), ...points];
}

function stretched(points: readonly DatedFigure[], today: string, share: number): readonly DatedFigure[] {
  const now = knownDay(today);
  return points.map(({ date, value }) => ({
    date: dateOfDay(Math.round(now + (knownDay(date) - now) * share)),
    value,
  }));
}

/** Dates at which the spread is reckoned. */
const SPREAD_POINTS = 24;

function spreadOf(early: readonly DatedFigure[], late: readonly DatedFigure[]): TempoFigures['spread'] {
  const [first] = late;
  const last = late.at(-1);
  if (!first || !last || first === last) return [];
  const [from, to] = [knownDay(first.date), knownDay(last.date)];
  return Array.from({ length: SPREAD_POINTS + 1 }, (_, k) => {
    const day = from + ((to - from) * k) / SPREAD_POINTS;
    return { date: dateOfDay(Math.round(day)), low: valueOn(late, day), high: valueOn(early, day) };
  });
}

/** What a line says on a day between its points; at its ends what it has there. */
function valueOn(line: readonly DatedFigure[], day: number): number {
  const after = line.findIndex(({ date }) => knownDay(date) >= day);
  const [a, b] = [line[after - 1], line[after]];
  if (!b) return line.at(-1)?.value ?? 0;
  if (!a) return b.value;
  const [from, to] = [knownDay(a.date), knownDay(b.date)];
  return to === from ? b.value : a.value + ((b.value - a.value) * (day - from)) / (to - from);
}

const KIND_NAMES: Readonly<Record<WorkKind, string>> = {
  tune: 'tunes',
  ear: 'by ear',
  drill: 'drills',
  rounds: 'rounds',
  memory: 'scales by heart',
  pool: 'improvising',
};

export interface MinuteFigures {
  readonly dates: readonly string[];
  /** Minutes of each day, by kind of work; only kinds that occur. */
  readonly kinds: readonly {
    readonly kind: WorkKind | 'removed';
    readonly name: string;
    readonly minutes: readonly number[];
  }[];
  /** Minutes that are set for each day. */
  readonly set: readonly number[];
}

/** What was practised on each of the last days. */
export function minuteFigures(pupil: Pupil, log: readonly LogEntry[], today: string, days: number): MinuteFigures {
  const first = knownDay(today) - days + 1;
  const dates = Array.from({ length: days }, (_, k) => dateOfDay(first + k));
  const kindOf = new Map(pupil.work.map((work) => [work.id, work.kind]));
  const byKind = new Map<WorkKind | 'removed', number[]>();
  for (const { date, work, minutes } of log) {
    const at = knownDay(date) - first;
    if (at < 0 || at >= days || minutes === 0) continue;
    const kind = kindOf.get(work) ?? 'removed';
    const row = byKind.get(kind) ?? dates.map(() => 0);
    row[at] = (row[at] ?? 0) + minutes;
    byKind.set(kind, row);
  }
  return {
    dates,
    kinds: [...byKind].map(([kind, minutes]) => ({
      kind,
      name: kind === 'removed' ? 'work that was removed' : KIND_NAMES[kind],
      minutes,
    })),
    set: dates.map((date) => {
      const isOff = pupil.off.some(({ from, to }) => date >= from && date <= to);
      return isOff ? 0 : (pupil.practice[weekdayOf(knownDay(date))] ?? 0);
    }),
  };
}

/** `46 of 48 notes`: how the listener tells what it heard, at the head of an entry's note. */
const NOTES = /^(\d+) of (\d+) notes/;

/** The share of notes that the listener found right, by day, in per cent. */
export function noteFigures(log: readonly LogEntry[]): readonly DatedFigure[] {
  const days = new Map<string, { right: number; all: number }>();
  for (const { by, date, note } of log) {
    const [, right, all] = (by === 'listener' && NOTES.exec(note)) || [];
    if (right === undefined || Number(all) === 0) continue;
    const day = days.get(date) ?? { right: 0, all: 0 };
    days.set(date, { right: day.right + Number(right), all: day.all + Number(all) });
  }
  return [...days]
    .map(([date, { right, all }]) => ({ date, value: Math.round((100 * right) / all) }))
    .toSorted((a, b) => a.date.localeCompare(b.date));
}

/** A key of a drill: the best good tempo, and how many days ago it was played last. */
interface KeyFigure {
  readonly best?: number;
  readonly days?: number;
}

export interface KeyFigures {
  readonly keys: readonly string[];
  readonly drills: readonly { readonly id: string; readonly title: string; readonly cells: readonly KeyFigure[] }[];
}

/** Keys round the fourths against drills. @param order of all twelve keys, concert */
export function keyFigures(
  plan: Plan | undefined,
  pupil: Pupil,
  log: readonly LogEntry[],
  today: string,
  order: readonly string[],
): KeyFigures {
  const drills = pupil.work.filter(({ kind, state }) => (kind === 'drill' || kind === 'rounds') && state === 'going');
  return {
    keys: order,
    drills: drills.map((work) => {
      const steps = new Map(plan?.work.find(({ id }) => id === work.id)?.steps.map(({ step, key }) => [step, key]));
      return {
        id: work.id,
        title: work.title,
        cells: order.map((key): KeyFigure => {
          const entries = log.filter((entry) => entry.work === work.id && steps.get(entry.step) === key);
          const good = entries.flatMap(({ good: rounds, tempo }) => (rounds > 0 && tempo !== undefined ? [tempo] : []));
          const last = entries.reduce((latest, { date }) => (date > latest ? date : latest), '');
          return {
            ...(good.length > 0 && { best: Math.max(...good) }),
            ...(last !== '' && { days: knownDay(today) - knownDay(last) }),
          };
        }),
      };
    }),
  };
}
