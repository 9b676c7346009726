import type { Knex } from 'knex';

const ID = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
const HASH = 'CHAR(64) CHARACTER SET ascii COLLATE ascii_bin';

/**
 * Packs that were handed out by a link: what each holds, and for whom. Of the link only a hash is stored. Either a pupil
 * or a group is named; a group that is gone leaves a link that opens nothing.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(
    `CREATE TABLE IF NOT EXISTS handouts (
      studio_id ${ID} NOT NULL, handout_id ${ID} NOT NULL, link_hash ${HASH} NOT NULL,
      pupil_id ${ID}, group_id ${ID}, choice JSON NOT NULL,
      for_date CHAR(10) CHARACTER SET ascii COLLATE ascii_bin NOT NULL, made_by ${ID},
      made_at DATETIME(3) NOT NULL, ends_at DATETIME(3) NOT NULL, ended_at DATETIME(3), seen_at DATETIME(3),
      PRIMARY KEY (studio_id, handout_id), UNIQUE INDEX handouts_link (link_hash),
      INDEX handouts_pupil (studio_id, pupil_id), INDEX handouts_group (studio_id, group_id),
      CONSTRAINT handouts_pupil_foreign FOREIGN KEY (studio_id, pupil_id)
        REFERENCES pupils (studio_id, pupil_id) ON DELETE CASCADE)`,
  );
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTableIfExists('handouts');
}
