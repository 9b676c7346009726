// `npm run backup [FILE]`: a backup of everything, whether the program runs or not.
import { mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { backUp, backupName } from './setup/backups.mjs';
import { ensureMariaDbPackages, runningSocket, startMariaDb } from './setup/mariadb.mjs';
import { inProject, say, stopWith } from './setup/project.mjs';

const folder = resolve(process.env.REED_DATA ?? inProject('.data'));
const place = join(folder, 'backups');
mkdirSync(place, { recursive: true, mode: 0o700 });
const file = resolve(process.argv[2] ?? join(place, backupName()));
ensureMariaDbPackages();
const socket = runningSocket(folder);
const own = socket ? undefined : await startMariaDb(folder);
let trouble;
try {
  await backUp(folder, socket ?? own.socket, file);
} catch (error) {
  trouble = error.message;
} finally {
  await own?.stop();
}
if (trouble) stopWith(trouble);
say(`Backup written and checked: ${file}`);
