import { createHash } from 'node:crypto';
import type { Knex } from 'knex';

const ID = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';

/**
 * Pupils as people of their own, and the practice log. The players of groups become pupils, one each: who is the same
 * person in two groups is for the teacher to say. Every step may be made twice.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(
    `CREATE TABLE IF NOT EXISTS pupils (
      studio_id ${ID} NOT NULL, pupil_id ${ID} NOT NULL,
      name VARCHAR(200) NOT NULL, version INT UNSIGNED NOT NULL, document JSON NOT NULL,
      created_at DATETIME(3) NOT NULL, updated_at DATETIME(3) NOT NULL,
      removed_at DATETIME(3), bin_until DATETIME(3),
      PRIMARY KEY (studio_id, pupil_id),
      CONSTRAINT pupils_studio_id_foreign FOREIGN KEY (studio_id) REFERENCES studios (studio_id))`,
  );
  // A day is a date of the calendar, not a moment: text keeps it from every time zone on the way.
  await knex.raw(
    `CREATE TABLE IF NOT EXISTS practice_log (
      studio_id ${ID} NOT NULL, pupil_id ${ID} NOT NULL, entry_id ${ID} NOT NULL,
      on_date CHAR(10) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
      work_id ${ID} NOT NULL, step VARCHAR(80) NOT NULL,
      minutes SMALLINT UNSIGNED NOT NULL, tempo DECIMAL(6,2),
      good SMALLINT UNSIGNED NOT NULL, again SMALLINT UNSIGNED NOT NULL,
      by_whom VARCHAR(10) CHARACTER SET ascii COLLATE ascii_bin NOT NULL, note VARCHAR(500) NOT NULL,
      written_at DATETIME(3) NOT NULL,
      PRIMARY KEY (studio_id, pupil_id, entry_id),
      INDEX log_by_date (studio_id, pupil_id, on_date),
      CONSTRAINT practice_log_pupil_foreign FOREIGN KEY (studio_id, pupil_id)
        REFERENCES pupils (studio_id, pupil_id) ON DELETE CASCADE)`,
  );
  await playersBecomePupils(knex);
}

interface Player {
  readonly id?: unknown;
  readonly name?: unknown;
  readonly pupil?: unknown;
}

async function playersBecomePupils(knex: Knex): Promise<void> {
  const rows = (await knex('player_groups').select('studio_id', 'group_id', 'document')) as {
    studio_id: string;
    group_id: string;
    document: string;
  }[];
  for (const { studio_id, group_id, document } of rows) {
    const group = parsed(document);
    if (!Array.isArray(group?.players)) continue;
    const now = new Date();
    const pupils: { readonly pupil_id: string; readonly name: string; readonly document: string }[] = [];
    const players = group.players.map((player: Player) => {
      if (typeof player.name !== 'string' || player.name.trim() === '' || player.pupil !== undefined) return player;
      const { id, name, ...rest } = player;
      const pupil_id = `p-${createHash('sha256')
        .update(`${studio_id}/${group_id}/${String(id)}`)
        .digest('hex')
        .slice(0, 20)}`;
      pupils.push({ pupil_id, name: name.trim(), document: JSON.stringify(asPupil(name.trim(), rest)) });
      return { ...player, pupil: pupil_id, playing: 'a' };
    });
    if (pupils.length === 0) continue;
    await knex.transaction(async (inside) => {
      for (const row of pupils)
        await inside('pupils')
          .insert({ ...row, studio_id, version: 1, created_at: now, updated_at: now })
          .onConflict(['studio_id', 'pupil_id'])
          .ignore();
      await inside('player_groups')
        .where({ studio_id, group_id })
        .update({ document: JSON.stringify({ ...group, players }) })
        .increment('version', 1);
    });
  }
}

/** As pupils were when this was written. */
function asPupil(name: string, playing: object) {
  return {
    name,
    playing: [{ ...playing, id: 'a' }],
    practice: {},
    off: [],
    school: 'mastered',
    work: [],
    pins: [],
    lessons: [],
  };
}

function parsed(document: string): { readonly players?: unknown } | undefined {
  try {
    return JSON.parse(document) as { readonly players?: unknown };
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    return undefined;
  }
}

export async function down(knex: Knex): Promise<void> {
  for (const table of ['practice_log', 'pupils']) await knex.schema.dropTableIfExists(table);
}
