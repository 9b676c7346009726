import type { StudioDatabase } from './studioDatabase';

/** Something that was done about access to the studio. */
export interface AuditEntry {
  readonly id: string;
  readonly at: Date;
  readonly person?: string;
  readonly what: string;
  readonly about: string;
}

/** Written in the transaction of what it tells of. */
export async function addAudit(database: StudioDatabase, entry: AuditEntry): Promise<void> {
  await database.insert('audit', {
    audit_id: entry.id,
    at: entry.at,
    person_id: entry.person ?? null,
    what: entry.what,
    about: entry.about,
  });
}

const SHOWN = 300;

/** What was done last, the newest first. */
export async function auditOf(database: StudioDatabase): Promise<readonly AuditEntry[]> {
  const rows = (await database
    .from('audit')
    .orderBy('at', 'desc')
    .orderBy('audit_id')
    .limit(SHOWN)
    .select('audit_id', 'at', 'person_id', 'what', 'about')) as {
    audit_id: string;
    at: Date;
    person_id: string | null;
    what: string;
    about: string;
  }[];
  return rows.map(({ audit_id, at, person_id, what, about }) => ({
    id: audit_id,
    at,
    ...(person_id !== null && { person: person_id }),
    what,
    about,
  }));
}

/** Kept a year. */
export async function thinAudit(database: StudioDatabase, before: Date): Promise<void> {
  await database.from('audit').where('at', '<', before).delete();
}
