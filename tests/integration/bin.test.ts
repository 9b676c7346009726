import { binOf, deleteFromBin, emptyBin, forgetPlayerName, restoreFromBin } from '../../src/db/binRepository';
import {
  addGroup,
  allGroups,
  customInstruments,
  removeGroup,
  saveCustomInstrument,
} from '../../src/db/groupRepository';
import { dropRecipe, saveRecipe, savedRecipes } from '../../src/db/recipeRepository';
import { revisionsOf } from '../../src/db/revisionRepository';
import { findWork, removeTune, shelf } from '../../src/db/tuneRepository';
import { readArchive } from '../../src/server/archive';
import { checkGroup } from '../../src/server/groupSchema';
import { closeWorkers } from '../../src/server/pool/pool';
import { bringBack, exportStudio } from '../../src/server/studioArchive';
import { openWork } from '../../src/server/tunes';
import { addWork, smallWork, twoStudios, type TwoStudios } from './twoStudios';

const DAY = 86_400_000;
const now = new Date('2030-05-01T10:00:00.000Z');
const inDays = (days: number) => new Date(now.getTime() + days * DAY);
const recipe = (id: string, name: string) => ({
  id,
  name,
  level: 'beginner' as const,
  wishes: { melody: 'simplified' as const },
});
const player = (id: string, name: string) => ({ id, name, instrument: 'flute', level: 'beginner' as const });

let studios: TwoStudios;
beforeAll(async () => {
  studios = await twoStudios('bin');
});
afterAll(async () => {
  await studios.close();
  await closeWorkers();
});
afterEach(() => studios.empty());

test('what was removed lies in the bin for 30 days, comes back from it, and is then gone with all that belongs to it', async () => {
  const { ours } = studios;
  await addWork(ours, 'old', smallWork('Old'), now);
  await addWork(ours, 'new', smallWork('New'), now);
  await addGroup(ours, 'g', { name: 'Loft', players: [] }, now);
  await saveRecipe(ours, recipe('recipe-1', 'First-years'), now);
  await removeTune(ours, 'old', now);
  await removeTune(ours, 'new', inDays(10));
  await removeGroup(ours, 'g', inDays(5));
  await dropRecipe(ours, 'recipe-1', inDays(2));
  expect((await binOf(ours)).map(({ kind, name, until }) => [kind, name, until.slice(0, 10)])).toEqual([
    ['tune', 'New', '2030-06-10'],
    ['group', 'Loft', '2030-06-05'],
    ['recipe', 'First-years', '2030-06-02'],
    ['tune', 'Old', '2030-05-31'],
  ]);
  expect(await restoreFromBin(ours, 'recipe', 'recipe-1')).toBe(true);
  expect((await savedRecipes(ours)).length).toBe(1);
  expect(await emptyBin(ours, inDays(29))).toBe(0);
  expect(await emptyBin(ours, inDays(31))).toBe(1);
  expect([await restoreFromBin(ours, 'tune', 'old'), (await revisionsOf(ours, 'old')).length]).toEqual([false, 0]);
  expect([await restoreFromBin(ours, 'tune', 'new'), (await findWork(ours, 'new'))?.title]).toEqual([true, 'New']);
});

test('only what is in the bin is deleted from it, and only by its studio', async () => {
  const { ours, theirs } = studios;
  await addWork(ours, 'a', smallWork('Ours'), now);
  expect(await deleteFromBin(ours, 'tune', 'a')).toBe(false);
  await removeTune(ours, 'a', now);
  expect([
    await deleteFromBin(theirs, 'tune', 'a'),
    await restoreFromBin(theirs, 'tune', 'a'),
    await binOf(theirs),
  ]).toEqual([false, false, []]);
  expect([await emptyBin(theirs, inDays(400)), await deleteFromBin(ours, 'tune', 'a'), await binOf(ours)]).toEqual([
    0,
    true,
    [],
  ]);
});

test("a pupil's name is deleted everywhere at once, the player stays", async () => {
  const { ours, theirs } = studios;
  await addGroup(ours, 'g1', { name: 'One', players: [player('p1', 'Pell'), player('p2', 'Oda')] }, now);
  await addGroup(ours, 'g2', { name: 'Two', players: [player('p1', ' pell ')] }, now);
  await removeGroup(ours, 'g2', now);
  await addGroup(theirs, 'g1', { name: 'Theirs', players: [player('p1', 'Pell')] }, now);
  expect([await forgetPlayerName(ours, 'PELL', now), await forgetPlayerName(ours, 'Pell', now)]).toEqual([2, 0]);
  await restoreFromBin(ours, 'group', 'g2');
  const names = async (studio: typeof ours) =>
    (await allGroups(studio)).map(({ document, version }) => {
      const group = checkGroup(document);
      return [version, ...(group.ok ? group.value.players.map(({ name }) => name) : ['broken'])];
    });
  expect(await names(ours)).toEqual([
    [2, '', 'Oda'],
    [2, ''],
  ]);
  expect(await names(theirs)).toEqual([[1, 'Pell']]);
});

test('many first saves at once make one recipe and one instrument, and none of them fails', async () => {
  const { ours } = studios;
  await Promise.all(
    Array.from({ length: 24 }, (_, k) =>
      Promise.all([
        saveRecipe(ours, recipe('recipe-1', `Name ${k}`), now),
        saveCustomInstrument(ours, { id: 'own-a', name: `Fiddle ${k}`, base: 'violin' }, now),
      ]),
    ),
  );
  expect([(await savedRecipes(ours)).length, (await customInstruments(ours)).length]).toEqual([1, 1]);
});

async function wholeOf(stream: ReadableStream<Uint8Array>): Promise<Uint8Array> {
  return new Uint8Array(await new Response(stream as BodyInit).arrayBuffer());
}

test('the archive of one studio makes another the same, and a second time changes nothing', async () => {
  const { ours, theirs } = studios;
  const works = [smallWork('Rope & net'), smallWork('Ünder “wave” 🎺', 90)];
  for (const [index, work] of works.entries()) await addWork(ours, `t${index}`, work, now);
  await addGroup(ours, 'g', { name: 'Loft', players: [player('p1', 'Pell')] }, now);
  await saveRecipe(ours, recipe('recipe-1', 'First-years'), now);
  await saveCustomInstrument(ours, { id: 'own-a', name: 'Low fiddle', base: 'violin' }, now);
  const archive = readArchive(await wholeOf(exportStudio(ours, new AbortController().signal)));
  if (!archive.ok) throw new Error(archive.problem.join('; '));
  expect(await bringBack(theirs, archive.value, now)).toEqual({
    tunes: 2,
    groups: 1,
    recipes: 1,
    instruments: 1,
    already: 0,
    problems: [],
  });
  const { tunes } = await shelf(theirs);
  const back = await Promise.all(tunes.map(async ({ id }) => (await openWork(theirs, id))?.work));
  expect(back).toEqual(works);
  expect([await savedRecipes(theirs), await customInstruments(theirs)]).toEqual([
    await savedRecipes(ours),
    await customInstruments(ours),
  ]);
  expect(await bringBack(theirs, archive.value, now)).toMatchObject({ tunes: 0, groups: 0, already: 5 });
});

test('an archive that is none, or damaged in part, says so and gives what it can', async () => {
  expect(readArchive(new Uint8Array([1, 2, 3]))).toMatchObject({ ok: false });
  const { ours } = studios;
  await addWork(ours, 'a', smallWork('Whole'), now);
  const whole = await wholeOf(exportStudio(ours, new AbortController().signal));
  const read = readArchive(whole);
  expect(read.ok && read.value.works.map(({ tune }) => tune.title)).toEqual(['Whole']);
  expect(readArchive(whole.slice(0, whole.length / 2)).ok).toBe(false);
});
