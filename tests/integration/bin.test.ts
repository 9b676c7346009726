import { strFromU8, unzipSync } from 'fflate';
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
import type { Archive } from '../../src/server/archive/archiveReader';
import { readArchive } from '../../src/server/archive/readArchive';
import { checkGroup } from '../../src/server/groupSchema';
import { listGroups, openGroup, pageOfGroups } from '../../src/server/groups';
import { closeWorkers } from '../../src/server/pool/pool';
import { newPupil } from '../../src/core/planning';
import { addPupil } from '../../src/db/pupilRepository';
import { addEntries, entriesSince } from '../../src/db/practiceLogRepository';
import { bringBack, exportParts, exportStudio, partsBySize } from '../../src/server/archive/studioArchive';
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
  await emptyBin(ours, now);
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
  for (let day = 0; day <= 29; day += 1) expect(await emptyBin(ours, inDays(day))).toBe(0);
  expect([await emptyBin(ours, inDays(30)), await emptyBin(ours, inDays(31))]).toEqual([0, 1]);
  expect([await restoreFromBin(ours, 'tune', 'old'), (await revisionsOf(ours, 'old')).length]).toEqual([false, 0]);
  expect([await restoreFromBin(ours, 'tune', 'new'), (await findWork(ours, 'new'))?.title]).toEqual([true, 'New']);
});

test('a clock that jumps takes nothing out of the bin before its time; set back, nothing stays longer', async () => {
  const { ours } = studios;
  const HOUR = DAY / 24;
  const after = (milliseconds: number) => new Date(now.getTime() + milliseconds);
  const untilOf = async () => (await binOf(ours)).map(({ until }) => until.slice(0, 10));
  await addWork(ours, 'a', smallWork('Ours'), now);
  await emptyBin(ours, now);
  await removeTune(ours, 'a', after(HOUR));
  expect(await emptyBin(ours, after(40 * DAY + HOUR))).toBe(0);
  // Starts again and again on the wrong day: only the time between them counts.
  for (let k = 2; k < 12; k += 1) expect(await emptyBin(ours, after(40 * DAY + k * HOUR))).toBe(0);
  expect(await untilOf()).toEqual(['2030-07-09']);
  expect(await emptyBin(ours, after(12 * HOUR))).toBe(0);
  expect(await untilOf()).toEqual(['2030-05-31']);
  // Day after day it goes when its thirty days are over.
  for (let day = 1; day < 30; day += 1) expect(await emptyBin(ours, after(day * DAY + 12 * HOUR))).toBe(0);
  expect(await emptyBin(ours, after(30 * DAY + 13 * HOUR))).toBe(1);
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
  expect([await emptyBin(theirs, inDays(0)), await deleteFromBin(ours, 'tune', 'a'), await binOf(ours)]).toEqual([
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

/** The bytes of a studio's export. */
async function exported(studio: TwoStudios['ours']): Promise<Uint8Array> {
  const [tunes = []] = await exportParts(studio);
  const stream = exportStudio(studio, tunes, 0, new AbortController().signal);
  return new Uint8Array(await new Response(stream as BodyInit).arrayBuffer());
}

/**
 * What an archive holds, read here instead of in a process of its own; what makes it no archive is a problem among
 * others.
 */
async function contentsOf(bytes: Uint8Array): Promise<Archive> {
  const works: Archive['works'][number][] = [];
  const groups: Archive['groups'][number][] = [];
  const pupils: Archive['pupils'][number][] = [];
  const recipes: Archive['recipes'][number][] = [];
  const instruments: Archive['instruments'][number][] = [];
  const problems: string[] = [];
  for await (const item of readArchive(bytes)) {
    if (item.kind === 'work') works.push(item.work);
    if (item.kind === 'group') groups.push(item.group);
    if (item.kind === 'pupil') pupils.push(item.pupil);
    if (item.kind === 'recipe') recipes.push(item.recipe);
    if (item.kind === 'instrument') instruments.push(item.custom);
    if (item.kind === 'problem') problems.push(item.text);
    if (item.kind === 'refused') problems.push(...item.messages);
  }
  return { works, groups, pupils, recipes, instruments, problems };
}

const PELL = newPupil('Pell', { id: 'a', instrument: 'clarinet-bb', level: 'beginner' });
const PRACTISED = {
  id: 'e1',
  date: '2030-04-30',
  work: 'w1',
  step: 'bars-1-4',
  minutes: 12,
  tempo: 66.5,
  good: 2,
  again: 1,
  by: 'stand',
  note: 'well',
} as const;

test('the archive of one studio makes another the same, and a second time changes nothing', async () => {
  const { ours, theirs } = studios;
  const works = [smallWork('Rope & net'), smallWork('Ünder “wave” 🎺', 90)];
  for (const [index, work] of works.entries()) await addWork(ours, `t${index}`, work, now);
  await addGroup(ours, 'g', { name: 'Loft', players: [player('p1', 'Pell')] }, now);
  await addPupil(ours, 'pell', PELL, now);
  await addEntries(ours, 'pell', [PRACTISED], now);
  await saveRecipe(ours, recipe('recipe-1', 'First-years'), now);
  await saveCustomInstrument(ours, { id: 'own-a', name: 'Low fiddle', base: 'violin' }, now);
  const archive = await contentsOf(await exported(ours));
  expect(await bringBack(theirs, archive, now)).toEqual({
    tunes: 2,
    groups: 1,
    pupils: 1,
    recipes: 1,
    instruments: 1,
    already: 0,
    problems: [],
  });
  const [log] = await entriesSince(theirs, 'pell', '2000-01-01');
  expect({ id: 'e1', ...log }).toEqual(PRACTISED);
  const { tunes } = await shelf(theirs);
  const back = await Promise.all(tunes.map(async ({ id }) => (await openWork(theirs, id))?.work));
  expect(back).toEqual(works);
  expect([await savedRecipes(theirs), await customInstruments(theirs)]).toEqual([
    await savedRecipes(ours),
    await customInstruments(ours),
  ]);
  expect(await bringBack(theirs, archive, now)).toMatchObject({ tunes: 0, groups: 0, already: 6 });
});

test('what is damaged is exported as it lies there and told; the rest of the export is whole, and so is the next import', async () => {
  const { ours, theirs } = studios;
  await addWork(ours, 'a', smallWork('Whole'), now);
  await addWork(ours, 'b', smallWork('Broken'), now);
  await addWork(ours, 'c', smallWork('Whole'), now);
  await ours.from('tunes').where('tune_id', 'b').update({ document: '{"schema":2,"title":"Broken"}' });
  await ours.from('tunes').where('tune_id', 'c').update({ document: '{"schema":2}' });
  await addGroup(ours, 'g1', { name: 'Loft', players: [] }, now);
  await addGroup(ours, 'g2', { name: 'Torn', players: [] }, now);
  await ours.from('player_groups').where('group_id', 'g2').update({ document: '{"name":7}' });
  expect((await listGroups(ours)).map(({ group }) => group.name)).toEqual(['Loft']);
  const archive = await exported(ours);
  const files = unzipSync(archive);
  const text = (name: string) => strFromU8(files[name] ?? new Uint8Array());
  expect(JSON.parse(text('left-out.json'))).toEqual([
    expect.stringMatching(/^The tune “Broken” is damaged: /),
    expect.stringMatching(/^The tune “Whole” is damaged: /),
    expect.stringMatching(/^A group \(g2\) is damaged: /),
  ]);
  expect([text('damaged/tune-b.txt').split('\n')[0], text('damaged/group-g2.txt')]).toEqual([
    '{"schema":2,"title":"Broken"}',
    '{"name":7}',
  ]);
  const contents = await contentsOf(archive);
  expect([contents.works.map(({ columns }) => columns.title), contents.groups.length, contents.problems]).toEqual([
    ['Whole'],
    1,
    [],
  ]);
  // Beside a damaged tune of the same title the whole one is still known again.
  expect(await bringBack(ours, contents, now)).toMatchObject({ tunes: 0, already: 2 });
  expect(await bringBack(theirs, contents, now)).toMatchObject({ tunes: 1, groups: 1 });
});

test('more than two hundred groups, recipes and instruments are listed, exported and known again; the quota is said', async () => {
  const { ours, theirs } = studios;
  const many = Array.from({ length: 203 }, (_, k) => k);
  const id = (k: number) => String(k).padStart(4, '0');
  const rows = (column: string, document: (k: number) => object) =>
    many.map((k) => ({
      [column]: `x${id(k)}`,
      name: `N ${id(k)}`,
      document: JSON.stringify(document(k)),
      updated_at: now,
    }));
  await ours.insert(
    'player_groups',
    rows('group_id', (k) => ({ name: `N ${id(k)}`, players: [] })).map((row) => ({
      ...row,
      version: 1,
      created_at: now,
    })),
  );
  await ours.insert(
    'saved_recipes',
    rows('recipe_id', (k) => ({ schema: 2, ...recipe(`recipe-x${id(k)}`, `N ${id(k)}`) })),
  );
  await ours.insert(
    'custom_instruments',
    rows('instrument_id', (k) => ({ id: `own-x${id(k)}`, name: `N ${id(k)}`, base: 'violin' })),
  );
  expect([(await openGroup(ours, 'x0202'))?.group.name, await openGroup(theirs, 'x0202')]).toEqual([
    'N 0202',
    undefined,
  ]);
  const names: string[] = [];
  for (let after: string | undefined, pages = 0; pages < 10; pages += 1) {
    const page = await pageOfGroups(ours, after);
    names.push(...page.groups.map(({ group }) => group.name));
    after = page.next;
    if (after === undefined) break;
  }
  expect([names.length, new Set(names).size]).toEqual([203, 203]);
  const contents = await contentsOf(await exported(ours));
  expect([contents.groups.length, contents.recipes.length, contents.instruments.length]).toEqual([203, 203, 203]);
  expect(await bringBack(ours, contents, now)).toEqual({
    tunes: 0,
    groups: 0,
    pupils: 0,
    recipes: 0,
    instruments: 0,
    already: 609,
    problems: [],
  });
  expect(await bringBack(theirs, contents, now)).toMatchObject({
    groups: 203,
    recipes: 203,
    instruments: 203,
    already: 0,
  });
  const beyond = { ...contents, groups: Array.from({ length: 798 }, (_, k) => ({ name: `More ${k}`, players: [] })) };
  await expect(bringBack(ours, beyond, now)).rejects.toThrow(/1,000 groups, and this would add 798/);
  expect((await listGroups(ours)).length).toBe(203);
});

test('a studio that is too large for one archive is exported in parts', () => {
  const tunes = [5, 4, 3, 20, 1, 1].map((bytes, k) => ({ id: `t${k}`, bytes }));
  expect(partsBySize(tunes, 10)).toEqual([['t0', 't1'], ['t2'], ['t3'], ['t4', 't5']]);
  expect(partsBySize([], 10)).toEqual([[]]);
});
