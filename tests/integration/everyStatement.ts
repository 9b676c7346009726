import { writeFileSync } from 'node:fs';
import type { Knex } from 'knex';
import { accountsDatabase } from '../../src/db/accountsDatabase';
import * as audit from '../../src/db/auditRepository';
import * as bin from '../../src/db/binRepository';
import * as groups from '../../src/db/groupRepository';
import * as handouts from '../../src/db/handoutRepository';
import * as members from '../../src/db/memberRepository';
import { migrate, MIGRATION_NAMES } from '../../src/db/migrate';
import * as links from '../../src/db/oneTimeLinkRepository';
import * as people from '../../src/db/peopleRepository';
import * as log from '../../src/db/practiceLogRepository';
import * as pupilLinks from '../../src/db/pupilLinkRepository';
import * as pupils from '../../src/db/pupilRepository';
import * as recipes from '../../src/db/recipeRepository';
import * as revisions from '../../src/db/revisionRepository';
import * as sessions from '../../src/db/sessionRepository';
import * as studios from '../../src/db/studioRepository';
import * as tunes from '../../src/db/tuneRepository';
import { barePupil } from '../barePupil';
import { smallWork } from '../smallWork';
import { ownDatabase } from './ownDatabase';

/*
 * What a program says to its database in a day, written down: `tests/documents/statements-NNN.json` is what the program
 * before the present tables said. To write down what this one says, for the next: run this file as a program, with
 * DATABASE_URL and the name of the file.
 */

/** A statement, what was put into it (dates as `{ date }`), and how much came of it: rows, or how many were changed. */
export interface Said {
  readonly sql: string;
  readonly bindings: readonly unknown[];
  readonly much: number;
}

export function howMuch(answer: unknown): number {
  if (Array.isArray(answer)) return answer.length;
  return typeof answer === 'object' && answer !== null && 'affectedRows' in answer ? Number(answer.affectedRows) : 0;
}

const now = new Date('2030-05-01T10:00:00.000Z');
const later = new Date('2030-06-01T10:00:00.000Z');
const hash = (letter: string) => letter.repeat(64);
const entry = (id: string, date: string) => ({
  id,
  date,
  work: 'w1',
  step: 'whole',
  minutes: 10,
  good: 2,
  again: 1,
  by: 'pupil' as const,
  note: '',
});

/** A studio's day: everything that repositories do, at least once. */
async function aDay(knex: Knex): Promise<void> {
  const accounts = accountsDatabase(knex);
  const studio = accounts.studio('older');
  await studios.ensureStudio(studio, 'Loft');
  await studios.studioName(studio);
  const documents = (title: string) => tunes.documentsOf(smallWork(title));
  await tunes.addWork(studio, 'kelp', documents('Kelp'), now);
  await tunes.addWork(studio, 'rope', documents('Rope'), now);
  for (let version = 1; version < 32; version += 1)
    await tunes.saveWork(
      studio,
      'kelp',
      { startedFrom: version, work: documents(`Kelp ${version}`), what: `${version}`, saveId: `save-${version}` },
      new Date(now.getTime() + 1_000 * version),
    );
  await tunes.saveWork(studio, 'kelp', { startedFrom: 3, work: documents('Stale'), saveId: 'stale' }, now);
  await tunes.shelf(studio, { search: 'kel' });
  await tunes.shelf(studio, { kind: 'tune', after: { title: 'A', id: 'a' } });
  await tunes.findWork(studio, 'kelp');
  await tunes.tuneHead(studio, 'kelp');
  await tunes.idsByTitle(studio, 'Rope');
  await tunes.tuneSizes(studio);
  await tunes.tuneIds(studio);
  await tunes.melodies(studio);
  const [newest] = await revisions.revisionsOf(studio, 'kelp');
  if (!newest) throw new Error('what was saved has versions');
  await revisions.findRevision(studio, 'kelp', newest.revision);
  await revisions.nameRevision(studio, 'kelp', newest.revision, 'as played');
  const pupil = barePupil('Pell');
  await pupils.addPupil(studio, 'pell', pupil, now);
  await pupils.addPupil(studio, 'wick', pupil, now);
  await pupils.savePupil(studio, 'pell', 1, { ...pupil, name: 'Pell B.' }, now);
  await pupils.allPupils(studio);
  await pupils.findPupil(studio, 'pell');
  await log.addEntries(studio, 'pell', [entry('e1', '2030-04-30'), entry('e2', '2028-02-01')], now);
  await log.entriesSince(studio, 'pell', '2030-01-01');
  await log.entriesBefore(studio, 'pell', '2030-01-01');
  await log.minutesSince(studio, '2030-01-01');
  await log.lastEntries(studio);
  await log.newestEntries(studio, 'pell', 10);
  await log.strikeEntry(studio, 'pell', 'e1', now);
  const group = { name: 'Band', players: [{ id: 'p', name: 'Pell', pupil: 'pell', playing: 'a' }] };
  const asGroup = group as unknown as Parameters<typeof groups.addGroup>[2];
  await groups.addGroup(studio, 'band', asGroup, now);
  await groups.saveGroup(studio, 'band', 1, { ...asGroup, name: 'Saturday band' }, now);
  await groups.allGroups(studio);
  await groups.findGroup(studio, 'band');
  const recipe = { id: 'r1', name: 'Calm', recipe: {} } as unknown as Parameters<typeof recipes.saveRecipe>[1];
  await recipes.saveRecipe(studio, recipe, now);
  await recipes.saveRecipe(studio, recipe, now);
  await recipes.savedRecipes(studio);
  await recipes.dropRecipe(studio, 'r1', now);
  const custom = { id: 'own-1', name: 'Whistle' } as unknown as Parameters<typeof groups.saveCustomInstrument>[1];
  await groups.saveCustomInstrument(studio, custom, now);
  await groups.customInstruments(studio);
  await groups.removeCustomInstrument(studio, 'own-1', now);
  await handouts.addHandout(studio, {
    id: 'h1',
    hash: hash('a'),
    for: { pupil: 'pell' },
    choice: {},
    date: '2030-05-02',
    madeAt: now,
    endsAt: later,
  });
  await handouts.openHandouts(studio, { pupil: 'pell' }, now);
  await handouts.findHandout(studio, 'h1');
  await handouts.noteHandoutUsed(studio, 'h1', now);
  await pupilLinks.renewPupilLink(studio, 'pell', { hash: hash('b'), endsAt: later }, now);
  await pupilLinks.openPupilLink(studio, 'pell', now);
  await pupilLinks.notePupilLinkUsed(studio, hash('b'), now);
  await accounts.pupilOfLink(hash('b'), now);
  await accounts.handoutOfLink(hash('a'), now);
  await people.addPerson(accounts, { id: 'maren', email: 'maren@loft.example', name: 'Maren', password: 'x' }, now);
  await people.personByEmail(accounts, 'maren@loft.example');
  await people.personById(accounts, 'maren');
  await people.setPassword(accounts, 'maren', 'y');
  await people.setCodeSecret(accounts, 'maren', 'secret', [hash('c')]);
  await people.takeCode(accounts, 'maren', 5);
  await people.countRecoveryCodes(accounts, 'maren');
  await people.takeRecoveryCode(accounts, 'maren', hash('c'));
  await people.peopleNamed(accounts, ['maren']);
  await members.addMember(studio, 'maren', 'owner', now);
  await members.membersOf(studio);
  await members.setRole(studio, 'maren', 'teacher');
  await members.adoptWorks(studio, 'maren');
  await accounts.memberships('maren');
  await accounts.hasOwner();
  await sessions.addSession(
    accounts,
    { tokenHash: hash('d'), id: 's1', person: 'maren', studio: 'older', device: 'desk', endsAt: later },
    now,
  );
  await accounts.session(hash('d'), now);
  await sessions.touchSession(accounts, 's1', later, now);
  await sessions.devicesOf(accounts, 'maren', now);
  await sessions.endSession(accounts, 'maren', 's1');
  await links.addOneTimeLink(accounts, hash('e'), {
    id: 'l1',
    kind: 'invite',
    studio: 'older',
    role: 'guest',
    email: 'finn@loft.example',
    madeAt: now,
    endsAt: later,
  });
  await links.openOneTimeLink(accounts, hash('e'), now);
  await links.openInvitations(accounts, 'older', now);
  await links.useUpOneTimeLink(accounts, hash('e'), now);
  await audit.addAudit(studio, { id: 'a1', at: now, person: 'maren', what: 'invited', about: 'finn' });
  await audit.auditOf(studio);
  await tunes.removeTune(studio, 'rope', now);
  await bin.binOf(studio);
  await bin.countBin(studio);
  await bin.restoreFromBin(studio, 'tune', 'rope');
  await bin.forgetPlayerName(studio, 'Wick', now);
  await studios.bytesOfStudio(studio);
  await handouts.endHandout(studio, 'h1', now);
  await pupilLinks.endPupilLinks(studio, 'pell', now);
  await pupils.deletePupil(studio, 'wick', now);
  await studios.deleteStudio(studio);
}

interface Answered {
  readonly sql: string;
  readonly bindings?: readonly unknown[];
  /** As the driver gives it: rows or a report, and the columns. */
  readonly response: readonly [unknown, unknown];
}

/** Writes down what this program says. */
async function writeDown(file: string): Promise<void> {
  const { knex, end } = await ownDatabase('said');
  await migrate(knex);
  const said: Said[] = [];
  knex.on('query-response', (_: unknown, { sql, bindings, response }: Answered) => {
    if (!/^(select|insert|update|delete)/i.test(sql)) return;
    const written = (bindings ?? []).map((one) => (one instanceof Date ? { date: one.toISOString() } : one));
    said.push({ sql, bindings: written, much: howMuch(response[0]) });
  });
  await aDay(knex);
  await end();
  writeFileSync(file, `${JSON.stringify({ tables: MIGRATION_NAMES.at(-1), said }, undefined, 1)}\n`);
}

const [, program, file] = process.argv;
if (program?.endsWith('everyStatement.ts') && file !== undefined)
  void writeDown(file).catch((error: unknown) => {
    process.stderr.write(`${String(error)}\n`);
    process.exitCode = 1;
  });
