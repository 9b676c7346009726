// `npm run restore FILE`: puts a backup in place of what is there. What was there is backed up first.
import { existsSync, mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { backUp, backupName, checkBackup, loadBackup } from './setup/backups.mjs';
import { ensureMariaDbPackages, runningSocket, startMariaDb } from './setup/mariadb.mjs';
import { inProject, run, say, stopWith } from './setup/project.mjs';
import { prepareCommand } from './setup/web.mjs';

const folder = resolve(process.env.REED_DATA ?? inProject('.data'));
const file = process.argv[2];
if (!file) stopWith('Which backup? npm run restore FILE');
if (!existsSync(file)) stopWith(`There is no file ${file}.`);
try {
  await checkBackup(file);
} catch (error) {
  stopWith(`${file} is no whole backup: ${error.message}. Nothing was changed.`);
}
ensureMariaDbPackages();
if (runningSocket(folder)) stopWith('Reed Hook is running: end it first (Ctrl-C), then restore. Nothing was changed.');
const place = join(folder, 'backups');
mkdirSync(place, { recursive: true, mode: 0o700 });
const safe = join(place, `before-restore-${backupName()}`);
const database = await startMariaDb(folder);
let trouble;
try {
  // An older backup is brought up to date; a new folder has its tables first.
  run(process.execPath, prepareCommand, { env: { DATABASE_URL: database.setupUrl } });
  await backUp(folder, database.socket, safe);
  try {
    await loadBackup(folder, database.socket, resolve(file));
    run(process.execPath, prepareCommand, { env: { DATABASE_URL: database.setupUrl } });
  } catch (error) {
    await loadBackup(folder, database.socket, safe);
    trouble = `The backup could not be loaded: ${error.message}\nWhat was there before is there again.`;
  }
} catch (error) {
  trouble = error.message;
} finally {
  await database.stop();
}
if (trouble) stopWith(trouble);
say(`Restored from ${file}. What was there before is in ${safe}.`);
