import { connect } from './connect';
import { migrate, migrateDown, migrateUp, migrationsDone, MIGRATION_NAMES } from './migrate';

/** `npm run migrate -- status|latest|up|down`; run by a script that knows where the database is. */
async function command(wanted: string): Promise<string> {
  const knex = connect(process.env['DATABASE_URL'] ?? '');
  try {
    if (wanted === 'latest') await migrate(knex);
    else if (wanted === 'up') await migrateUp(knex);
    else if (wanted === 'down') await migrateDown(knex);
    else if (wanted !== 'status')
      throw new Error(`There is no "${wanted.slice(0, 40)}": use status, latest, up or down.`);
    const done = new Set(await migrationsDone(knex));
    return MIGRATION_NAMES.map((name) => `${done.has(name) ? 'made ' : 'to do'} ${name}`).join('\n');
  } finally {
    await knex.destroy();
  }
}

try {
  process.stdout.write(`${await command(process.argv[2] ?? 'status')}\n`);
} catch (error) {
  process.stderr.write(`${error instanceof Error ? error.message.slice(0, 500) : String(error)}\n`);
  process.exitCode = 1;
}
