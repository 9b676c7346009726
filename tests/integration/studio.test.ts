import type { Knex } from 'knex';
import { readAbc } from '../../src/core/formats/abc/readAbc';
import { storedWork } from '../../src/core/work/stored/upgradeRecipe';
import type { Work } from '../../src/core/work/work';
import { connect } from '../../src/db/connect';
import {
  addGroup,
  allGroups,
  saveCustomInstrument,
  customInstruments,
  removeGroup,
  restoreGroup,
  saveGroup,
} from '../../src/db/groupRepository';
import { migrate } from '../../src/db/migrate';
import { ensureStudio, studioName } from '../../src/db/studioRepository';
import { studioDatabase, type StudioDatabase } from '../../src/db/studioDatabase';
import { findWork, removeTune, restoreTune, shelf } from '../../src/db/tuneRepository';
import { checkGroup } from '../../src/server/groupSchema';
import { addWork, saveWork } from './twoStudios';
import { dropRecipe, saveRecipe, savedRecipes } from '../../src/db/recipeRepository';
import { checkSavedRecipe, checkSave, checkStoredTexts } from '../../src/server/workSchema';

const read = readAbc('X:1\nC:Nobody\nM:4/4\nL:1/8\nK:Eb\n"Eb"B2 c2 e4 | g8 |]\n');
if (!read.ok) throw new Error('the tune of this test is broken');
const work: Work = {
  tune: { ...read.value.tune, title: 'Ünder 100% “wave”_s 🎺' },
  recipes: { beginner: { instrument: 'viola', keyAndTempo: { perMinute: 60 } } },
};
const now = new Date('2030-05-01T10:00:00Z');

/** A work as the repository gives it: texts. */
const asStored = (one: Work, version: number) => {
  const { tune, recipes } = storedWork(one);
  return {
    kind: 'tune',
    title: one.tune.title,
    version,
    tune: JSON.stringify(tune),
    recipes: Object.fromEntries(Object.entries(recipes).map(([level, recipe]) => [level, JSON.stringify(recipe)])),
  };
};

let knex: Knex;
let ours: StudioDatabase;
let theirs: StudioDatabase;

beforeAll(async () => {
  knex = connect(process.env['DATABASE_URL'] ?? '');
  await migrate(knex);
  ours = studioDatabase(knex, 'test-ours');
  theirs = studioDatabase(knex, 'test-theirs');
  await ensureStudio(ours, 'Ours');
  await ensureStudio(theirs, 'Theirs');
});

afterAll(async () => {
  for (const studio of [ours, theirs]) {
    for (const table of ['tunes', 'player_groups', 'custom_instruments', 'saved_recipes', 'studios'] as const)
      await studio.from(table).delete();
  }
  await knex.destroy();
});

afterEach(async () => {
  for (const studio of [ours, theirs]) await studio.from('tunes').delete();
});

test('a work comes back from the database as it was, every sign of it', async () => {
  await addWork(ours, 'a', work, now);
  const stored = await findWork(ours, 'a');
  expect(stored).toEqual(asStored(work, 1));
  expect(checkStoredTexts(stored ?? { tune: '{}', recipes: {} })).toEqual({ ok: true, value: work });
});

test("no studio sees, saves, removes or restores what is another's", async () => {
  await addWork(ours, 'a', work, now);
  expect(await shelf(theirs)).toEqual({ tunes: [] });
  expect(await findWork(theirs, 'a')).toBeUndefined();
  expect(await saveWork(theirs, 'a', { startedFrom: 1, work }, now)).toEqual({ kind: 'missing' });
  expect(await removeTune(theirs, 'a', now)).toBe(false);
  await removeTune(ours, 'a', now);
  expect(await restoreTune(theirs, 'a')).toBe(false);
  // The same id may stand in both.
  await addWork(theirs, 'a', { ...work, recipes: {} }, now);
  expect((await shelf(theirs)).tunes.map(({ id, levels }) => [id, levels])).toEqual([['a', []]]);
  expect(await studioName(theirs)).toBe('Theirs');
});

test('rows that are written belong to the studio that writes them, whatever they say', async () => {
  await ours.insert('tunes', {
    studio_id: 'test-theirs',
    tune_id: 'x',
    title: '',
    composer: '',
    key_name: '',
    meter: '',
    bar_count: 1,
    rights: 'own',
    version: 1,
    document: '{}',
    created_at: now,
    updated_at: now,
  });
  expect([(await shelf(ours)).tunes.length, (await shelf(theirs)).tunes.length]).toEqual([1, 0]);
});

test('a save on top of an old version is refused, and both are kept', async () => {
  await addWork(ours, 'a', work, now);
  const first = { ...work, tune: { ...work.tune, title: 'First' } };
  const second = { ...work, tune: { ...work.tune, title: 'Second' } };
  expect(await saveWork(ours, 'a', { startedFrom: 1, work: first }, now)).toEqual({ kind: 'saved', version: 2 });
  expect(await saveWork(ours, 'a', { startedFrom: 1, work: second }, now)).toEqual({
    kind: 'stale',
    current: asStored(first, 2),
  });
  const revisions = (await ours.from('revisions').orderBy('revision_id').select('version', 'kind', 'document')) as {
    version: number;
    kind: string;
    document: string;
  }[];
  const titleOf = (document: string) => (JSON.parse(document) as { title: string }).title;
  expect(revisions.map(({ version, kind, document }) => [version, kind, titleOf(document)])).toEqual([
    [1, 'saved', work.tune.title],
    [2, 'saved', 'First'],
    [1, 'refused', 'Second'],
  ]);
});

test('of many saves at once from one version, one wins', async () => {
  await addWork(ours, 'a', work, now);
  const outcomes = await Promise.all(
    Array.from({ length: 6 }, (_, k) =>
      saveWork(ours, 'a', { startedFrom: 1, work: { ...work, tune: { ...work.tune, title: `No. ${k}` } } }, now),
    ),
  );
  expect(outcomes.map(({ kind }) => kind).toSorted()).toEqual(['saved', 'stale', 'stale', 'stale', 'stale', 'stale']);
});

test('a broken write leaves nothing behind', async () => {
  const twice = { ...work, recipes: { beginner: { instrument: 'x'.repeat(10) } } };
  await addWork(ours, 'a', twice, now);
  await expect(addWork(ours, 'a', work, now)).rejects.toThrow(/Duplicate/);
  expect((await ours.from('revisions').select('revision_id')) as unknown[]).toHaveLength(1);
});

test('search takes its words as they stand and finds them in title, composer or key', async () => {
  await addWork(ours, 'a', work, now);
  const found = async (words: string) => (await shelf(ours, { search: words })).tunes.length;
  expect([
    await found('100%'),
    await found('_s'),
    await found('nobody e♭'),
    await found('10%0'),
    await found('s_s'),
    await found("' OR 1=1 -- "),
  ]).toEqual([1, 1, 1, 0, 0, 0]);
});

test('what the bench sends is checked before it is saved', () => {
  const message = (data: unknown) => {
    const checked = checkSave(data);
    return checked.ok ? [] : checked.problem;
  };
  expect(message({ version: 1, work })).toEqual([]);
  expect(message({ version: 0, work })[0]).toMatch(/^version: /);
  expect(message({ version: 1, work: { ...work, recipes: { beginner: { instrument: 'kazoo' } } } })).toEqual([
    'work.recipes.beginner.instrument: an instrument of the catalogue',
  ]);
  expect(
    message({
      version: 1,
      work: { ...work, recipes: { beginner: { instrument: 'viola', keyAndTempo: { perMinute: 4000 } } } },
    })[0],
  ).toMatch(/perMinute/);
  expect(
    message({
      version: 1,
      work: {
        ...work,
        recipes: {
          beginner: { instrument: 'viola', keyAndTempo: { key: { tonic: { step: 'C', alter: 0 }, mode: 'minor' } } },
        },
      },
    }),
  ).toEqual(["beginner: its key must be major, like the tune's"]);
  const short = { ...work.tune, bars: work.tune.bars.map((bar) => ({ ...bar, events: bar.events.slice(1) })) };
  expect(message({ version: 1, work: { ...work, tune: short } }).length).toBeGreaterThan(0);
});

test("a group is its studio's alone, saved on top of the version it came from, and comes back when it was taken away", async () => {
  const players = [
    { id: 'p', name: 'Pell', instrument: 'clarinet-bb', level: 'beginner', high: { step: 'A', alter: 0, octave: 4 } },
  ] as const;
  await addGroup(ours, 'g', { name: 'Ours', players }, now);
  expect([
    await allGroups(theirs),
    await saveGroup(theirs, 'g', 1, { name: 'x', players: [] }, now),
    await removeGroup(theirs, 'g', now),
  ]).toEqual([[], { kind: 'missing' }, false]);
  expect([
    await saveGroup(ours, 'g', 1, { name: 'Ours too', players }, now),
    await saveGroup(ours, 'g', 1, { name: 'late', players: [] }, now),
  ]).toEqual([
    { kind: 'saved', version: 2 },
    { kind: 'stale', current: { id: 'g', document: { name: 'Ours too', players }, version: 2 } },
  ]);
  const [stored] = await allGroups(ours);
  expect(checkGroup(stored?.document)).toEqual({ ok: true, value: { name: 'Ours too', players } });
  expect([
    await removeGroup(ours, 'g', now),
    (await allGroups(ours)).length,
    await restoreGroup(ours, 'g'),
    (await allGroups(ours)).length,
  ]).toEqual([true, 0, true, 1]);
  await saveCustomInstrument(ours, { id: 'own-a', name: 'Low fiddle', base: 'violin' }, now);
  await saveCustomInstrument(ours, { id: 'own-a', name: 'Lower fiddle', base: 'violin' }, now);
  expect([await customInstruments(ours), await customInstruments(theirs)]).toEqual([
    [{ id: 'own-a', document: { id: 'own-a', name: 'Lower fiddle', base: 'violin' } }],
    [],
  ]);
});

test('a group that makes no sense is refused with the place', () => {
  const player = { id: 'p', name: 'Pell', instrument: 'clarinet-bb', level: 'beginner' };
  const refused = (group: unknown) => {
    const checked = checkGroup(group);
    return checked.ok ? [] : checked.problem;
  };
  expect(refused({ name: '', players: [] })[0]).toMatch(/^name: /);
  expect(refused({ name: 'g', players: [{ ...player, instrument: 'bagpipe' }] })).toEqual([
    'players.0.instrument: "bagpipe" is not in the catalogue',
  ]);
  expect(refused({ name: 'g', players: [player, player] })).toEqual(['players: each player has an id of their own']);
  expect(
    refused({
      name: 'g',
      players: [{ ...player, low: { step: 'C', alter: 0, octave: 5 }, high: { step: 'C', alter: 0, octave: 4 } }],
    })[0],
  ).toMatch(/^players.0.low: the lowest note C5 is not below/);
});

test("a named recipe is its studio's alone, is changed by its id, and is gone for the one that forgets it", async () => {
  const recipe = {
    id: 'recipe-1',
    name: 'First-years',
    level: 'beginner' as const,
    wishes: {
      melody: 'simplified' as const,
      rhythm: { shortest: 'half' as const },
      page: { aids: { names: 'first-half' as const } },
    },
  };
  await saveRecipe(ours, recipe, now);
  await saveRecipe(ours, { ...recipe, name: 'First-years, spring' }, now);
  expect([await savedRecipes(ours), await savedRecipes(theirs)]).toEqual([
    [{ id: recipe.id, document: { schema: 3, ...recipe, name: 'First-years, spring' } }],
    [],
  ]);
  expect([
    await dropRecipe(theirs, 'recipe-1', now),
    await dropRecipe(ours, 'recipe-1', now),
    await savedRecipes(ours),
  ]).toEqual([false, true, []]);
  const odd = [
    { ...recipe, wishes: { instrument: 'flute' } },
    { ...recipe, schema: 2, wishes: { embellish: { density: 101 } } },
    { ...recipe, schema: 2, wishes: { embellish: { devices: ['slide'] } } },
    { ...recipe, name: ' ' },
    { ...recipe, id: '../x' },
  ];
  expect([checkSavedRecipe({ schema: 2, ...recipe }).ok, ...odd.map((one) => checkSavedRecipe(one).ok)]).toEqual([
    true,
    ...odd.map(() => false),
  ]);
});
