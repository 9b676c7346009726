import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { plan } from '../../src/cli/plan';
import type { Plan } from '../../src/core/planning';
import { reed } from '../reed';

const folder = mkdtempSync(join(tmpdir(), 'plans-'));
const PUPIL = {
  schema: 1,
  pupil: { name: 'Ada', instrument: 'alto-sax', level: 'beginner' },
  from: '2027-03-01',
  to: '2027-03-31',
  practice: { monday: 15, thursday: 20 },
  lesson: 'wednesday',
  off: ['2027-03-08/2027-03-10'],
  work: [
    { id: 'rope', kind: 'tune', bars: 8, difficulty: 2, goal: 80, start: 60, key: 'Bb' },
    { id: 'thirds', kind: 'drill', set: 'major', pattern: 'thirds', keys: ['F', 'Bb'], pace: 'as-mastered' },
  ],
};
const written = (name: string, data: unknown) => {
  const path = join(folder, name);
  writeFileSync(path, typeof data === 'string' ? data : JSON.stringify(data));
  return path;
};
const made = async (...words: readonly string[]) => (await plan(words)) as Plan & { readonly file?: string };

test('every date of the span, with what stands there; keys as they sound and as they are read', async () => {
  const { days, work } = await made(written('a.plan.json', PUPIL));
  expect([days.length, days[0]?.date, days.at(-1)?.date]).toEqual([31, '2027-03-01', '2027-03-31']);
  expect(days.filter(({ lesson }) => lesson).map(({ date }) => date.slice(8))).toEqual(['03', '10', '17', '24', '31']);
  expect(days.find(({ date }) => date === '2027-03-08')).toMatchObject({ available: 0, items: [] });
  const item = days[0]?.items.find(({ work: id }) => id === 'rope');
  expect([item?.key, item?.writtenKey]).toEqual(['Bb', 'G']);
  expect(work.map(({ id, steps }) => [id, steps.length])).toEqual([
    ['rope', 6],
    ['thirds', 2],
  ]);
});

test('--days shows fewer days and plans the same; the log moves work on, and its last day is today', async () => {
  const path = written('b.plan.json', PUPIL);
  const log = written(
    'log.csv',
    'date,work,step,minutes,tempo,good,again,by,note\n2027-03-04,rope,bars-1-4,12,60,3,0,pupil,\n2027-03-04,gone,x,5,,1,0,pupil,\n',
  );
  const short = await made(path, '--log', log, '--days', '3');
  expect(short.days.map(({ date }) => date)).toEqual(['2027-03-04', '2027-03-05', '2027-03-06']);
  expect(short.work).toEqual((await made(path, '--log', log)).work);
  expect(short.work[0]?.steps[0]).toMatchObject({ step: 'bars-1-4', spent: 12, state: 'done' });
  expect(short.warnings).toEqual(['log: the work "gone" is not in the plan; not counted']);
});

test('a tune’s own chunks, from a file beside the plan', async () => {
  written('rope.abc', 'X:1\nT:Rope\nM:4/4\nL:1/4\nK:C\nCDEF|GABc|cBAG|FEDC|CDEF|GABc|cBAG|C4|]\n');
  const path = written('c.plan.json', { ...PUPIL, work: [{ id: 'rope', kind: 'tune', input: 'rope.abc' }] });
  const [work] = (await made(path)).work;
  expect(work?.steps.at(-1)).toMatchObject({ step: 'whole' });
  expect(work?.steps.every(({ key }) => key === 'C')).toBe(true);
});

test('files: a calendar, a table and pages, each only where it is asked for', async () => {
  const path = written('d.plan.json', PUPIL);
  for (const [format, begins] of [
    ['ics', 'BEGIN:VCALENDAR'],
    ['csv', 'date,weekday,work,step,kind,what,why,key,writtenKey,tempo,fromBar,toBar,minutes'],
    ['pdf', '%PDF-'],
    ['json', '{'],
  ] as const) {
    const out = join(folder, `plan.${format}`);
    const { file } = await made(path, '--format', format, '--out', out);
    expect([file, readFileSync(out, 'latin1').slice(0, begins.length)]).toEqual([out, begins]);
  }
});

test.each([
  [{ from: '2027-02-30' }, 'from: write a date of the calendar like 2027-03-20'],
  [{ to: '2027-02-01' }, 'to: 2027-02-01 is before from (2027-03-01); the end comes after the beginning'],
  [{ practice: { monday: 2_000 } }, 'practice.monday: '],
  [{ practice: { funday: 20 } }, 'practice: '],
  [{ work: [{ id: 'a', kind: 'tune' }] }, 'work.0: a tune has an input (a path), or bars and difficulty'],
  [{ work: [{ id: 'a', kind: 'memory', set: 'F wobbly' }] }, 'work "a": set: the set "wobbly" is unknown'],
  [{ work: [PUPIL.work[0], PUPIL.work[0]] }, 'work: each work has an id of its own'],
  [
    { work: [{ id: 'a', kind: 'rounds', order: ['C', 'F'] }] },
    'work "a": order: 2 keys; rounds go through all twelve concert keys, each once',
  ],
  [{ off: ['2027-03-09/2027-03-01'] }, 'off: 2027-03-09/2027-03-01: the first date comes before the last'],
])('%j is refused with the place', async (change, problem) => {
  const path = written('e.plan.json', { ...PUPIL, ...change });
  await expect(made(path)).rejects.toThrow(`${path}: ${problem}`);
});

test('what is odd but can be planned is a warning', async () => {
  const odd = {
    ...PUPIL,
    practice: {},
    work: [{ id: 'a', kind: 'tune', bars: 4, difficulty: 1, goal: 60, start: 90, by: '2027-02-01' }],
  };
  const { warnings, work } = await made(written('f.plan.json', odd), '--today', '2027-04-05');
  expect(warnings.map((text) => text.replace(/[:;].*/, ''))).toEqual([
    'practice',
    'today (2027-04-05) is after the end (2027-03-31)',
    'work "a"',
    'work "a"',
  ]);
  expect(work[0]?.advice.join(' ')).toMatch(/\d/);
});

test('wrong arguments end with 2, one line, and no file', () => {
  const path = written('g.plan.json', PUPIL);
  const out = join(folder, 'never.ics');
  const { status, errors } = reed('plan', path, '--format', 'ical', '--out', out);
  expect([status, errors, existsSync(out)]).toEqual([
    2,
    ['reed: --format ical is unknown: use json, ics, csv, pdf'],
    false,
  ]);
  expect(reed('plan', path, '--format', 'ics').errors).toEqual([
    'reed: --format ics wants --out: the file that is to be written, like --out week.ics',
  ]);
});
