import { randomBytes } from 'node:crypto';
import type { Knex } from 'knex';

/** A wish that every process forget what it has made; it is kept for good, since a machine may be away for long. */
export async function askToForget(knex: Knex, now: Date): Promise<string> {
  const id = randomBytes(16).toString('hex');
  await knex('forgettings').insert({ forgetting_id: id, asked_at: now });
  return id;
}

/** Ids of all such wishes. */
export async function forgettings(knex: Knex): Promise<readonly string[]> {
  return (await knex('forgettings').pluck('forgetting_id')) as string[];
}
