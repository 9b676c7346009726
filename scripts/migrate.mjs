// `npm run migrate -- status|latest|up|down`: the shape of the tables. `down` takes the last migration back; what only
// the newer shape can hold is lost with it, so make a backup first.
import { resolve } from 'node:path';
import { ensureMariaDbPackages, runningSocket, startMariaDb } from './setup/mariadb.mjs';
import { inProject, run, say, stopWith } from './setup/project.mjs';

const folder = resolve(process.env.REED_DATA ?? inProject('.data'));
const wanted = process.argv[2] ?? 'status';
if (!process.env.DATABASE_URL && runningSocket(folder))
  stopWith('Reed Hook is running: end it first (Ctrl-C). Nothing was changed.');
if (!process.env.DATABASE_URL) ensureMariaDbPackages();
const database = process.env.DATABASE_URL ? undefined : await startMariaDb(folder);
const { status, output } = run(
  process.execPath,
  ['--import', 'tsx', inProject('src', 'db', 'migrateCommand.ts'), wanted],
  { env: { DATABASE_URL: process.env.DATABASE_URL || database?.setupUrl }, allowFailure: true },
);
await database?.stop();
say(output.trim());
process.exit(status);
