import { storedRecipes } from '../core/formats/json/upgradeRecipe';
import { LEVELS, type Level } from '../core/instruments/instrument';
import type { Work } from '../core/levels/recipe/work';
import { nameKey } from '../core/pitch/key';
import { countedBars, type Rights, type Tune } from '../core/score/tune';
import { printMeter } from '../core/time/meter';
import { parsedDocument } from './documents';
import type { StudioDatabase } from './studioDatabase';

/** Documents as they lie in the database: not yet checked. */
export interface StoredWork {
  readonly tune: unknown;
  readonly recipes: Readonly<Partial<Record<Level, unknown>>>;
  readonly version: number;
}

export interface ShelfEntry {
  readonly id: string;
  readonly title: string;
  readonly composer: string;
  readonly keyName: string;
  readonly meter: string;
  readonly bars: number;
  readonly rights: Rights;
  readonly levels: readonly Level[];
  readonly updatedAt: string;
}

interface ShelfRow {
  tune_id: string;
  title: string;
  composer: string;
  key_name: string;
  meter: string;
  bar_count: number;
  rights: Rights;
  updated_at: Date;
}

/** Tunes on the shelf whose title, composer or key hold the words, by title. */
export async function shelf(database: StudioDatabase, search = ''): Promise<readonly ShelfEntry[]> {
  const query = database
    .from('tunes')
    .whereNull('removed_at')
    .orderBy('title')
    .limit(500)
    .select('tune_id', 'title', 'composer', 'key_name', 'meter', 'bar_count', 'rights', 'updated_at');
  for (const word of search
    .split(/\s+/)
    .filter((one) => one !== '')
    .slice(0, 8)) {
    // The signs that LIKE takes for wildcards are meant as they stand.
    const pattern = `%${word.replace(/[\\%_]/g, '\\$&')}%`;
    query.where((builder) =>
      builder.where('title', 'like', pattern).orWhere('composer', 'like', pattern).orWhere('key_name', 'like', pattern),
    );
  }
  const rows = (await query) as ShelfRow[];
  const made = (await database.from('recipes').select('tune_id', 'level')) as { tune_id: string; level: Level }[];
  return rows.map((row) => ({
    id: row.tune_id,
    title: row.title,
    composer: row.composer,
    keyName: row.key_name,
    meter: row.meter,
    bars: row.bar_count,
    rights: row.rights,
    levels: LEVELS.filter((level) => made.some((one) => one.tune_id === row.tune_id && one.level === level)),
    updatedAt: row.updated_at.toISOString(),
  }));
}

export async function findWork(database: StudioDatabase, id: string): Promise<StoredWork | undefined> {
  const row = (await database
    .from('tunes')
    .where('tune_id', id)
    .whereNull('removed_at')
    .first('document', 'version')) as { document: unknown; version: number } | undefined;
  if (!row) return undefined;
  return { tune: parsedDocument(row.document), recipes: await recipesOf(database, id), version: row.version };
}

async function recipesOf(database: StudioDatabase, id: string): Promise<StoredWork['recipes']> {
  const rows = (await database.from('recipes').where('tune_id', id).select('level', 'document')) as {
    level: Level;
    document: unknown;
  }[];
  return Object.fromEntries(rows.map(({ level, document }) => [level, parsedDocument(document)]));
}

export async function addWork(database: StudioDatabase, id: string, work: Work, now: Date): Promise<void> {
  await database.transaction(async (inside) => {
    await inside.insert('tunes', {
      tune_id: id,
      ...columnsOf(work.tune),
      version: 1,
      removed_at: null,
      created_at: now,
      updated_at: now,
    });
    await writeRecipes(inside, id, work.recipes);
    await inside.insert('revisions', revision(id, 1, 'saved', work, now));
  });
}

export type SaveOutcome =
  | { readonly kind: 'saved'; readonly version: number }
  | { readonly kind: 'stale'; readonly current: StoredWork }
  | { readonly kind: 'missing' };

/** Saves on top of the version that the work started from. A stale save changes nothing but is kept as a refused revision. */
export async function saveWork(
  database: StudioDatabase,
  id: string,
  startedFrom: number,
  work: Work,
  now: Date,
): Promise<SaveOutcome> {
  return database.transaction(async (inside): Promise<SaveOutcome> => {
    const row = (await inside
      .from('tunes')
      .where('tune_id', id)
      .whereNull('removed_at')
      .forUpdate()
      .first('document', 'version')) as { document: unknown; version: number } | undefined;
    if (!row) return { kind: 'missing' };
    if (row.version !== startedFrom) {
      await inside.insert('revisions', revision(id, startedFrom, 'refused', work, now));
      return {
        kind: 'stale',
        current: { tune: parsedDocument(row.document), recipes: await recipesOf(inside, id), version: row.version },
      };
    }
    const version = row.version + 1;
    await inside
      .from('tunes')
      .where('tune_id', id)
      .update({ ...columnsOf(work.tune), version, updated_at: now });
    await inside.from('recipes').where('tune_id', id).delete();
    await writeRecipes(inside, id, work.recipes);
    await inside.insert('revisions', revision(id, version, 'saved', work, now));
    return { kind: 'saved', version };
  });
}

/** Takes a tune off the shelf; nothing is deleted, so that it can come back. False when it was not there. */
export async function removeTune(database: StudioDatabase, id: string, now: Date): Promise<boolean> {
  return (await database.from('tunes').where('tune_id', id).whereNull('removed_at').update({ removed_at: now })) > 0;
}

export async function restoreTune(database: StudioDatabase, id: string): Promise<boolean> {
  return (
    (await database.from('tunes').where('tune_id', id).whereNotNull('removed_at').update({ removed_at: null })) > 0
  );
}

function columnsOf(tune: Tune) {
  return {
    title: tune.title,
    composer: tune.composer ?? '',
    key_name: nameKey(tune.key),
    meter: printMeter(tune.meter),
    bar_count: countedBars(tune),
    rights: tune.rights,
    document: JSON.stringify(tune),
  };
}

async function writeRecipes(database: StudioDatabase, id: string, recipes: Work['recipes']): Promise<void> {
  const stored = storedRecipes(recipes);
  const rows = LEVELS.flatMap((level) =>
    stored[level] ? [{ tune_id: id, level, document: JSON.stringify(stored[level]) }] : [],
  );
  if (rows.length > 0) await database.insert('recipes', rows);
}

function revision(id: string, version: number, kind: 'saved' | 'refused', work: Work, now: Date) {
  return {
    tune_id: id,
    version,
    kind,
    document: JSON.stringify(work.tune),
    recipes: JSON.stringify(storedRecipes(work.recipes)),
    saved_at: now,
  };
}
