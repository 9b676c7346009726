import { startMariaDb } from './scripts/setup/mariadb.mjs';
import { spawnSync } from 'node:child_process';
const db = await startMariaDb('/tmp/itdb');
const done = spawnSync('npx', ['jest','--forceExit','--runInBand', ...process.argv.slice(2)], { env: { ...process.env, DATABASE_URL: db.setupUrl, NODE_ENV: 'test' }, encoding: 'utf8' });
process.stdout.write(done.stdout.slice(-3000) + done.stderr.slice(0, 14000));
await db.stop(); process.exit(done.status ?? 1);
