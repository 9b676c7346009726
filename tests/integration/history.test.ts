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

test('versions are thinned by age; one with a name stays', async () => {
  const { ours } = studios;
  await addWork(ours, 'a', smallWork('0'), now);
  for (let k = 1; k <= 5; k += 1)
    await saveWork(ours, 'a', { startedFrom: k, work: smallWork(String(k)) }, later(k * 60_000));
  const named = (await revisionsOf(ours, 'a')).find(({ version }) => version === 3);
  expect(await nameRevision(ours, 'a', named?.revision ?? 0, 'Spring concert')).toBe(true);
  expect(await thinRevisions(ours, 'a', later(2 * 3_600_000))).toBe(0);
  await thinRevisions(ours, 'a', later(60 * DAY));
  expect((await revisionsOf(ours, 'a')).map(({ version, name }) => [version, name])).toEqual([
    [6, ''],
    [3, 'Spring concert'],
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
    const pair = `${tune.title} ${recipes.beginner?.setting?.perMinute}`;
    if (tune.title !== String(recipes.beginner?.setting?.perMinute)) torn.push(pair);
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
