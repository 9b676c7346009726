import type { StudioDatabase } from './studioDatabase';

export interface Member {
  readonly person: string;
  readonly role: string;
  readonly since: Date;
}

/** Who belongs to the studio. */
export async function membersOf(database: StudioDatabase): Promise<readonly Member[]> {
  return (await database
    .from('members')
    .orderBy('since')
    .select({ person: 'person_id', role: 'role', since: 'since' })) as Member[];
}

export async function memberOf(database: StudioDatabase, person: string): Promise<Member | undefined> {
  return (await database
    .from('members')
    .where('person_id', person)
    .first({ person: 'person_id', role: 'role', since: 'since' })) as Member | undefined;
}

/** A new member; who is one already stays what they are. */
export async function addMember(database: StudioDatabase, person: string, role: string, now: Date): Promise<void> {
  await database
    .insert('members', { person_id: person, role, since: now })
    .onConflict(['studio_id', 'person_id'])
    .ignore();
}

/** The members with a lock on them, so that the last owner is not taken away twice at once. */
export async function lockMembers(database: StudioDatabase): Promise<readonly Member[]> {
  return (await database
    .from('members')
    .forUpdate()
    .select({ person: 'person_id', role: 'role', since: 'since' })) as Member[];
}

export async function setRole(database: StudioDatabase, person: string, role: string): Promise<void> {
  await database.from('members').where('person_id', person).update({ role });
}

/** Tables whose rows are somebody's. */
const MADE = ['tunes', 'player_groups', 'pupils', 'handouts'] as const;

/** Ends a membership; what the person made in the studio is somebody else's from now on. */
export async function removeMember(database: StudioDatabase, person: string, heir: string): Promise<void> {
  await database.from('members').where('person_id', person).delete();
  for (const table of MADE) await database.from(table).where('made_by', person).update({ made_by: heir });
}

/** What was made before there were accounts becomes somebody's. */
export async function adoptWorks(database: StudioDatabase, person: string): Promise<void> {
  for (const table of MADE) await database.from(table).whereNull('made_by').update({ made_by: person });
}

/** Whose pupil somebody is. False where there is no such pupil. */
export async function handPupilOver(database: StudioDatabase, pupil: string, teacher: string): Promise<boolean> {
  await database.from('handouts').where('pupil_id', pupil).update({ made_by: teacher });
  return Number(await database.from('pupils').where('pupil_id', pupil).update({ made_by: teacher })) > 0;
}

export async function teacherOfPupil(database: StudioDatabase, pupil: string): Promise<string | undefined> {
  const row = (await database.from('pupils').where('pupil_id', pupil).first('made_by')) as
    { made_by: string | null } | undefined;
  return row?.made_by ?? undefined;
}
