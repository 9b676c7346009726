import type { Knex } from 'knex';

const ID = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
const HASH = 'CHAR(64) CHARACTER SET ascii COLLATE ascii_bin';

/**
 * People with accounts, their sessions, the links that are used once, pupils' links, what was done by whom, and what is
 * counted against limits. Of a token only its hash is stored. Every step may be made twice.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(
    `CREATE TABLE IF NOT EXISTS people (
      person_id ${ID} NOT NULL PRIMARY KEY,
      email VARCHAR(254) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL, name VARCHAR(100) NOT NULL,
      password VARCHAR(200) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
      code_secret VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin, code_last BIGINT,
      created_at DATETIME(3) NOT NULL,
      UNIQUE INDEX people_email (email))`,
  );
  await knex.raw(
    `CREATE TABLE IF NOT EXISTS recovery_codes (
      person_id ${ID} NOT NULL, code_hash ${HASH} NOT NULL,
      PRIMARY KEY (person_id, code_hash),
      CONSTRAINT recovery_codes_person_foreign FOREIGN KEY (person_id) REFERENCES people (person_id) ON DELETE CASCADE)`,
  );
  await knex.raw(
    `CREATE TABLE IF NOT EXISTS members (
      studio_id ${ID} NOT NULL, person_id ${ID} NOT NULL,
      role VARCHAR(10) CHARACTER SET ascii COLLATE ascii_bin NOT NULL, since DATETIME(3) NOT NULL,
      PRIMARY KEY (studio_id, person_id), INDEX members_person (person_id),
      CONSTRAINT members_studio_foreign FOREIGN KEY (studio_id) REFERENCES studios (studio_id),
      CONSTRAINT members_person_foreign FOREIGN KEY (person_id) REFERENCES people (person_id) ON DELETE CASCADE)`,
  );
  await knex.raw(
    `CREATE TABLE IF NOT EXISTS sessions (
      token_hash ${HASH} NOT NULL PRIMARY KEY, session_id ${ID} NOT NULL,
      person_id ${ID} NOT NULL, studio_id ${ID} NOT NULL, device VARCHAR(200) NOT NULL,
      made_at DATETIME(3) NOT NULL, seen_at DATETIME(3) NOT NULL, ends_at DATETIME(3) NOT NULL,
      INDEX sessions_person (person_id), INDEX sessions_end (ends_at),
      CONSTRAINT sessions_person_foreign FOREIGN KEY (person_id) REFERENCES people (person_id) ON DELETE CASCADE)`,
  );
  await knex.raw(
    `CREATE TABLE IF NOT EXISTS one_time_links (
      link_hash ${HASH} NOT NULL PRIMARY KEY, link_id ${ID} NOT NULL,
      kind VARCHAR(10) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
      studio_id ${ID} NOT NULL, role VARCHAR(10) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
      email VARCHAR(254) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL, person_id ${ID},
      made_at DATETIME(3) NOT NULL, ends_at DATETIME(3) NOT NULL, used_at DATETIME(3),
      INDEX one_time_studio (studio_id, kind))`,
  );
  await knex.raw(
    `CREATE TABLE IF NOT EXISTS pupil_links (
      link_hash ${HASH} NOT NULL PRIMARY KEY, studio_id ${ID} NOT NULL, pupil_id ${ID} NOT NULL,
      made_at DATETIME(3) NOT NULL, ends_at DATETIME(3) NOT NULL, ended_at DATETIME(3), seen_at DATETIME(3),
      INDEX links_of_pupil (studio_id, pupil_id),
      CONSTRAINT pupil_links_foreign FOREIGN KEY (studio_id, pupil_id)
        REFERENCES pupils (studio_id, pupil_id) ON DELETE CASCADE)`,
  );
  await knex.raw(
    `CREATE TABLE IF NOT EXISTS audit (
      studio_id ${ID} NOT NULL, audit_id ${ID} NOT NULL, at DATETIME(3) NOT NULL,
      person_id ${ID}, what VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL, about VARCHAR(300) NOT NULL,
      PRIMARY KEY (studio_id, audit_id), INDEX audit_by_time (studio_id, at),
      CONSTRAINT audit_studio_foreign FOREIGN KEY (studio_id) REFERENCES studios (studio_id))`,
  );
  // The columns are those that the counting package asks for.
  await knex.raw(
    `CREATE TABLE IF NOT EXISTS limits (
      \`key\` VARCHAR(255) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
      points INT NOT NULL DEFAULT 0, expire BIGINT UNSIGNED)`,
  );
  await knex.raw(`ALTER TABLE studios ADD COLUMN IF NOT EXISTS settings JSON`);
  for (const table of MADE_BY_SOMEBODY) await knex.raw(`ALTER TABLE ${table} ADD COLUMN IF NOT EXISTS made_by ${ID}`);
}

const MADE_BY_SOMEBODY = ['tunes', 'player_groups', 'pupils'];

export async function down(knex: Knex): Promise<void> {
  for (const table of MADE_BY_SOMEBODY) await knex.raw(`ALTER TABLE ${table} DROP COLUMN IF EXISTS made_by`);
  await knex.raw(`ALTER TABLE studios DROP COLUMN IF EXISTS settings`);
  for (const table of [
    'limits',
    'audit',
    'pupil_links',
    'one_time_links',
    'sessions',
    'members',
    'recovery_codes',
    'people',
  ])
    await knex.schema.dropTableIfExists(table);
}
