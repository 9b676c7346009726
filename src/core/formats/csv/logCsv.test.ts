import fc from 'fast-check';
import { dateOfDay, type LogEntry, type PlanDay } from '../../planning';
import { planCalendar } from '../calendar/planCalendar';
import { logFromCsv, logToCsv, pinsFromCsv, planToCsv } from './logCsv';

const anEntry: fc.Arbitrary<LogEntry> = fc
  .record({
    day: fc.integer({ min: 0, max: 40_000 }),
    minutes: fc.nat({ max: 600 }),
    tempo: fc.option(fc.integer({ min: 20, max: 400 })),
    good: fc.nat({ max: 20 }),
    again: fc.nat({ max: 20 }),
    by: fc.constantFrom('pupil' as const, 'teacher' as const, 'stand' as const, 'listener' as const),
    note: fc.constantFrom('', 'well, almost', '=1+1', '"so" it went', 'two\nlines', '-5', 'ü♭'),
  })
  .map(({ day, tempo, ...rest }) => ({
    date: dateOfDay(day),
    work: 'w1',
    step: 'bars-1-4',
    ...rest,
    ...(tempo !== null && { tempo }),
  }));

test('a log comes back from its table as it was, with a byte order mark or without', () => {
  fc.assert(
    fc.property(fc.array(anEntry, { maxLength: 8 }), fc.boolean(), (entries, hasMark) => {
      const read = logFromCsv((hasMark ? '\uFEFF' : '') + logToCsv(entries));
      // Where a note has lines they are joined: a note is one line.
      const asRead = entries.map((entry) => ({ ...entry, note: entry.note.replace('\n', ' ') }));
      expect(read).toEqual({
        ok: true,
        value: asRead.map((entry) => expect.objectContaining({ ...entry, note: expect.any(String) })),
      });
    }),
  );
});

test.each([
  [
    'date,work,step,minutes\n2027-02-30,w,s,5',
    'line 2: date "2027-02-30": write a date of the calendar like 2027-03-20',
  ],
  ['date,work,step,minutes\n2027-02-20,w,s,-5', 'line 2: minutes "-5": write a whole number from 0 to 1440'],
  ['date,work,step,minutes,by\n2027-02-20,w,s,5,aunt', 'line 2: by "aunt": use pupil, teacher, stand, listener'],
  [
    'date,work,step,minutes,tempo\n2027-02-20,w,s,5,fast',
    'line 2: tempo "fast": write beats a minute from 20 to 400, or nothing',
  ],
  [
    'date,work\n2027-02-20,w',
    'line 1: step and minutes missing; the first line should be date,work,step,minutes,tempo,good,again,by,note',
  ],
])('%j is refused with the place and what would be right', (text, problem) => {
  expect(logFromCsv(text)).toEqual({ ok: false, problem: [problem] });
});

const DAY: PlanDay = {
  date: '2027-03-28',
  weekday: 'sunday',
  available: 20,
  lesson: true,
  items: [
    {
      work: '=w',
      step: 's',
      kind: 'new',
      what: 'Rope: bars 1 to 4; slowly, please',
      why: 'new today',
      minutes: 20,
      tempo: 60,
    },
  ],
};

test('a plan’s table has a row an item, and nothing that a spreadsheet would reckon with', () => {
  expect(planToCsv([DAY]).split('\r\n')).toEqual([
    'date,weekday,work,step,kind,what,why,key,writtenKey,tempo,fromBar,toBar,minutes',
    `2027-03-28,sunday,"'=w",s,new,"Rope: bars 1 to 4; slowly, please",new today,,,60,,,20`,
  ]);
});

test('a plan’s table comes back as what stands on its days; a fault is told with its line', () => {
  expect(pinsFromCsv(planToCsv([DAY]))).toEqual({
    ok: true,
    value: [{ date: '2027-03-28', work: '=w', step: 's', minutes: 20 }],
  });
  expect(pinsFromCsv('date,work,minutes\n2027-03-32,w,5\n2027-03-01,w,many')).toEqual({
    ok: false,
    problem: [
      'line 2: date "2027-03-32": write a date of the calendar like 2027-03-20',
      'line 3: minutes "many": write a whole number from 0 to 1440',
    ],
  });
});

test('practice is an all-day event of its date, whatever the clocks do; the lesson has its hour where it is known', () => {
  const text = planCalendar([DAY], { name: 'Ada', from: '2027-03-01' }, { hour: 16, minute: 30, length: 45 });
  expect(text).toContain('DTSTART;VALUE=DATE:20270328\r\nDTEND;VALUE=DATE:20270329');
  expect(text).toContain('DTSTART:20270328T163000\r\n');
  expect(text.match(/DTSTAMP:20270301T000000Z/g)?.length).toBe(2);
  expect(planCalendar([DAY], { name: 'Ada', from: '2027-03-01' })).toContain('SUMMARY:Ada: lesson');
});

test('a calendar without a day is one all the same', () => {
  expect(planCalendar([], { name: '', from: '2027-03-01' })).toMatch(/^BEGIN:VCALENDAR\r\n[\s\S]*END:VCALENDAR\r\n$/);
});
