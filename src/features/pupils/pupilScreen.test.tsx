/** @jest-environment jsdom */
import { alertText, field, press, screen, shown, words, write } from '../../../tests/screen';
import { serverStandIn } from '../../../tests/serverStandIn';
import { evenChunks, newPupil, type LogEntry, type Pupil, planOf, requestFor } from '../../core/planning';
import { ToastArea } from '../../ui/Toast';
import { keyFigures, minuteFigures, noteFigures, tempoFigures } from './chartData';
import { LessonScreen } from './LessonScreen';
import { PupilScreen } from './PupilScreen';
import { added, dayOffToggled, movedTo, weekOf } from './weekPlan';

jest.mock('next/navigation', () => ({
  useRouter: () => ({ refresh: () => undefined, push: () => undefined }),
  usePathname: () => '/pupils/ada',
}));

/** A Monday. */
const TODAY = '2027-03-01';
const ADA: Pupil = {
  ...newPupil('Ada', { id: 'a', instrument: 'clarinet-bb', level: 'beginner' }),
  practice: { monday: 20, wednesday: 20, friday: 20 },
  work: [
    {
      id: 'w1',
      playing: 'a',
      state: 'going',
      kind: 'tune',
      title: 'Rope',
      chunks: evenChunks(8, 2),
      goal: 80,
      start: 60,
      by: '2027-04-01',
    },
    {
      id: 'w2',
      playing: 'a',
      state: 'going',
      kind: 'drill',
      title: 'Thirds',
      set: 'major',
      patternName: 'thirds',
      groupSize: 2,
      keys: [
        { step: 'F', alter: 0 },
        { step: 'B', alter: -1 },
      ],
      pace: 'as-mastered',
    },
  ],
};
const played = (more: Partial<LogEntry>): LogEntry => ({
  date: '2027-02-26',
  work: 'w1',
  step: 'bars-1-4',
  minutes: 10,
  tempo: 60,
  good: 3,
  again: 0,
  by: 'stand',
  note: '',
  ...more,
});

function opened(what: 'pupil' | 'lesson' = 'pupil', log: readonly LogEntry[] = []) {
  localStorage.clear();
  let version = 1;
  let isAway = false;
  const asked = serverStandIn({
    'POST /api/pupils/ada/log': () =>
      isAway ? { status: 503, json: { messages: ['Away.'] } } : { json: { added: 1 } },
    'PUT /api/pupils/ada': () => ({ json: { version: (version += 1) } }),
    'GET /api/pupils/ada/link': () => ({ json: {} }),
    'POST /api/pupils/ada/link': () => ({
      json: { address: 'https://reeds.example/p/secret', endsAt: '2027-07-01T00:00:00.000Z', square: '<svg/>' },
    }),
    'DELETE /api/pupils/ada/link': () => ({ json: { ok: true } }),
  });
  const given = { id: 'ada', version: 1, pupil: ADA };
  const { user } = shown(
    <ToastArea>
      {what === 'pupil' ? (
        <PupilScreen given={given} log={log} today={TODAY} custom={[]} />
      ) : (
        <LessonScreen given={given} log={log} today={TODAY} />
      )}
    </ToastArea>,
  );
  return { user, asked, goAway: () => (isAway = true) };
}

test('what was practised is logged in three presses: work, minutes, tempo', async () => {
  const { user, asked } = opened();
  await press(user, 'Log practice');
  await press(user, 'Rope');
  await press(user, '10 min');
  await press(user, '60');
  const entry = (asked.find(({ path }) => path.endsWith('/log'))?.json as { entries: LogEntry[] }).entries[0];
  expect(entry).toMatchObject({
    date: TODAY,
    work: 'w1',
    step: 'bars-1-4',
    minutes: 10,
    tempo: 60,
    good: 3,
    by: 'pupil',
  });
});

test('the seven days stand there with their minutes; an item says why it is there', async () => {
  const { user } = opened();
  const days = screen.getByRole('region', { name: 'Week' }).querySelectorAll('ol > li');
  expect([...days].map((day) => words(day as HTMLElement).slice(0, 5))).toEqual([
    'Mon 1',
    'Tue 2',
    'Wed 3',
    'Thu 4',
    'Fri 5',
    'Sat 6',
    'Sun 7',
  ]);
  await user.click(screen.getAllByRole('button', { name: /new.*Rope.*Bars 1 to 4 at 60/ })[0] as HTMLElement);
  expect(words(screen.getByRole('complementary', { name: 'Item' }))).toContain(
    'first of 6 steps; new today; wanted by 1 April',
  );
});

test('a lesson: the next step is the teacher’s word in the log, and what was set is planned anew at once', async () => {
  const { user, asked } = opened('lesson', [played({ minutes: 12, good: 1 })]);
  const set = screen.getByRole('region', { name: 'What was set' });
  expect(words(set)).toContain('Bars 1 to 4 at 60 · 12 minutes this week, good at 60, 1 good, 0 again');
  await user.click(screen.getAllByRole('button', { name: 'Next step' })[0] as HTMLElement);
  const entry = (asked.find(({ path }) => path.endsWith('/log'))?.json as { entries: LogEntry[] }).entries[0];
  expect(entry).toMatchObject({ work: 'w1', step: 'bars-1-4', good: 1, again: 0, by: 'teacher', tempo: 60 });
  expect(words(screen.getByRole('complementary', { name: 'The next week' }))).toContain('Rope: bars 5 to 8 at 60');
});

test('limits and known notes are the pupil’s, checked as they are typed', async () => {
  const { user } = opened();
  await user.click(screen.getByRole('tab', { name: 'About' }));
  await write(user, 'Highest note', 'H4');
  expect(alertText()).toContain('"H4" is no note');
  await write(user, 'Highest note', 'A4');
  await write(user, 'Known notes', 'E4 F4 G4');
  expect([field('Highest note').value, field('Known notes').value]).toEqual(['A4', 'E4 F4 G4']);
  await write(user, 'Highest note', '');
  expect(field('Highest note').value).toBe('');
});

test('a link for home is shown once, and ended with a press', async () => {
  const { user, asked } = opened();
  await user.click(screen.getByRole('tab', { name: 'About' }));
  await press(user, 'Make a link …');
  expect(words(await screen.findByRole('dialog', { name: 'Ada’s own week' }))).toContain(
    'https://reeds.example/p/secret',
  );
  await user.keyboard('{Escape}');
  expect(document.body.textContent).not.toContain('reeds.example/p/secret');
  await press(user, 'End the link');
  await screen.findByRole('button', { name: 'Make a link …' });
  expect(asked.filter(({ path }) => path.endsWith('/link')).map(({ method }) => method)).toEqual([
    'GET',
    'POST',
    'DELETE',
  ]);
});

test('an item that is moved stands on the other day, whatever is planned around it', () => {
  const planned = (pupil: Pupil) => {
    const request = requestFor(pupil, [], TODAY);
    return weekOf(pupil, request && planOf(request), [], TODAY, 0);
  };
  const item = planned(ADA)[0]?.items.find(({ work }) => work === 'w1');
  if (!item) throw new Error('no item');
  const after = planned(movedTo(ADA, item, TODAY, '2027-03-03', TODAY));
  expect(after[0]?.items.some(({ work }) => work === 'w1')).toBe(false);
  expect(after[2]?.items.find(({ work, step }) => work === 'w1' && step === item.step)?.minutes).toBe(item.minutes);
});

test('what the teacher adds to a day stands there, at the step that is due', () => {
  const request = requestFor(added(ADA, 'w2', '2027-03-05', 15, TODAY), [], TODAY);
  const day = (request && planOf(request))?.days.find(({ date }) => date === '2027-03-05');
  const minutes = day?.items.filter(({ work }) => work === 'w2').reduce((sum, item) => sum + item.minutes, 0);
  expect(minutes).toBeGreaterThanOrEqual(12);
});

test('a day off within a week of them divides it, and comes back', () => {
  const away = { ...ADA, off: [{ from: '2027-03-01', to: '2027-03-07' }] };
  const divided = dayOffToggled(away, '2027-03-03');
  expect(divided.off).toEqual([
    { from: '2027-03-01', to: '2027-03-02' },
    { from: '2027-03-04', to: '2027-03-07' },
  ]);
  expect(dayOffToggled(ADA, TODAY).off).toEqual([{ from: TODAY, to: TODAY }]);
});

test('figures of charts: tempos, minutes by kind, notes right, keys and their age', () => {
  const log = [
    played({}),
    played({ date: '2027-02-27', tempo: 66, good: 0, again: 2 }),
    played({ date: '2027-02-28', work: 'w2', step: 'F', minutes: 5, tempo: 70 }),
    played({ date: '2027-02-28', by: 'listener', note: '36 of 48 notes', minutes: 4 }),
    played({ date: '2027-02-20', work: 'gone', minutes: 7 }),
  ];
  const request = requestFor(ADA, log, TODAY);
  const plan = request && planOf(request);
  const [tempo, ...others] = tempoFigures(ADA, plan, log, TODAY);
  expect([tempo?.goal, tempo?.reached.map(({ value }) => value), others.length]).toEqual([80, [60, 60], 0]);
  expect(tempo?.forecast.at(-1)?.value).toBe(80);
  expect(tempo?.spread.every(({ low, high }) => low <= high)).toBe(true);
  const minutes = minuteFigures(ADA, log, TODAY, 14);
  expect(minutes.kinds.map(({ name, minutes: all }) => [name, all.reduce((sum, one) => sum + one, 0)])).toEqual([
    ['tunes', 24],
    ['drills', 5],
    ['work that was removed', 7],
  ]);
  expect(noteFigures(log)).toEqual([{ date: '2027-02-28', value: 75 }]);
  expect(keyFigures(plan, ADA, log, TODAY, ['C', 'F']).drills[0]?.cells).toEqual([{}, { best: 70, days: 1 }]);
});

test('without a network an entry waits in the browser, and goes up once when there is one', async () => {
  const { user, asked, goAway } = opened();
  goAway();
  await press(user, 'Log practice');
  await press(user, 'Thirds');
  await press(user, '5 min');
  await press(user, 'Well');
  expect(
    await screen.findByText('Logged in this browser; it is sent when there is a network.', {}, { timeout: 30_000 }),
  ).toBeTruthy();
  expect(JSON.parse(localStorage.getItem('reed-hook/practice/ada') ?? '[]')).toMatchObject([
    { work: 'w2', minutes: 5 },
  ]);
  expect(asked.some(({ path }) => path.endsWith('/log'))).toBe(true);
}, 60_000);
