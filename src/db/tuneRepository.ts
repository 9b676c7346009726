import { storedRecipes } from '../core/work/stored';
import { type Level, LEVELS } from '../core/instruments';
import type { Work } from '../core/work';
import { nameKey } from '../core/pitch';
import { melodyBits } from '../core/pools';
import { countedBars, type Rights } from '../core/score';
import { printMeter } from '../core/time';
import { intoBin, OUT_OF_BIN } from './binRepository';
import { documentText } from './documents';
import type { StudioDatabase } from './studioDatabase';
import { findSave, keepRefused, keepRevision, thinRevisions } from './revisionRepository';

/** A work's documents as they lie in the database: JSON texts, not yet checked. */
export interface StoredTexts {
  readonly tune: string;
  readonly recipes: Readonly<Partial<Record<Level, string>>>;
}

export const WORK_KINDS = ['tune', 'drill', 'lick'] as const;
/** What a document is: a tune, a drill that is laid out from an idea, or a lick that is kept for solos. */
export type WorkKind = (typeof WORK_KINDS)[number];

export interface StoredWork extends StoredTexts {
  readonly kind: WorkKind;
  readonly title: string;
  readonly version: number;
}

interface ShelfEntry {
  readonly id: string;
  readonly kind: WorkKind;
  readonly title: string;
  readonly composer: string;
  readonly keyName: string;
  readonly meter: string;
  readonly bars: number;
  readonly rights: Rights;
  readonly levels: readonly Level[];
  readonly updatedAt: string;
}

/** Where a page of the shelf begins: after this tune. */
export interface ShelfPlace {
  readonly title: string;
  readonly id: string;
}

export interface ShelfPage {
  readonly tunes: readonly ShelfEntry[];
  /** Where the next page begins; none on the last. */
  readonly next?: ShelfPlace;
}

interface ShelfRow {
  tune_id: string;
  kind: WorkKind;
  title: string;
  composer: string;
  key_name: string;
  meter: string;
  bar_count: number;
  rights: Rights;
  updated_at: Date;
}

/** Tunes of one page: a few screens of them. */
const PAGE = 24;

/**
 * A page of the tunes on the shelf whose title, composer or key hold the words, by title. Pages begin after the last
 * tune of the one before, not at a number: the ten-thousandth tune is found as fast as the first, and nothing is shown
 * twice.
 */
export async function shelf(
  database: StudioDatabase,
  {
    search = '',
    kind,
    after,
    most = PAGE,
  }: {
    readonly search?: string;
    readonly kind?: WorkKind;
    readonly after?: ShelfPlace;
    readonly most?: number;
  } = {},
): Promise<ShelfPage> {
  const query = database
    .from('tunes')
    .whereNull('removed_at')
    .orderBy('title')
    .orderBy('tune_id')
    .limit(most + 1)
    .select('tune_id', 'kind', 'title', 'composer', 'key_name', 'meter', 'bar_count', 'rights', 'updated_at');
  // Licks are asked for: among tunes and drills they would be in the way.
  if (kind) query.where('kind', kind);
  else query.whereNot('kind', 'lick');
  if (after)
    query.where((builder) =>
      builder
        .where('title', '>', after.title)
        .orWhere((same) => same.where('title', after.title).where('tune_id', '>', after.id)),
    );
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
  const shown = rows.slice(0, most);
  const made = (await database
    .from('recipes')
    .whereIn(
      'tune_id',
      shown.map(({ tune_id }) => tune_id),
    )
    .select('tune_id', 'level')) as { tune_id: string; level: Level }[];
  const levelsOf = new Map<string, Level[]>();
  for (const { tune_id, level } of made) levelsOf.set(tune_id, [...(levelsOf.get(tune_id) ?? []), level]);
  const last = shown.at(-1);
  const tunes = shown.map((row) => ({
    id: row.tune_id,
    kind: row.kind,
    title: row.title,
    composer: row.composer,
    keyName: row.key_name,
    meter: row.meter,
    bars: row.bar_count,
    rights: row.rights,
    levels: LEVELS.filter((level) => levelsOf.get(row.tune_id)?.includes(level)),
    updatedAt: row.updated_at.toISOString(),
  }));
  return rows.length > most && last ? { tunes, next: { title: last.title, id: last.tune_id } } : { tunes };
}

/** What a tune is called and which version stands there, without its documents. */
export async function tuneHead(
  database: StudioDatabase,
  id: string,
): Promise<Pick<StoredWork, 'title' | 'version'> | undefined> {
  return (await database.from('tunes').where('tune_id', id).whereNull('removed_at').first('title', 'version')) as
    Pick<StoredWork, 'title' | 'version'> | undefined;
}

/** A tune with its levels, read in one statement: two would let a save slip in between. */
export async function findWork(database: StudioDatabase, id: string): Promise<StoredWork | undefined> {
  const rows = (await database
    .from('tunes')
    .leftJoin('recipes', { 'recipes.studio_id': 'tunes.studio_id', 'recipes.tune_id': 'tunes.tune_id' })
    .where('tunes.tune_id', id)
    .whereNull('tunes.removed_at')
    .select('tunes.kind', 'tunes.title', 'tunes.version', 'tunes.document', 'recipes.level', {
      recipe: 'recipes.document',
    })) as {
    kind: WorkKind;
    title: string;
    version: number;
    document: unknown;
    level: Level | null;
    recipe: unknown;
  }[];
  const [first] = rows;
  if (!first) return undefined;
  return {
    kind: first.kind,
    title: first.title,
    version: first.version,
    tune: documentText(first.document),
    recipes: Object.fromEntries(
      LEVELS.flatMap((level) => {
        const row = rows.find((one) => one.level === level);
        return row ? [[level, documentText(row.recipe)]] : [];
      }),
    ),
  };
}

export async function addWork(
  database: StudioDatabase,
  id: string,
  work: WorkDocuments,
  now: Date,
  what = '',
): Promise<void> {
  await database.transaction(async (inside) => {
    await inside.insert('tunes', {
      tune_id: id,
      ...work.columns,
      document: work.tune,
      version: 1,
      removed_at: null,
      created_at: now,
      updated_at: now,
    });
    await writeRecipes(inside, id, work.recipes);
    await keepRevision(inside, { id, version: 1, kind: 'saved', work, now, what });
  });
}

export type SaveOutcome =
  | { readonly kind: 'saved'; readonly version: number }
  | { readonly kind: 'stale'; readonly current: StoredWork }
  | { readonly kind: 'missing' };

/** What is saved, and what is said about it. */
export interface Save {
  /** The version that the work started from. */
  readonly startedFrom: number;
  readonly work: WorkDocuments;
  /** What was changed, in the words of the edits. */
  readonly what?: string;
  /** Made by who saves; a save that arrives twice, since its answer was lost, is known by it. */
  readonly saveId?: string;
}

/** One tune in so many versions is thinned. */
const THINNED_EVERY = 8;

/**
 * Saves on top of the version that the work started from. A stale save changes nothing but is kept as a refused
 * revision, unless it is the very save that made the present version: then it has been done already.
 */
export async function saveWork(
  database: StudioDatabase,
  id: string,
  { startedFrom, work, what = '', saveId }: Save,
  now: Date,
): Promise<SaveOutcome> {
  return database.transaction(async (inside): Promise<SaveOutcome> => {
    const row = (await inside
      .from('tunes')
      .where('tune_id', id)
      .whereNull('removed_at')
      .forUpdate()
      .first('version')) as { version: number } | undefined;
    if (!row) return { kind: 'missing' };
    if (row.version !== startedFrom) {
      if (saveId !== undefined && (await findSave(inside, id, saveId)) === row.version)
        return { kind: 'saved', version: row.version };
      await keepRefused(inside, { id, version: startedFrom, work, now, what, saveId });
      const current = await findWork(inside, id);
      return current ? { kind: 'stale', current } : { kind: 'missing' };
    }
    const version = row.version + 1;
    await inside
      .from('tunes')
      .where('tune_id', id)
      .update({ ...work.columns, document: work.tune, version, updated_at: now });
    await inside.from('recipes').where('tune_id', id).delete();
    await writeRecipes(inside, id, work.recipes);
    await keepRevision(inside, { id, version, kind: 'saved', work, now, what, saveId });
    if (version % THINNED_EVERY === 0) await thinRevisions(inside, id, now);
    return { kind: 'saved', version };
  });
}

/** Puts a tune into the bin. False when it was not there. */
export async function removeTune(database: StudioDatabase, id: string, now: Date): Promise<boolean> {
  return (await database.from('tunes').where('tune_id', id).whereNull('removed_at').update(intoBin(now))) > 0;
}

export async function restoreTune(database: StudioDatabase, id: string): Promise<boolean> {
  return (await database.from('tunes').where('tune_id', id).whereNotNull('removed_at').update(OUT_OF_BIN)) > 0;
}

/** Ids of the tunes on the shelf that are called so. */
export async function idsByTitle(database: StudioDatabase, title: string): Promise<readonly string[]> {
  const rows = (await database.from('tunes').whereNull('removed_at').where('title', title).select('tune_id')) as {
    tune_id: string;
  }[];
  return rows.map(({ tune_id }) => tune_id);
}

/** All tunes on the shelf with the size of their documents in bytes, by id. */
export async function tuneSizes(
  database: StudioDatabase,
): Promise<readonly { readonly id: string; readonly bytes: number }[]> {
  const rows = (await database
    .from('tunes')
    .whereNull('tunes.removed_at')
    .leftJoin('recipes', { 'recipes.studio_id': 'tunes.studio_id', 'recipes.tune_id': 'tunes.tune_id' })
    .groupBy('tunes.tune_id')
    .orderBy('tunes.tune_id')
    .select('tunes.tune_id')
    .max({ tune: database.bytesOf('tunes.document') })
    .sum({ levels: database.bytesOf('recipes.document') })) as {
    tune_id: string;
    tune: number | string;
    levels: number | string | null;
  }[];
  return rows.map(({ tune_id: id, tune, levels }) => ({ id, bytes: Number(tune) + Number(levels ?? 0) }));
}

/** Ids of all tunes on the shelf, in an order that stays. */
export async function tuneIds(database: StudioDatabase): Promise<readonly string[]> {
  const rows = (await database.from('tunes').whereNull('removed_at').orderBy('tune_id').select('tune_id')) as {
    tune_id: string;
  }[];
  return rows.map(({ tune_id }) => tune_id);
}

/**
 * A work as it is written: columns and JSON texts. Made on a worker where the work is large, so that the thread that
 * answers need not hold it.
 */
export interface WorkDocuments {
  readonly columns: {
    readonly title: string;
    readonly composer: string;
    readonly key_name: string;
    readonly meter: string;
    readonly bar_count: number;
    readonly rights: Rights;
    readonly melody_bits: number;
    readonly kind: WorkKind;
  };
  readonly tune: string;
  /** By level. */
  readonly recipes: Readonly<Partial<Record<Level, string>>>;
}

export function documentsOf({ tune, recipes }: Work): WorkDocuments {
  const stored = storedRecipes(recipes);
  return {
    columns: {
      title: tune.title,
      composer: tune.composer ?? '',
      key_name: nameKey(tune.key),
      meter: printMeter(tune.meter),
      bar_count: countedBars(tune),
      rights: tune.rights,
      melody_bits: melodyBits(tune),
      kind: tune.drill ? 'drill' : tune.lick ? 'lick' : 'tune',
    },
    tune: JSON.stringify(tune),
    recipes: Object.fromEntries(
      LEVELS.flatMap((level) => (stored[level] ? [[level, JSON.stringify(stored[level])]] : [])),
    ),
  };
}

/** A tune by what its melody is made of. */
export interface MelodyEntry {
  readonly id: string;
  readonly title: string;
  readonly keyName: string;
  /** As `melodyBits`. */
  readonly melody: number;
}

/** Of a shelf larger than this, so many tunes are looked through. */
const MAX_MELODIES = 5_000;

/** The melodies of the shelf, by title. */
export async function melodies(database: StudioDatabase): Promise<readonly MelodyEntry[]> {
  const rows = (await database
    .from('tunes')
    .whereNull('removed_at')
    .where('melody_bits', '>', 0)
    .where('kind', 'tune')
    .orderBy('title')
    .limit(MAX_MELODIES)
    .select('tune_id', 'title', 'key_name', 'melody_bits')) as {
    tune_id: string;
    title: string;
    key_name: string;
    melody_bits: number;
  }[];
  return rows.map(({ tune_id, title, key_name, melody_bits }) => ({
    id: tune_id,
    title,
    keyName: key_name,
    melody: melody_bits,
  }));
}

async function writeRecipes(database: StudioDatabase, id: string, recipes: WorkDocuments['recipes']): Promise<void> {
  const rows = LEVELS.flatMap((level) =>
    recipes[level] === undefined ? [] : [{ tune_id: id, level, document: recipes[level] }],
  );
  if (rows.length > 0) await database.insert('recipes', rows);
}
