import fc from 'fast-check';
import { aPupil, allReady, brokenRules } from '../../../tests/anyPupil';
import { instrument } from '../../../tests/given';
import { tonicsInOrder } from '../drills';
import { dateOfDay, dayNumber, knownDay, mondayOf, WEEKDAYS, weekdayOf } from './dates';
import { planOf } from './plan';
import { isPaced, type LogEntry, type PlannedWork, type PlanRequest } from './pupilWork';
import { afterRecall, beginRecall } from './recall';
import { stepsOf } from './steps';
import { evenChunks } from './workChunks';

const C = { step: 'C', alter: 0 } as const;
const BARS: PlannedWork = { id: 'lamps', title: 'Lamps', kind: 'tune', chunks: evenChunks(8, 2), start: 60, goal: 80 };
const ADA: PlanRequest = {
  pupil: { name: 'Ada', instrument: instrument('clarinet-bb'), level: 'beginner' },
  from: '2027-03-01',
  to: '2027-04-30',
  today: '2027-03-01',
  practice: { monday: 15, wednesday: 15, friday: 15 },
  off: [],
  school: 'mastered',
  work: [BARS],
  log: [],
};
const entry = (step: string, more: Partial<LogEntry> = {}): LogEntry => ({
  date: '2027-02-20',
  work: 'lamps',
  step,
  minutes: 10,
  tempo: 60,
  good: 3,
  again: 0,
  by: 'pupil',
  note: '',
  ...more,
});
const statesOf = (log: readonly LogEntry[]) =>
  planOf({ ...ADA, log })
    .work[0]?.steps.map(({ state }) => state.charAt(0))
    .join('');

test('every rule of a plan holds, and the same request gives the same plan', () => {
  fc.assert(
    fc.property(aPupil, (request) => {
      const plan = planOf(request);
      expect(brokenRules(request, plan)).toEqual([]);
      expect(JSON.stringify(planOf(request))).toBe(JSON.stringify(plan));
    }),
  );
});

test('more minutes never make the last work ready later, a day off never earlier', () => {
  fc.assert(
    fc.property(
      aPupil,
      fc.constantFrom(...WEEKDAYS),
      fc.constantFrom(15, 20, 30),
      fc.integer({ min: 0, max: 40 }),
      (request, weekday, more, day) => {
        // A day of a few minutes breaks off a key's visit, and the next day is another key's: that may cost a round.
        const minutes = Object.values(request.practice);
        fc.pre(!request.work.some(isPaced) || minutes.every((one) => one === 0 || one >= 15));
        const before = allReady(request);
        const practice = { ...request.practice, [weekday]: (request.practice[weekday] ?? 0) + more };
        expect(allReady({ ...request, practice }) <= before).toBe(true);
        const date = dateOfDay(knownDay(request.from) + day);
        expect(allReady({ ...request, off: [...request.off, { from: date, to: date }] }) >= before).toBe(true);
      },
    ),
  );
});

test('a pupil’s keys are told as they are read, whatever sounds', () => {
  const drill: PlannedWork = {
    id: 'thirds',
    title: 'Thirds',
    kind: 'drill',
    set: 'natural minor',
    patternName: 'thirds',
    groupSize: 2,
    keys: [{ step: 'B', alter: -1 }],
    pace: 'as-mastered',
  };
  const [item] = planOf({ ...ADA, work: [drill] }).days[0]?.items ?? [];
  expect([item?.key, item?.writtenKey]).toEqual(['Bb', 'C']);
});

test('three good rounds at the tempo, or a word of the teacher, and a step is done', () => {
  expect(statesOf([])).toBe('oaaaaaa'.slice(0, stepsOf(BARS).length));
  expect(statesOf([entry('bars-1-4', { tempo: 59 })])?.startsWith('o')).toBe(true);
  expect(statesOf([entry('bars-1-4', { good: 2 }), entry('bars-1-4', { good: 1, tempo: 72 })])?.startsWith('do')).toBe(
    true,
  );
  expect(statesOf([entry('bars-1-4', { good: 1, by: 'teacher' })])?.startsWith('do')).toBe(true);
  expect(statesOf([entry('bars-1-4', { good: 1, again: 1, by: 'teacher' })])?.startsWith('o')).toBe(true);
  // What is done stays done.
  expect(
    statesOf([entry('bars-1-4'), entry('bars-1-4', { date: '2027-02-25', good: 0, again: 4 })])?.startsWith('d'),
  ).toBe(true);
});

test('entries after today, of unknown works and of unknown steps are told and not counted', () => {
  const { warnings, work } = planOf({
    ...ADA,
    log: [entry('bars-1-4', { date: '2027-03-02' }), entry('bars-1-4', { work: 'gone' }), entry('bars-90-94')],
  });
  expect(warnings).toEqual([
    'log: after today, not counted: 2027-03-02',
    'log: the work "gone" is not in the plan; not counted',
    'log: "lamps" has no step "bars-90-94"; not counted',
  ]);
  expect(work[0]?.steps.map(({ spent }) => spent).every((spent) => spent === 0)).toBe(true);
});

test('who was slow is given longer, but a few entries move it little', () => {
  const needed = (minutes: number) => planOf({ ...ADA, log: [entry('bars-1-4', { minutes })] }).work[0]?.needed ?? 0;
  expect(needed(9)).toBeLessThan(needed(60));
  expect(needed(60)).toBeLessThan(1.5 * needed(9));
});

test('a step that had all its minutes and is not done is estimated anew', () => {
  const [first] = planOf({ ...ADA, log: [entry('bars-1-4', { minutes: 40, good: 0, again: 5 })] }).work[0]?.steps ?? [];
  expect([first?.spent, first?.state, (first?.estimate ?? 0) > 40]).toEqual([40, 'open', true]);
});

test('what is finished comes back at growing distances, and sooner after it went wrong', () => {
  let recall = beginRecall(100);
  const distances = [recall.distance];
  for (let k = 0; k < 4; k += 1) {
    recall = afterRecall(recall, recall.last + recall.distance, true);
    distances.push(recall.distance);
  }
  expect(distances).toEqual([...distances].toSorted((a, b) => a - b));
  expect(new Set(distances).size).toBe(distances.length);
  const wrong = afterRecall(recall, recall.last + recall.distance, false);
  expect(wrong.distance).toBeLessThan(recall.distance);
  expect(afterRecall(wrong, wrong.last + wrong.distance, true).distance).toBeGreaterThan(wrong.distance);
});

test('a key a day goes on after the log’s last key, and round again after the last', () => {
  const drill: PlannedWork = {
    id: 'lamps',
    title: 'Thirds',
    kind: 'drill',
    set: 'major',
    patternName: 'thirds',
    groupSize: 2,
    keys: tonicsInOrder('fourths', C).slice(0, 4),
    pace: 'key-a-day',
  };
  const log = [entry('Bb', { date: '2027-02-26', good: 0 })];
  const days = planOf({ ...ADA, work: [drill], log }).days.filter(({ items }) => items.length > 0);
  expect(days.slice(0, 3).map(({ items }) => items.find(({ kind }) => kind === 'new')?.key)).toEqual(['Eb', 'C', 'F']);
});

test('missed days are not piled up: a later day has its minutes and no more', () => {
  const late = planOf({ ...ADA, today: '2027-03-15' });
  expect(late.days[0]).toMatchObject({ date: '2027-03-15', available: 15 });
  const [on, missed] = [planOf(ADA), late].map(({ days }) => days.at(-1)?.available);
  expect(on).toBe(missed);
});

test('what the teacher pins stands there, and what she strikes does not', () => {
  const pins = [
    { date: '2027-03-03', work: 'lamps', step: 'whole-60', minutes: 9 },
    { date: '2027-03-05', work: 'lamps', minutes: 0 },
  ];
  const plan = planOf({ ...ADA, pins });
  const on = (date: string) => plan.days.find((day) => day.date === date)?.items ?? [];
  expect(on('2027-03-03').find(({ step }) => step === 'whole-60')?.minutes).toBe(9);
  expect(on('2027-03-05')).toEqual([]);
  expect(on('2027-03-08').length).toBeGreaterThan(0);
});

test('dates are those of the calendar, through leap years and clock changes', () => {
  expect(
    ['2027-02-29', '2028-02-29', '2027-13-01', '27-01-01', '2027-3-1'].map((date) => dayNumber(date) !== undefined),
  ).toEqual([false, true, false, false, false]);
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 80_000 }), (day) => {
      expect(knownDay(dateOfDay(day))).toBe(day);
      expect([weekdayOf(mondayOf(day)), day - mondayOf(day) < 7]).toEqual(['monday', true]);
    }),
  );
});

test('late works are told what would help, in figures that hold', () => {
  const request: PlanRequest = { ...ADA, practice: { monday: 15 }, work: [{ ...BARS, by: '2027-03-12' }] };
  const [work] = planOf(request).work;
  expect(work?.advice[0]).toBe(
    `Needs ${work?.needed} minutes; ${work?.there} are there until 12 March: ready on 5 April.`,
  );
  const more = /^(\d+) minutes more/.exec(work?.advice[1] ?? '')?.[1];
  const again = planOf({ ...request, practice: { monday: 15 + Number(more) } });
  expect((again.work[0]?.ready ?? '9999') <= '2027-03-12').toBe(true);
});
