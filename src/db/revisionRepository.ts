import { cutText } from '../core/plainText';
import { documentText, parsedDocument } from './documents';
import type { StudioDatabase } from './studioDatabase';
import { superfluous } from './thinning';

/** A version of a tune as the list shows it. */
export interface Revision {
  readonly revision: number;
  readonly version: number;
  /** A refused save is kept beside the one it would have overwritten. */
  readonly kind: 'saved' | 'refused';
  /** What the teacher calls it; named versions are kept for good. */
  readonly name: string;
  /** What was changed, in the words of the edits. */
  readonly what: string;
  readonly savedAt: string;
}

/** JSON texts of a tune and its levels. */
interface RevisionTexts {
  readonly tune: string;
  readonly recipes: Readonly<Record<string, string>>;
}

export interface NewRevision {
  readonly id: string;
  readonly version: number;
  readonly kind: 'saved' | 'refused';
  readonly work: RevisionTexts;
  readonly now: Date;
  readonly what: string;
  readonly saveId?: string | undefined;
}

const MAX_WHAT = 1_000;
/** More than thinning leaves of a tune that was worked on every day for a year. */
const MAX_LISTED = 1_000;
/** Refused saves that are kept of a tune; named ones stay beside them. */
const MAX_REFUSED = 5;

export async function keepRevision(database: StudioDatabase, revision: NewRevision): Promise<void> {
  const { id, version, kind, work, now, what, saveId } = revision;
  await database.insert('revisions', {
    tune_id: id,
    version,
    kind,
    what: cutText(what, MAX_WHAT),
    save_id: saveId ?? null,
    document: work.tune,
    recipes: `{${Object.entries(work.recipes)
      .map(([level, recipe]) => `${JSON.stringify(level)}:${recipe}`)
      .join()}}`,
    saved_at: now,
  });
}

/** The version that a save made, by the id that who saved gave it. */
export async function findSave(database: StudioDatabase, id: string, saveId: string): Promise<number | undefined> {
  const row = (await database
    .from('revisions')
    .where({ tune_id: id, save_id: saveId, kind: 'saved' })
    .orderBy('version', 'desc')
    .first('version')) as { version: number } | undefined;
  return row?.version;
}

interface RevisionRow {
  revision_id: number;
  version: number;
  kind: 'saved' | 'refused';
  name: string | null;
  what: string;
  saved_at: Date;
}

/** The versions of a tune, newest first. */
export async function revisionsOf(database: StudioDatabase, id: string): Promise<readonly Revision[]> {
  const rows = (await database
    .from('revisions')
    .where('tune_id', id)
    .orderBy('version', 'desc')
    .limit(MAX_LISTED)
    .select('revision_id', 'version', 'kind', 'name', 'what', 'saved_at')) as RevisionRow[];
  return inOrder(rows).map(({ revision_id: revision, version, kind, name, what, saved_at }) => ({
    revision: Number(revision),
    version,
    kind,
    name: name ?? '',
    what,
    savedAt: saved_at.toISOString(),
  }));
}

/**
 * Newest first. Numbers of rows say nothing about that where several nodes give them, and clocks jump; versions do: a
 * refused save, which made none, stands where its time puts it among them.
 */
function inOrder(rows: readonly RevisionRow[]): readonly RevisionRow[] {
  const byTime = (a: RevisionRow, b: RevisionRow) => b.saved_at.getTime() - a.saved_at.getTime();
  const refused = rows.filter(({ kind }) => kind === 'refused').toSorted(byTime);
  const saved = rows.filter(({ kind }) => kind === 'saved').toSorted((a, b) => b.version - a.version);
  const ordered: RevisionRow[] = [];
  for (const row of saved) {
    while (refused[0] && byTime(refused[0], row) < 0) ordered.push(...refused.splice(0, 1));
    ordered.push(row);
  }
  return [...ordered, ...refused];
}

/** The documents of a version, as texts; not yet checked. */
export async function findRevision(database: StudioDatabase, id: string, revision: number) {
  const row = (await database
    .from('revisions')
    .where({ tune_id: id, revision_id: revision })
    .first('document', 'recipes')) as { document: unknown; recipes: unknown } | undefined;
  if (!row) return undefined;
  const recipes = parsedDocument(row.recipes);
  return {
    tune: documentText(row.document),
    recipes: Object.fromEntries(
      Object.entries(typeof recipes === 'object' && recipes !== null ? recipes : {}).map(([level, recipe]) => [
        level,
        JSON.stringify(recipe),
      ]),
    ),
  };
}

/** Names a version, or takes its name away (empty). False when it was not there. */
export async function nameRevision(
  database: StudioDatabase,
  id: string,
  revision: number,
  name: string,
): Promise<boolean> {
  return (
    (await database
      .from('revisions')
      .where({ tune_id: id, revision_id: revision })
      .update({ name: name === '' ? null : name })) > 0
  );
}

/**
 * Keeps a save that was refused beside the version that stands, so that neither is lost; the same one, sent again, is
 * kept once, and of many the newest few.
 */
export async function keepRefused(database: StudioDatabase, revision: Omit<NewRevision, 'kind'>): Promise<void> {
  const { id, saveId } = revision;
  const refused = () => database.from('revisions').where({ tune_id: id, kind: 'refused' });
  if (saveId !== undefined && (await refused().where('save_id', saveId).first('revision_id'))) return;
  await keepRevision(database, { ...revision, kind: 'refused' });
  const unnamed = (await refused().whereNull('name').orderBy('saved_at', 'desc').select('revision_id')) as {
    revision_id: number;
  }[];
  const gone = unnamed.slice(MAX_REFUSED).map(({ revision_id }) => revision_id);
  if (gone.length > 0) await database.from('revisions').where('tune_id', id).whereIn('revision_id', gone).delete();
}

/**
 * Lets saves of one sitting join, and lets go of the versions that age has made superfluous; who stays takes their
 * words over. Gives their number.
 */
export async function thinRevisions(database: StudioDatabase, id: string, now: Date): Promise<number> {
  const rows = (await database
    .from('revisions')
    .where({ tune_id: id, kind: 'saved' })
    .orderBy('version', 'desc')
    .select('revision_id', 'version', 'kind', 'name', 'what', 'saved_at')) as RevisionRow[];
  const gone = new Set(
    superfluous(
      rows.map(({ revision_id: revision, name, saved_at: savedAt }) => ({ revision, isNamed: name !== null, savedAt })),
      now,
    ),
  );
  if (gone.size === 0) return 0;
  for (const { revision, what } of joinedWords(rows, gone))
    await database
      .from('revisions')
      .where({ tune_id: id, revision_id: revision })
      .update({ what: cutText(what, MAX_WHAT) });
  await database
    .from('revisions')
    .where('tune_id', id)
    .whereIn('revision_id', [...gone])
    .delete();
  return gone.size;
}

/** The words of those that stay and have taken over others, each edit once, oldest first. */
function joinedWords(
  newestFirst: readonly RevisionRow[],
  gone: ReadonlySet<number>,
): readonly { readonly revision: number; readonly what: string }[] {
  const joined: { readonly revision: number; readonly what: string }[] = [];
  let taken: readonly string[] = [];
  for (const { revision_id: revision, what } of newestFirst.toReversed()) {
    const words = what.split(', ').filter((word) => word !== '');
    if (gone.has(revision)) taken = [...taken, ...words];
    else {
      if (taken.length > 0) joined.push({ revision, what: [...new Set([...taken, ...words])].join(', ') });
      taken = [];
    }
  }
  return joined;
}
