// `npm start`: all the set-up, then the program on 127.0.0.1. Ctrl-C ends everything that was started here.
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { ensureBuild } from './setup/build.mjs';
import { commandLine, ensureMariaDbPackages, startMariaDb } from './setup/mariadb.mjs';
import { ensureNpmPackages } from './setup/packages.mjs';
import { freePort } from './setup/ports.mjs';
import { ensureSoundBank } from './setup/sounds.mjs';
import { endProcess, inProject, isAlive, run, say, stopWith } from './setup/project.mjs';
import { prepareCommand, startWeb, webAnswers } from './setup/web.mjs';

const dev = process.argv.includes('--dev');
const folder = resolve(process.env.REED_DATA ?? inProject('.data'));
const stateFile = join(folder, 'running.json');

const wanted = portWanted();
mkdirSync(folder, { recursive: true });
const before = existsSync(stateFile) ? readState() : undefined;
if (before?.pid && isAlive(before.pid) && commandLine(before.pid).includes('start.mjs')) {
  say(`Reed Hook is running already: http://127.0.0.1:${before.port}`);
  process.exit(0);
}
// A start that was killed leaves its web process behind; the database script looks after its own.
if (before?.web && isAlive(before.web) && commandLine(before.web).includes('next')) await endProcess(before.web);

ensureNpmPackages();
if (!process.env.DATABASE_URL) ensureMariaDbPackages();
ensureSoundBank({ optional: true });
if (!dev) ensureBuild();

let database = process.env.DATABASE_URL ? undefined : await startMariaDb(folder, 3320);
let web;
let ending = false;
process.on('SIGINT', () => end(0));
process.on('SIGTERM', () => end(0));
process.on('SIGHUP', () => end(0));

const url = process.env.DATABASE_URL ?? database.url;
const prepared = run(process.execPath, prepareCommand, { env: { DATABASE_URL: url }, allowFailure: true });
if (prepared.status !== 0) {
  process.stderr.write(`${prepared.output}\nThe database could not be brought up to date.\n`);
  await end(1);
}
const port = await freePort(wanted);
remember();
if (database) watchDatabase();
await serve();
say(`Reed Hook is ready: http://127.0.0.1:${port}`);

function portWanted() {
  const text = process.env.PORT ?? '3210';
  const number = Number(text);
  if (!Number.isInteger(number) || number < 1 || number > 65_000)
    stopWith(`PORT=${text} is no port: use a number from 1 to 65000.`);
  return number;
}

function readState() {
  try {
    return JSON.parse(readFileSync(stateFile, 'utf8'));
  } catch (error) {
    // A start that was killed while writing leaves half a line; there is nothing in it that is needed.
    if (error instanceof SyntaxError) return undefined;
    throw error;
  }
}

function remember() {
  writeFileSync(stateFile, JSON.stringify({ pid: process.pid, port, web: web?.pid }));
}

/** Starts the web process and starts it again should it ever end by itself. */
async function serve() {
  web = startWeb({ port, databaseUrl: url, dev });
  remember();
  web.on('exit', () => {
    if (!ending) setTimeout(() => void serve(), 500);
  });
  if (!(await webAnswers(web, port)) && !ending) say('The web process does not answer yet; trying again.');
}

/** Starts the database again, on the port the web process knows, should it end by itself. */
function watchDatabase() {
  database.process.on('exit', async () => {
    if (ending) return;
    say('The database has stopped; starting it again.');
    database = await startMariaDb(folder, database.port);
    watchDatabase();
  });
}

async function end(status) {
  if (ending) return;
  ending = true;
  if (web) await endProcess(web.pid);
  if (database) await database.stop();
  rmSync(stateFile, { force: true });
  process.exit(status);
}
