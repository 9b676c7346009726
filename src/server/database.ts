import type { Knex } from 'knex';
import { accountsDatabase, type AccountsDatabase } from '../db/accountsDatabase';
import { databaseAddress } from '../db/address';
import { connect } from '../db/connect';
import { askToForget, forgettings } from '../db/forgettings';
import { forgetOldLimits, limitCounter, type LimitCounter, type LimitSize } from '../db/limits';
import { forgetOldReceipts, writingMark } from '../db/repeat';
import { type Seeing, studioDatabase, type StudioDatabase } from '../db/studioDatabase';
import { currentlyAsked, type Sight } from './accounts/asking';

/** No statement of the program takes a second; one that runs away is ended, and whoever asked comes again. */
const STATEMENT_SECONDS = 10;

/** One pool a process. Kept on the global object, since the development server loads modules anew on every change. */
const holder = globalThis as typeof globalThis & { reedHookPool?: Knex };

function databaseUrl(): string {
  const url = process.env['DATABASE_URL'];
  if (!url) throw new Error('DATABASE_URL is not set: start the program with npm start');
  return url;
}

function pool(): Knex {
  return (holder.reedHookPool ??= connect(databaseUrl(), { statementSeconds: STATEMENT_SECONDS }));
}

/** Ends the pool, so that a script can end; nothing happens where there is none. */
export async function closePool(): Promise<void> {
  await holder.reedHookPool?.destroy();
  delete holder.reedHookPool;
}

/** The tables as whoever asks may see them. @throws Error where nobody is signed in */
export function currentStudio(): StudioDatabase {
  const { asking } = currentlyAsked();
  switch (asking.kind) {
    case 'alone':
      return studioDatabase(pool(), asking.studio);
    case 'pupil':
    case 'handout':
      return studioDatabase(pool(), asking.studio, asking.maker && seeing(asking.maker));
    case 'person':
      return studioDatabase(pool(), asking.studio, seeing(asking));
    case 'nobody':
      throw new Error('nobody is signed in');
  }
}

const seeing = ({ person, role, settings }: Sight): Seeing => ({
  person,
  allPupils: role === 'owner',
  ownWorksOnly: role === 'teacher' && settings.ownWorksOnly,
});

/** A studio as the program itself sees it, outside of a request: set-up, and what is done by night. */
export function programStudio(id: string): StudioDatabase {
  return studioDatabase(pool(), id);
}

/** People, sessions and links: what belongs to no studio. */
export function accounts(): AccountsDatabase {
  return accountsDatabase(pool());
}

/** A counter in the database. @param name of ASCII letters and dashes */
export function counter(name: string, size: LimitSize): LimitCounter {
  return limitCounter(pool(), databaseAddress(databaseUrl()).database, name, size);
}

/** What has run out of being counted is forgotten. */
export function tidyLimits(now: Date): Promise<void> {
  return forgetOldLimits(pool(), now.getTime());
}

/** A number that is another one whenever any process has written something since. */
export function currentMark(): Promise<string> {
  return writingMark(pool());
}

/** Receipts that nobody asks for any more go. */
export function tidyReceipts(now: Date): Promise<void> {
  return forgetOldReceipts(pool(), now);
}

/** Every process is to forget what it has made, since somebody's name may be in it. @returns the wish's id */
export function wishToForget(now: Date): Promise<string> {
  return askToForget(pool(), now);
}

/** Ids of what is to be forgotten. */
export function wishesToForget(): Promise<readonly string[]> {
  return forgettings(pool());
}
