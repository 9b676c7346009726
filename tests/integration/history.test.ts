import { findRevision, nameRevision, revisionsOf, thinRevisions } from '../../src/db/revisionRepository';
import { findWork, shelf } from '../../src/db/tuneRepository';
import { readStored } from '../../src/server/tunes';
import { addWork, saveWork, smallWork, twoStudios, type TwoStudios } from './twoStudios';

const DAY = 86_400_000;
const now = new Date('2030-05-01T10:00:00.000Z');
const later = (milliseconds: number) => new Date(now.getTime() + milliseconds);

let studios: TwoStudios;
beforeAll(async () => {
  studios = await twoStudios('history');
});
afterAll(() => studios.close());
afterEach(() => studios.empty());

test('every save is a version with its words; the newest stands first, and each can be opened as it was', async () => {
  const { ours } = studios;
  await addWork(ours, 'a', smallWork('First'), now, 'brought in');
  await saveWork(ours, 'a', { startedFrom: 1, work: smallWork('Second', 80), what: 'Title, tempo' }, later(1_000));
  await saveWork(ours, 'a', { startedFrom: 1, work: smallWork('Late'), what: 'Title' }, later(2_000));
  const revisions = await revisionsOf(ours, 'a');
  expect(revisions.map(({ version, kind, what, name }) => [version, kind, what, name])).toEqual([
    [1, 'refused', 'Title', ''],
    [2, 'saved', 'Title, tempo', ''],
    [1, 'saved', 'brought in', ''],
  ]);
  const opened = await Promise.all(revisions.map(({ revision }) => findRevision(ours, 'a', revision)));
  const works = await Promise.all(opened.map((stored) => readStored(stored ?? { tune: '{}', recipes: {} }, 'version')));
  expect(works).toEqual([smallWork('Late'), smallWork('Second', 80), smallWork('First')]);
});

test("another studio neither sees, opens, names nor thins a tune's versions", async () => {
  const { ours, theirs } = studios;
  await addWork(ours, 'a', smallWork('Ours'), now);
  const [revision] = await revisionsOf(ours, 'a');
  const number = revision?.revision ?? 0;
  expect([
    await revisionsOf(theirs, 'a'),
    await findRevision(theirs, 'a', number),
    await nameRevision(theirs, 'a', number, 'Mine'),
    await thinRevisions(theirs, 'a', later(400 * DAY)),
    (await revisionsOf(ours, 'a')).length,
  ]).toEqual([[], undefined, false, 0, 1]);
});

test('versions are thinned by age: the newest and the first stay, one with a name too, and who stays has the words of those that went', async () => {
  const { ours } = studios;
  await addWork(ours, 'a', smallWork('0'), now, 'brought in');
  for (let k = 1; k <= 30; k += 1)
    await ours.insert('revisions', {
      tune_id: 'a',
      version: k + 1,
      kind: 'saved',
      what: k % 2 ? 'Key' : `Bar ${k}`,
      name: k === 3 ? 'Spring concert' : null,
      document: '{}',
      recipes: '{}',
      saved_at: later(k * 60_000),
    });
  expect(await thinRevisions(ours, 'a', later(2 * 3_600_000))).toBe(7);
  const left = async () =>
    (await revisionsOf(ours, 'a')).slice(20).map(({ version, name, what }) => [version, name, what]);
  expect(await left()).toEqual([
    [10, '', 'Key, Bar 6, Bar 8'],
    [5, '', 'Bar 4'],
    [4, 'Spring concert', 'Key, Bar 2'],
    [1, '', 'brought in'],
  ]);
  await thinRevisions(ours, 'a', later(60 * DAY));
  expect((await left()).map(([version]) => version)).toEqual([4, 1]);
});

test('five hundred saves within minutes are a few dozen copies, and none of the newest is missing', async () => {
  const { ours } = studios;
  await addWork(ours, 'a', smallWork('0'), now);
  for (let k = 1; k <= 500; k += 1)
    await saveWork(ours, 'a', { startedFrom: k, work: smallWork(String(k)), what: `Bar ${k}` }, later(k * 1_000));
  const revisions = await revisionsOf(ours, 'a');
  expect(revisions.length).toBeLessThan(35);
  expect(revisions.slice(0, 20).map(({ version }) => version)).toEqual(Array.from({ length: 20 }, (_, k) => 501 - k));
  expect(revisions.at(-1)?.version).toBe(1);
});

test('refused saves are kept, a few of them, one that is sent again only once; they push nothing out of the list', async () => {
  const { ours } = studios;
  await addWork(ours, 'a', smallWork('0'), now);
  await saveWork(ours, 'a', { startedFrom: 1, work: smallWork('1') }, later(1_000));
  const late = (k: number, saveId: string) =>
    saveWork(ours, 'a', { startedFrom: 1, work: smallWork(`Late ${k}`), what: `late ${k}`, saveId }, later(2_000 + k));
  for (let k = 1; k <= 40; k += 1) expect((await late(k, `late-save-${k}`)).kind).toBe('stale');
  for (let k = 0; k < 3; k += 1) await late(40, 'late-save-40');
  const revisions = await revisionsOf(ours, 'a');
  expect(revisions.map(({ kind, what }) => [kind, what])).toEqual([
    ['refused', 'late 40'],
    ['refused', 'late 39'],
    ['refused', 'late 38'],
    ['refused', 'late 37'],
    ['refused', 'late 36'],
    ['saved', ''],
    ['saved', ''],
  ]);
});

test('a save whose answer was lost is done once, and known as one’s own when it comes again', async () => {
  const { ours } = studios;
  await addWork(ours, 'a', smallWork('First'), now);
  const sent = { startedFrom: 1, work: smallWork('Second'), saveId: 'save-0001' };
  expect(await saveWork(ours, 'a', sent, now)).toEqual({ kind: 'saved', version: 2 });
  expect(await saveWork(ours, 'a', sent, now)).toEqual({ kind: 'saved', version: 2 });
  expect((await revisionsOf(ours, 'a')).length).toBe(2);
  // Once somebody else has saved on top of it, it is stale like any other.
  await saveWork(ours, 'a', { startedFrom: 2, work: smallWork('Third'), saveId: 'save-0002' }, now);
  expect((await saveWork(ours, 'a', sent, now)).kind).toBe('stale');
});

test('a tune is never read with the levels of another version', async () => {
  const { ours } = studios;
  await addWork(ours, 'a', smallWork('60', 60), now);
  const saving = (async () => {
    for (let k = 1; k <= 40; k += 1)
      await saveWork(ours, 'a', { startedFrom: k, work: smallWork(String(60 + k), 60 + k) }, now);
  })();
  const torn: string[] = [];
  for (let k = 0; k < 120; k += 1) {
    const stored = await findWork(ours, 'a');
    if (!stored) throw new Error('the tune is gone');
    const { tune, recipes } = await readStored(stored, 'tune');
    const pair = `${tune.title} ${recipes.beginner?.keyAndTempo?.perMinute}`;
    if (tune.title !== String(recipes.beginner?.keyAndTempo?.perMinute)) torn.push(pair);
  }
  await saving;
  expect(torn).toEqual([]);
});

test('ids tell large and small letters apart', async () => {
  const { ours } = studios;
  await addWork(ours, 'tune', smallWork('Small'), now);
  await addWork(ours, 'Tune', smallWork('Large'), now);
  expect([(await findWork(ours, 'tune'))?.title, (await findWork(ours, 'Tune'))?.title]).toEqual(['Small', 'Large']);
});

test('the shelf comes in pages that hold every tune once, in order, whatever was added meanwhile', async () => {
  const { ours } = studios;
  // Several of one name: a page may end between them.
  for (let k = 0; k < 23; k += 1) await addWork(ours, `t${k}`, smallWork(k % 3 === 0 ? 'Same name' : `Tune ${k}`), now);
  const seen: string[] = [];
  let after: { readonly title: string; readonly id: string } | undefined;
  for (let page = 0; page < 20; page += 1) {
    const { tunes, next } = await shelf(ours, { most: 5, ...(after && { after }) });
    seen.push(...tunes.map(({ id }) => id));
    if (page === 1) await addWork(ours, 'added', smallWork('A tune before all'), now);
    after = next;
    if (!next) break;
  }
  expect(seen.length).toBe(23);
  expect(new Set(seen).size).toBe(23);
  expect((await shelf(ours, { most: 5, search: 'same' })).tunes.map(({ title }) => title)).toEqual(
    Array.from({ length: 5 }, () => 'Same name'),
  );
});
