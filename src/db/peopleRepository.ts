import type { AccountsDatabase } from './accountsDatabase';

/** Somebody with an account. */
export interface Person {
  readonly id: string;
  /** In lower case. */
  readonly email: string;
  readonly name: string;
  /** As the hashing package writes it, with its own parameters. */
  readonly password: string;
  /** The secret of the one-time codes, where a second factor is set up. */
  readonly codeSecret?: string;
  /** The step of time of the code that was last taken: none is taken twice. */
  readonly codeLast?: number;
}

interface PersonRow {
  person_id: string;
  email: string;
  name: string;
  password: string;
  code_secret: string | null;
  code_last: number | null;
}

function personOf(row: PersonRow | undefined): Person | undefined {
  return (
    row && {
      id: row.person_id,
      email: row.email,
      name: row.name,
      password: row.password,
      ...(row.code_secret !== null && { codeSecret: row.code_secret }),
      ...(row.code_last !== null && { codeLast: Number(row.code_last) }),
    }
  );
}

export async function personByEmail(accounts: AccountsDatabase, email: string): Promise<Person | undefined> {
  return personOf((await accounts.from('people').where('email', email).first()) as PersonRow | undefined);
}

export async function personById(accounts: AccountsDatabase, id: string): Promise<Person | undefined> {
  return personOf((await accounts.from('people').where('person_id', id).first()) as PersonRow | undefined);
}

export async function addPerson(
  accounts: AccountsDatabase,
  { id, email, name, password }: Pick<Person, 'id' | 'email' | 'name' | 'password'>,
  now: Date,
): Promise<void> {
  await accounts.insert('people', { person_id: id, email, name, password, created_at: now });
}

export async function setPassword(accounts: AccountsDatabase, person: string, password: string): Promise<void> {
  await accounts.from('people').where('person_id', person).update({ password });
}

/** Sets up the second factor, or takes it away; the recovery codes are new with it. */
export async function setCodeSecret(
  accounts: AccountsDatabase,
  person: string,
  secret: string | null,
  recoveryHashes: readonly string[],
): Promise<void> {
  await accounts.from('people').where('person_id', person).update({ code_secret: secret, code_last: null });
  await accounts.from('recovery_codes').where('person_id', person).delete();
  if (recoveryHashes.length > 0)
    await accounts.insert(
      'recovery_codes',
      recoveryHashes.map((code_hash) => ({ person_id: person, code_hash })),
    );
}

/** Notes that the code of a step of time was taken. False where it, or a later one, was taken before. */
export async function takeCode(accounts: AccountsDatabase, person: string, step: number): Promise<boolean> {
  const taken = await accounts
    .from('people')
    .where('person_id', person)
    .where((query) => query.whereNull('code_last').orWhere('code_last', '<', step))
    .update({ code_last: step });
  return Number(taken) > 0;
}

/** Takes a recovery code, once. */
export async function takeRecoveryCode(accounts: AccountsDatabase, person: string, hash: string): Promise<boolean> {
  return Number(await accounts.from('recovery_codes').where({ person_id: person, code_hash: hash }).delete()) > 0;
}

export async function countRecoveryCodes(accounts: AccountsDatabase, person: string): Promise<number> {
  const row = (await accounts.from('recovery_codes').where('person_id', person).count({ rows: '*' }).first()) as
    { readonly rows: number | string } | undefined;
  return Number(row?.rows ?? 0);
}

/** Some people by their ids, as others of a studio may see them. */
export async function peopleNamed(
  accounts: AccountsDatabase,
  ids: readonly string[],
): Promise<ReadonlyMap<string, Pick<Person, 'name' | 'email'> & { readonly hasSecondFactor: boolean }>> {
  if (ids.length === 0) return new Map();
  const rows = (await accounts
    .from('people')
    .whereIn('person_id', [...new Set(ids)])
    .select('person_id', 'name', 'email', 'code_secret')) as PersonRow[];
  return new Map(
    rows.map(({ person_id, name, email, code_secret }) => [
      person_id,
      { name, email, hasSecondFactor: code_secret !== null },
    ]),
  );
}
