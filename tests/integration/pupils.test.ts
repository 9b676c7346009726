import { newPupil, type Pupil } from '../../src/core/planning';
import type { SentEntry } from '../../src/core/formats';
import { addGroup, findGroup, saveGroup } from '../../src/db/groupRepository';
import * as entries from '../../src/db/practiceLogRepository';
import * as pupils from '../../src/db/pupilRepository';
import { deleteFromBin, forgetPlayerName } from '../../src/db/binRepository';
import { joinTwoPupils, logForPlan, pupilFromGroup } from '../../src/server/pupils';
import { pupilRows } from '../../src/server/pupilRows';
import type { Group } from '../../src/core/keys';
import { twoStudios, type TwoStudios } from './twoStudios';

const now = new Date('2030-05-01T10:00:00.000Z');
const ADA: Pupil = {
  ...newPupil('Ada', { id: 'a', instrument: 'flute', level: 'beginner' }),
  practice: { monday: 20 },
  work: [
    {
      id: 'w1',
      playing: 'a',
      state: 'going',
      kind: 'tune',
      title: 'Rope',
      chunks: [{ fromBar: 1, toBar: 4, difficulty: 2 }],
      goal: 80,
      start: 60,
    },
  ],
};
const BO = newPupil('Bo', { id: 'a', instrument: 'cello', level: 'advanced' });
const entry = (id: string, more: Partial<SentEntry> = {}): SentEntry => ({
  id,
  date: '2030-04-20',
  work: 'w1',
  step: 'bars-1-4',
  minutes: 10,
  tempo: 60,
  good: 1,
  again: 0,
  by: 'stand',
  note: '',
  ...more,
});
const LOFT: Group = {
  name: 'Loft',
  players: [
    { id: 'p1', name: 'Ada', instrument: 'flute', level: 'beginner', pupil: 'ada', playing: 'a' },
    { id: 'p2', name: 'Cy', instrument: 'viola', level: 'beginner' },
  ],
};

let studios: TwoStudios;
beforeAll(async () => (studios = await twoStudios('pupils')));
beforeEach(async () => {
  await studios.empty();
  await pupils.addPupil(studios.ours, 'ada', ADA, now);
});
afterAll(() => studios.close());

const groupOf = async (id = 'g') => (await findGroup(studios.ours, id))?.document as Group;
const pupilOf = async (id = 'ada') => (await pupils.findPupil(studios.ours, id))?.document as Pupil;

test('no pupil and no log is seen, added to or deleted from another studio', async () => {
  const { ours, theirs } = studios;
  await entries.addEntries(ours, 'ada', [entry('e1')], now);
  expect(await pupils.allPupils(theirs)).toEqual([]);
  expect(await entries.addEntries(theirs, 'ada', [entry('e2')], now)).toBeUndefined();
  expect(await entries.entriesSince(theirs, 'ada', '2000-01-01')).toEqual([]);
  expect(await pupils.deletePupil(theirs, 'ada', now)).toBe(false);
  expect(await entries.countEntries(ours, 'ada')).toBe(1);
});

test('what is sent twice is logged once, and an entry that is there is never altered', async () => {
  const { ours } = studios;
  expect(await entries.addEntries(ours, 'ada', [entry('e1'), entry('e1'), entry('e2')], now)).toBe(2);
  expect(await entries.addEntries(ours, 'ada', [entry('e1', { minutes: 99 }), entry('e3')], now)).toBe(1);
  expect((await entries.entriesSince(ours, 'ada', '2000-01-01')).map(({ minutes }) => minutes)).toEqual([10, 10, 10]);
});

test('an entry that is struck out counts no more, nor when it is sent once more, until that is taken back', async () => {
  const { ours, theirs } = studios;
  await entries.addEntries(ours, 'ada', [entry('e1'), entry('e2', { minutes: 7 })], now);
  expect(await entries.strikeEntry(theirs, 'ada', 'e2', now)).toBe(false);
  expect(await entries.strikeEntry(ours, 'ada', 'e2', now)).toBe(true);
  expect(await entries.addEntries(ours, 'ada', [entry('e2', { minutes: 7 })], now)).toBe(0);
  const minutes = async () => (await logForPlan(ours, 'ada', '2030-05-01')).map((one) => one.minutes);
  expect(await minutes()).toEqual([10]);
  expect((await entries.minutesSince(ours, '2000-01-01')).map((one) => one.minutes)).toEqual([10]);
  const listed = await entries.newestEntries(ours, 'ada', 10);
  expect(listed.map(({ id, isStruck }) => [id, isStruck]).toSorted()).toEqual([
    ['e1', false],
    ['e2', true],
  ]);
  await entries.strikeEntry(ours, 'ada', 'e2', null);
  expect((await minutes()).toSorted()).toEqual([10, 7]);
});

test('an old log is read in short: the same minutes and rounds, a row a month or year and step', async () => {
  const { ours } = studios;
  const old = Array.from({ length: 40 }, (_, k) => entry(`o${k}`, { date: `2020-0${1 + (k % 2)}-1${k % 9}`, good: 1 }));
  const lastYear = [
    entry('m1', { date: '2029-07-01' }),
    entry('m2', { date: '2029-07-30' }),
    entry('m3', { date: '2029-08-01' }),
  ];
  await entries.addEntries(ours, 'ada', [...old, ...lastYear, entry('new')], now);
  const log = await logForPlan(ours, 'ada', '2030-05-01');
  expect(log.map(({ date }) => date)).toEqual(['2020-02-18', '2029-07-30', '2029-08-01', '2030-04-20']);
  expect(log.reduce((sum, { minutes }) => sum + minutes, 0)).toBe(440);
  expect(log.reduce((sum, { good }) => sum + good, 0)).toBe(44);
});

test('what is changed at the pupil is changed in every group, and a screen with the old group is told', async () => {
  const { ours } = studios;
  await addGroup(ours, 'g', LOFT, now);
  await pupils.savePupil(ours, 'ada', 1, { ...ADA, name: 'Ida' }, now);
  expect((await groupOf()).players.map(({ name }) => name)).toEqual(['Ida', 'Cy']);
  expect((await saveGroup(ours, 'g', 1, LOFT, now)).kind).toBe('stale');
});

test('what is changed in a group is changed at the pupil, and in the other groups', async () => {
  const { ours } = studios;
  await addGroup(ours, 'g', LOFT, now);
  await addGroup(ours, 'h', { ...LOFT, name: 'Band' }, now);
  const [first, second] = LOFT.players;
  if (!first || !second) throw new Error('two players');
  await saveGroup(ours, 'g', 1, { ...LOFT, players: [{ ...first, level: 'advanced' }, second] }, now);
  expect([(await pupilOf()).playing[0]?.level, (await groupOf('h')).players[0]?.level]).toEqual([
    'advanced',
    'advanced',
  ]);
  expect((await pupilOf()).work).toEqual(ADA.work);
  expect((await pupils.savePupil(ours, 'ada', 1, ADA, now)).kind).toBe('stale');
});

test('a pupil is deleted whole: log, and the name in every group', async () => {
  const { ours } = studios;
  await addGroup(ours, 'g', LOFT, now);
  await entries.addEntries(ours, 'ada', [entry('e1')], now);
  expect(await pupils.deletePupil(ours, 'ada', now)).toBe(true);
  expect([await pupils.findPupil(ours, 'ada'), await entries.countEntries(ours, 'ada')]).toEqual([undefined, 0]);
  expect((await groupOf()).players[0]).toEqual({ id: 'p1', name: '', instrument: 'flute', level: 'beginner' });
});

test('out of the bin a pupil comes back with the log; deleted from it, both are gone', async () => {
  const { ours } = studios;
  await entries.addEntries(ours, 'ada', [entry('e1')], now);
  await pupils.removePupil(ours, 'ada', now);
  expect(await entries.addEntries(ours, 'ada', [entry('e2')], now)).toBeUndefined();
  expect(await pupils.restorePupil(ours, 'ada')).toBe(true);
  expect(await entries.countEntries(ours, 'ada')).toBe(1);
  await pupils.removePupil(ours, 'ada', now);
  expect(await deleteFromBin(ours, 'pupil', 'ada')).toBe(true);
  expect(await entries.countEntries(ours, 'ada')).toBe(0);
});

test('a name that is forgotten takes the pupil of that name along', async () => {
  const { ours } = studios;
  await addGroup(ours, 'g', LOFT, now);
  expect(await forgetPlayerName(ours, ' ada ', now)).toBe(2);
  expect([await pupils.findPupil(ours, 'ada'), (await groupOf()).players[0]?.pupil]).toEqual([undefined, undefined]);
});

test('two pupils become one: work, log and places in groups; the other lies in the bin without them', async () => {
  const { ours } = studios;
  await pupils.addPupil(ours, 'bo', BO, now);
  await addGroup(
    ours,
    'g',
    { name: 'Trio', players: [{ ...BO.playing[0]!, id: 'p', name: 'Bo', pupil: 'bo', playing: 'a' }] },
    now,
  );
  await entries.addEntries(ours, 'ada', [entry('e1')], now);
  await entries.addEntries(ours, 'bo', [entry('e1'), entry('e2')], now);
  expect(await joinTwoPupils(ours, 'ada', 'bo', now)).toBe('joined');
  expect((await pupilOf()).playing.map(({ instrument }) => instrument)).toEqual(['flute', 'cello']);
  expect(await entries.countEntries(ours, 'ada')).toBe(2);
  expect((await groupOf()).players[0]).toMatchObject({ pupil: 'ada', name: 'Ada', instrument: 'cello' });
  expect(await joinTwoPupils(ours, 'ada', 'bo', now)).toBe('missing');
});

test('a player of a group becomes a pupil once, and is tied to them', async () => {
  const { ours } = studios;
  await addGroup(ours, 'g', LOFT, now);
  const id = await pupilFromGroup(
    ours,
    'g',
    'p2',
    newPupil('Cy', { id: 'a', instrument: 'viola', level: 'beginner' }),
    now,
  );
  expect((await groupOf()).players[1]).toMatchObject({ pupil: id, playing: 'a', name: 'Cy' });
  expect(await pupilFromGroup(ours, 'g', 'p2', ADA, now)).toBeUndefined();
});

test('a row says what needs a look: a piece that will be late, and a pupil who is silent', async () => {
  const { ours } = studios;
  const late = { ...ADA, work: ADA.work.map((work) => ({ ...work, by: '2030-05-03' })) };
  await entries.addEntries(ours, 'ada', [entry('e1')], now);
  const [row] = await pupilRows(ours, [{ id: 'ada', version: 1, pupil: late }], '2030-05-01');
  expect(row?.attention).toEqual(['nothing for 11 days', 'Rope will not be ready by 3 May']);
  expect([row?.minutes.length, row?.minutes.at(-12), row?.weekly]).toEqual([28, 10, 20]);
});
