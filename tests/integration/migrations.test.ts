import type { Knex } from 'knex';
import { storedRecipes } from '../../src/core/work/stored/upgradeRecipe';
import { migrateDown, migrateUp, migrationsDone, MIGRATION_NAMES } from '../../src/db/migrate';
import { studioDatabase } from '../../src/db/studioDatabase';
import { findWork } from '../../src/db/tuneRepository';
import { readStored } from '../../src/server/tunes';
import { saveWork, smallWork } from './twoStudios';
import { ownDatabase } from './ownDatabase';

const now = new Date('2030-05-01T10:00:00.000Z');

let knex: Knex;
let end: () => Promise<void>;
beforeAll(async () => {
  ({ knex, end } = await ownDatabase('migrations'));
});
afterAll(() => end());

/** A tune as the first version of the tables holds it. */
async function fillFirstVersion(): Promise<void> {
  const { tune, recipes } = smallWork('Ropewalk', 72);
  const document = JSON.stringify(tune);
  await knex('studios').insert({ studio_id: 'loft', name: 'Loft' });
  await knex('tunes').insert({
    studio_id: 'loft',
    tune_id: 'ropewalk',
    title: tune.title,
    composer: '',
    key_name: 'E♭ major',
    meter: '4/4',
    bar_count: 3,
    rights: tune.rights,
    version: 1,
    document,
    created_at: now,
    updated_at: now,
  });
  const stored = storedRecipes(recipes);
  await knex('recipes').insert({
    studio_id: 'loft',
    tune_id: 'ropewalk',
    level: 'beginner',
    document: JSON.stringify(stored.beginner),
  });
  await knex('revisions').insert({
    studio_id: 'loft',
    tune_id: 'ropewalk',
    version: 1,
    kind: 'saved',
    document,
    recipes: JSON.stringify(stored),
    saved_at: now,
  });
}

test('from the first shape to the last and back, step by step, with data in it', async () => {
  await migrateUp(knex);
  await fillFirstVersion();
  for (let k = 1; k < MIGRATION_NAMES.length; k += 1) {
    await migrateUp(knex);
    expect(await migrationsDone(knex)).toEqual(MIGRATION_NAMES.slice(0, k + 1));
  }
  const studio = studioDatabase(knex, 'loft');
  const stored = await findWork(studio, 'ropewalk');
  expect(await readStored(stored ?? { tune: '{}', recipes: {} }, 'tune')).toEqual(smallWork('Ropewalk', 72));
  const saved = { startedFrom: 1, work: smallWork('Ropewalk, again'), what: 'Title', saveId: 'save-0001' };
  expect(await saveWork(studio, 'ropewalk', saved, now)).toEqual({ kind: 'saved', version: 2 });
  for (let k = MIGRATION_NAMES.length; k > 1; k -= 1) await migrateDown(knex);
  const rows = (await knex('tunes').select('title', 'version')) as unknown[];
  expect(rows).toEqual([{ title: 'Ropewalk, again', version: 2 }]);
  // The ties between tables hold in every shape.
  await expect(
    knex('recipes').insert({ studio_id: 'loft', tune_id: 'none', level: 'beginner', document: '{}' }),
  ).rejects.toThrow(/foreign key/);
  for (let k = 1; k < MIGRATION_NAMES.length; k += 1) await migrateUp(knex);
  expect((await findWork(studio, 'ropewalk'))?.title).toBe('Ropewalk, again');
  await expect(
    knex('recipes').insert({ studio_id: 'loft', tune_id: 'none', level: 'beginner', document: '{}' }),
  ).rejects.toThrow(/foreign key/);
});

test('a migration that was broken off half way goes on where it was', async () => {
  const before = MIGRATION_NAMES.findIndex((name) => name.startsWith('005'));
  for (let count = MIGRATION_NAMES.length; count > before; count -= 1) await migrateDown(knex);
  // As a kill leaves it: some of its steps are done, none is noted.
  await knex.raw('ALTER TABLE revisions ADD COLUMN name VARCHAR(200)');
  await knex.raw('ALTER TABLE recipes DROP FOREIGN KEY recipes_studio_id_tune_id_foreign');
  for (let count = before; count < MIGRATION_NAMES.length; count += 1) await migrateUp(knex);
  expect(await migrationsDone(knex)).toEqual(MIGRATION_NAMES);
  expect((await findWork(studioDatabase(knex, 'loft'), 'ropewalk'))?.title).toBe('Ropewalk, again');
});
