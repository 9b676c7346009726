import { migrate } from '../db/migrate';
import { addGroup } from '../db/groupRepository';
import { addPupil } from '../db/pupilRepository';
import { addEntries } from '../db/practiceLogRepository';
import { MAX_SENT_ENTRIES } from '../core/formats';
import { ensureStudio } from '../db/studioRepository';
import { addWork, documentsOf } from '../db/tuneRepository';
import { DEMO_LICKS } from '../demo/licks';
import { DEMO_DRILLS, DEMO_GROUPS, DEMO_STUDIO_NAME, DEMO_TUNES } from '../demo/studio';
import { connect } from '../db/connect';
import { FIRST_STUDIO, hasAccounts } from './accounts/asking';
import { firstOwnersLink } from './accounts/invitations';
import { accounts, closePool, programStudio } from './database';
import { faultOf } from './fault';
import { demoPupils, withDemoPupils } from './demoPupils';
import { calendarToday } from './pupils';
import { demoDrill, demoLick, demoGroup, demoWork } from './demoStudio';

/** Brings the database up to date and, the first time, puts the demo tunes on the shelf. Run by the start command. */
async function prepare(): Promise<void> {
  await migrateApart();
  // Where a school has done away with the studio it began with, no other takes its place.
  if (hasAccounts() && (await accounts().hasOwner())) return;
  // All or nothing: a start that is broken off here finds no studio the next time and begins again.
  await programStudio(FIRST_STUDIO).transaction(async (studio) => {
    if (!(await ensureStudio(studio, DEMO_STUDIO_NAME))) return;
    const pupils = demoPupils(calendarToday());
    for (const { id, pupil, log } of pupils) {
      await addPupil(studio, id, pupil, new Date());
      for (let k = 0; k < log.length; k += MAX_SENT_ENTRIES)
        await addEntries(studio, id, log.slice(k, k + MAX_SENT_ENTRIES), new Date());
    }
    for (const [index, group] of DEMO_GROUPS.entries())
      await addGroup(
        studio,
        `demo-${index + 1}`,
        withDemoPupils(demoGroup(group), pupils),
        new Date(Date.now() + index),
      );
    for (const demo of DEMO_TUNES) await addWork(studio, demo.slug, documentsOf(demoWork(demo)), new Date());
    for (const demo of DEMO_LICKS) await addWork(studio, demo.slug, documentsOf(demoLick(demo)), new Date());
    for (const demo of DEMO_DRILLS) await addWork(studio, demo.slug, documentsOf(demoDrill(demo)), new Date());
  });
}

/** Changes of tables may take as long as they need: the program's own connections end a statement after seconds. */
async function migrateApart(): Promise<void> {
  const knex = connect(process.env['DATABASE_URL'] ?? '');
  try {
    await migrate(knex);
  } finally {
    await knex.destroy();
  }
}

try {
  await prepare();
  const welcome = hasAccounts() ? await firstOwnersLink(new Date()) : undefined;
  // Whoever starts the program reads it there: it is in no log.
  if (welcome !== undefined) process.stdout.write(`first owner: ${welcome}\n`);
} catch (error) {
  // Run by a script: one line says what is wrong, the trace would only hide it.
  const { error: what, code, table } = faultOf(error);
  process.stderr.write(`${[what, code, table && `table ${table}`].filter(Boolean).join(', ')}\n`);
  process.exitCode = 1;
} finally {
  await closePool();
}
