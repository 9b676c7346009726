/** @jest-environment jsdom */
import { press, screen, shown, waitFor, words } from '../../../tests/screen';
import { serverStandIn } from '../../../tests/serverStandIn';
import { evenChunks, newPupil, type Pupil } from '../../core/planning';
import { ownWeek, refusedEntries } from '../../server/pupilWeek';
import { OwnWeekScreen } from './OwnWeekScreen';

/** A Monday. */
const TODAY = '2027-03-01';
const ADA: Pupil = {
  ...newPupil('Ada', { id: 'a', instrument: 'clarinet-bb', level: 'beginner' }),
  practice: { monday: 20, wednesday: 20 },
  lessons: [{ date: '2027-02-25', note: 'A private note.' }],
  work: [
    {
      id: 'w1',
      playing: 'a',
      state: 'going',
      kind: 'tune',
      title: 'Rope',
      tune: 'rope',
      chunks: evenChunks(8, 2),
      goal: 80,
      start: 60,
    },
  ],
};

function opened(answer: () => { readonly status?: number; readonly json?: unknown } | 'away') {
  localStorage.clear();
  const asked = serverStandIn({ 'POST /p/secret/log': answer });
  return { asked, ...shown(<OwnWeekScreen token="secret" {...ownWeek(ADA, [], TODAY)} />) };
}

test('today comes first, with the stand at its bars and tempo; notes of lessons are not there', () => {
  opened(() => 'away');
  const today = screen.getByRole('region', { name: 'Today' });
  expect(words(today)).toMatch(/Today, Monday.*Rope/);
  const link = screen.getAllByRole('link', { name: /^On the stand: / })[0]?.getAttribute('href') ?? '';
  expect(link).toMatch(/^\/p\/secret\/stand\?work=w1&step=.*&tempo=60/);
  expect(document.body.textContent).not.toContain('private');
});

test('every tune is there to be played freely and heard, at the pupil’s own address', () => {
  localStorage.clear();
  serverStandIn({});
  const tune = { id: 'rope', title: 'Rope', isDrill: false, sounds: ['bars', 'slow'] as const };
  shown(<OwnWeekScreen token="secret" {...ownWeek(ADA, [], TODAY)} tunes={[tune]} />);
  const all = screen.getByRole('region', { name: 'All that is on your stand' });
  expect(
    [...all.querySelectorAll('a, audio')].map((one) => one.getAttribute('href') ?? one.getAttribute('src')),
  ).toEqual([
    '/p/secret/stand?tune=rope',
    '/p/secret/stand?tune=rope&what=solo',
    '/p/secret/sounds/bars.mp3?tune=rope',
    '/p/secret/sounds/slow.mp3?tune=rope',
  ]);
});

test('what is ticked is sent once, as the pupil’s own entry', async () => {
  const { user, asked } = opened(() => ({ json: { added: 1 } }));
  const [tick] = screen.getAllByRole('button', { name: /^Practised: / });
  if (!tick) throw new Error('nothing to tick');
  await user.click(tick);
  await screen.findByText('Noted: your teacher sees it.');
  expect(asked.map(({ json }) => json)).toMatchObject([{ entries: [{ work: 'w1', by: 'pupil', date: TODAY }] }]);
  expect(tick).toHaveProperty('disabled', true);
});

test('offline, an entry waits on the device', async () => {
  const { user } = opened(() => 'away');
  await user.click(screen.getAllByRole('button', { name: /^Practised: / })[0] as HTMLElement);
  await screen.findByText(/^One entry waits on this device/);
});

test('a refused entry is told, and can be tried again', async () => {
  const refused = opened(() => ({ status: 404, json: { messages: ['This link has ended.'] } }));
  await press(
    refused.user,
    screen.getAllByRole('button', { name: /^Practised: / })[0]?.getAttribute('aria-label') ?? '',
  );
  await screen.findByText('This link has ended.');
  await waitFor(() =>
    expect(screen.getAllByRole('button', { name: /^Practised: / })[0]).toHaveProperty('disabled', false),
  );
});

test('a link takes practice of what is set, of late, and not in a teacher’s name', () => {
  const entry = {
    id: 'e',
    date: TODAY,
    work: 'w1',
    step: 's',
    minutes: 3,
    good: 0,
    again: 0,
    by: 'pupil',
    note: '',
  } as const;
  expect(refusedEntries(ADA, [entry], TODAY)).toBeUndefined();
  expect(refusedEntries(ADA, [{ ...entry, by: 'teacher' }], TODAY)).toMatch(/teacher/);
  expect(refusedEntries(ADA, [{ ...entry, work: 'w9' }], TODAY)).toMatch(/not set/);
  expect(refusedEntries(ADA, [{ ...entry, date: '2026-12-01' }], TODAY)).toMatch(/60 days/);
  expect(
    refusedEntries(
      ADA,
      Array.from({ length: 61 }, () => entry),
      TODAY,
    ),
  ).toMatch(/60 entries/);
});
