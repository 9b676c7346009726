import fc from 'fast-check';
import { instrumentById, LEVELS } from '../src/core/instruments';
import { tonicsInOrder } from '../src/core/drills';
import {
  dateOfDay,
  evenChunks,
  knownDay,
  type LogEntry,
  mondayOf,
  type Plan,
  type PlannedWork,
  planOf,
  type PlanRequest,
  stepsOf,
  WEEKDAYS,
} from '../src/core/planning';

/** Pupils of all kinds, and the rules that every plan keeps to. */

const FIRST_DAY = knownDay('2027-01-04');
const C = { step: 'C', alter: 0 } as const;

const aTempo = fc.record({ start: fc.integer({ min: 40, max: 80 }), climb: fc.integer({ min: 0, max: 70 }) });
const aDate = fc.integer({ min: 0, max: 90 }).map((days) => dateOfDay(FIRST_DAY + days));

function aWork(id: string): fc.Arbitrary<PlannedWork> {
  const common = fc.record({ tempo: fc.option(aTempo), by: fc.option(aDate) }).map(({ tempo, by }) => ({
    id,
    title: id,
    ...(tempo && { start: tempo.start, goal: tempo.start + tempo.climb }),
    ...(by && { by }),
  }));
  return fc.oneof(
    {
      weight: 4,
      arbitrary: fc
        .tuple(common, fc.integer({ min: 1, max: 40 }), fc.integer({ min: 0, max: 10 }))
        .map(([all, bars, difficulty]) => ({
          ...all,
          kind: 'tune' as const,
          chunks: evenChunks(bars, difficulty),
        })),
    },
    {
      weight: 3,
      arbitrary: fc
        .tuple(common, fc.integer({ min: 1, max: 12 }), fc.constantFrom('as-mastered', 'key-a-day', 'key-a-week'))
        .map(([all, keys, pace]) => ({
          ...all,
          kind: 'drill' as const,
          set: 'major' as const,
          patternName: 'thirds',
          groupSize: 2,
          keys: tonicsInOrder('fourths', C).slice(0, keys),
          pace: pace as 'key-a-day',
        })),
    },
    common.map((all) => ({ ...all, kind: 'rounds' as const, order: tonicsInOrder('fourths', C) })),
    common.map((all) => ({ ...all, kind: 'memory' as const, tonic: C, set: 'major' as const })),
  );
}

const someMinutes = fc.constantFrom(0, 0, 5, 10, 15, 17, 20, 30, 32, 45, 60, 90);

/** Something of a log before the first day: rounds on the first steps of some works. */
function aLog(works: readonly PlannedWork[]): fc.Arbitrary<readonly LogEntry[]> {
  return fc
    .array(
      fc.record({
        at: fc.nat(),
        before: fc.integer({ min: 0, max: 60 }),
        step: fc.nat({ max: 5 }),
        minutes: fc.integer({ min: 0, max: 20 }),
        good: fc.integer({ min: 0, max: 4 }),
        again: fc.integer({ min: 0, max: 1 }),
        by: fc.constantFrom('pupil', 'teacher', 'stand', 'listener'),
      }),
      { maxLength: 25 },
    )
    .map((all) =>
      all.flatMap(({ at, before, step, by, ...rest }): LogEntry[] => {
        const work = works[at % Math.max(1, works.length)];
        const idea = work && stepsOf(work)[step];
        if (!work || !idea) return [];
        return [
          {
            ...rest,
            by: by as 'pupil',
            date: dateOfDay(FIRST_DAY - before),
            work: work.id,
            step: idea.step,
            note: '',
            ...(idea.tempo !== undefined && { tempo: idea.tempo }),
          },
        ];
      }),
    );
}

/** A pupil with days, works and a log, over twelve weeks. */
export const aPupil: fc.Arbitrary<PlanRequest> = fc
  .integer({ min: 0, max: 5 })
  .chain((count) => fc.tuple(...Array.from({ length: count }, (_, k) => aWork(`w${k}`))))
  .chain((work) =>
    fc.record({
      pupil: fc.record({
        name: fc.constant('Ada'),
        instrument: fc.constantFrom('flute', 'clarinet-bb', 'violin', 'trumpet-bb').map((id) => {
          const found = instrumentById(id);
          if (!found) throw new Error(`no ${id}`);
          return found;
        }),
        level: fc.constantFrom(...LEVELS),
      }),
      from: fc.constant(dateOfDay(FIRST_DAY)),
      to: fc.integer({ min: 0, max: 100 }).map((days) => dateOfDay(FIRST_DAY + days)),
      today: fc.constant(dateOfDay(FIRST_DAY)),
      practice: fc
        .tuple(...WEEKDAYS.map(() => someMinutes))
        .map((all) => Object.fromEntries(WEEKDAYS.map((day, k) => [day, all[k]]))),
      off: fc.array(
        aDate.map((date) => ({ from: date, to: date })),
        { maxLength: 4 },
      ),
      school: fc.constantFrom('mastered' as const, 'revisited' as const),
      work: fc.constant(work),
      log: aLog(work),
    }),
  );

const sum = (numbers: readonly number[]) => numbers.reduce((all, one) => all + one, 0);

/** Which rules a plan breaks, in words: none is what is wanted. */
export function brokenRules(request: PlanRequest, plan: Plan): readonly string[] {
  return [
    ...dayFaults(request, plan),
    ...readyFaults(request, plan),
    ...(request.school === 'mastered' ? orderFaults(request, plan) : coverageFaults(request, plan)),
    ...paceFaults(request, plan),
    ...recallFaults(plan),
  ];
}

function dayFaults(request: PlanRequest, plan: Plan): readonly string[] {
  const unfinished = (date: string) => plan.work.some(({ ready }) => ready === null || ready > date);
  return plan.days.flatMap(({ date, available, items }) => {
    const used = sum(items.map(({ minutes }) => minutes));
    const faults: string[] = [];
    if (used > available) faults.push(`${date}: ${used} of ${available} minutes`);
    if (items.some(({ minutes }) => minutes < 3)) faults.push(`${date}: something shorter than three minutes`);
    if (available >= 15 && used < 0.8 * available && unfinished(date))
      faults.push(`${date}: only ${used} of ${available}`);
    for (const { kind, work, tempo } of items) {
      const of = request.work.find(({ id }) => id === work);
      if (tempo === undefined || kind === 'warm-up' || of?.goal === undefined) continue;
      if (tempo > of.goal || tempo < Math.min(of.start ?? 0, of.goal)) faults.push(`${date}: ${work} at ${tempo}`);
    }
    return faults;
  });
}

/** Minutes of its own that a step has by the end of each day. */
function givenByDay(plan: Plan): readonly { readonly date: string; readonly given: ReadonlyMap<string, number> }[] {
  const given = new Map<string, number>();
  return plan.days.map(({ date, items }) => {
    for (const { kind, work, step, minutes } of items)
      if (kind !== 'warm-up' && kind !== 'recall')
        given.set(`${work}/${step}`, (given.get(`${work}/${step}`) ?? 0) + minutes);
    return { date, given: new Map(given) };
  });
}

function readyFaults(request: PlanRequest, plan: Plan): readonly string[] {
  const days = givenByDay(plan);
  return plan.work.flatMap(({ id, steps, ready, needed, there, by, advice }) => {
    const faults: string[] = [];
    const open = steps.filter(({ state }) => state !== 'done');
    const first = days.find(({ given }) =>
      open.every(({ step, estimate, spent }) => spent + (given.get(`${id}/${step}`) ?? 0) >= estimate),
    );
    if (open.length > 0 && (first?.date ?? null) !== ready)
      faults.push(`${id}: ready ${ready}, counted ${first?.date}`);
    if (needed !== sum(open.map(({ estimate, spent }) => estimate - spent))) faults.push(`${id}: needed ${needed}`);
    const until = by ?? request.to;
    const counted = sum(
      plan.days
        .filter(({ date }) => date <= until)
        .flatMap(({ items }) =>
          items
            .filter(({ work, kind }) => work === id && kind !== 'warm-up' && kind !== 'recall')
            .map(({ minutes }) => minutes),
        ),
    );
    if (counted !== there) faults.push(`${id}: there ${there}, counted ${counted}`);
    if (
      (ready === null || (by !== undefined && ready > by)) &&
      open.length > 0 &&
      !advice.some((text) => /\d/.test(text))
    )
      faults.push(`${id}: late without advice`);
    const after = plan.days.filter(({ date }) => ready !== null && date > ready).flatMap(({ items }) => items);
    if (after.some(({ work, kind }) => work === id && kind !== 'warm-up' && kind !== 'recall'))
      faults.push(`${id}: goes on after it is ready`);
    return faults;
  });
}

function isPaced(request: PlanRequest, id: string): boolean {
  return request.work.some((work) => work.id === id && work.kind === 'drill' && work.pace !== 'as-mastered');
}

function orderFaults(request: PlanRequest, plan: Plan): readonly string[] {
  const given = new Map<string, number>();
  return plan.days.flatMap(({ date, items }) =>
    items.flatMap(({ kind, work, step, minutes }) => {
      if (kind === 'warm-up' || kind === 'recall' || isPaced(request, work)) return [];
      const steps = plan.work.find(({ id }) => id === work)?.steps ?? [];
      const before = steps.slice(
        0,
        steps.findIndex((one) => one.step === step),
      );
      const missing = before.filter(
        (one) => one.state !== 'done' && one.spent + (given.get(`${work}/${one.step}`) ?? 0) < one.estimate,
      );
      given.set(`${work}/${step}`, (given.get(`${work}/${step}`) ?? 0) + minutes);
      return missing.length > 0 ? [`${date}: ${work} ${step} before ${missing[0]?.step}`] : [];
    }),
  );
}

function coverageFaults(request: PlanRequest, plan: Plan): readonly string[] {
  const weeks = new Map<number, Plan['days'][number][]>();
  for (const day of plan.days) {
    const monday = mondayOf(knownDay(day.date));
    weeks.set(monday, [...(weeks.get(monday) ?? []), day]);
  }
  return [...weeks.values()].flatMap((week) => {
    const practised = week.filter(({ available }) => available >= 3);
    const room = sum(week.map(({ available }) => Math.floor(available / 3)));
    if (practised.length < 3 || room < request.work.length) return [];
    const last = week.at(-1)?.date ?? '';
    return plan.work
      .filter(({ id, ready, steps }) => (ready === null || ready > last) && steps.length > 0 && !isPaced(request, id))
      .filter(({ id }) => !week.some(({ items }) => items.some(({ work }) => work === id)))
      .map(({ id }) => `week of ${week[0]?.date}: nothing of ${id}`);
  });
}

function paceFaults(request: PlanRequest, plan: Plan): readonly string[] {
  const paced = request.work.filter(({ id }) => isPaced(request, id));
  return paced.flatMap((work) => {
    if (work.kind !== 'drill') return [];
    const { ready, needed = 0 } = plan.work.find(({ id }) => id === work.id) ?? {};
    // What the log has finished today needs no key today.
    if (needed === 0) return [];
    const seen = new Map<number, Set<string>>();
    const faults: string[] = [];
    for (const { date, items, available } of plan.days) {
      if (ready && date > ready) break;
      const keys = new Set(
        items.flatMap((item) => (item.work === work.id && item.kind !== 'warm-up' && item.key ? [item.key] : [])),
      );
      const day = knownDay(date);
      const span = work.pace === 'key-a-week' ? mondayOf(day) : day;
      if (work.pace === 'key-a-day' && available >= 3 * paced.length && available >= 3 && keys.size !== 1)
        faults.push(`${date}: ${keys.size} keys of ${work.id}`);
      seen.set(span, new Set([...(seen.get(span) ?? []), ...keys]));
    }
    if ([...seen.values()].some((keys) => keys.size > 1)) faults.push(`${work.id}: two keys in one ${work.pace}`);
    return faults;
  });
}

function recallFaults(plan: Plan): readonly string[] {
  return plan.work.flatMap(({ id, ready, steps }) => {
    if (ready === null || steps.some(({ state }) => state === 'done')) return [];
    const days = [
      knownDay(ready),
      ...plan.days
        .filter(({ items }) => items.some(({ work, kind }) => work === id && kind === 'recall'))
        .map(({ date }) => knownDay(date)),
    ];
    const distances = days.slice(1).map((day, k) => day - (days[k] ?? 0));
    return distances.some((distance, k) => k > 0 && distance <= (distances[k - 1] ?? 0))
      ? [`${id}: recalled after ${distances.join(', ')} days`]
      : [];
  });
}

/** The day on which everything is ready; later than any where it is not. */
export function allReady(request: PlanRequest): string {
  return planOf(request).work.reduce(
    (latest, { ready }) => ((ready ?? '9999') > latest ? (ready ?? '9999') : latest),
    '',
  );
}
