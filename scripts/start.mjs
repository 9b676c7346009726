// `npm start`: all the set-up, then the program on 127.0.0.1. Ctrl-C ends everything that was started here.
import { chmodSync, existsSync, lstatSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { keepDailyBackups } from './setup/backups.mjs';
import { ensureBuild } from './setup/build.mjs';
import { commandLine, ensureMariaDbPackages, makeFolder } from './setup/mariadb.mjs';
import { ensureNpmPackages } from './setup/packages.mjs';
import { addressesOf, listening } from './setup/origin.mjs';
import { freePort } from './setup/ports.mjs';
import { ensureSoundBank } from './setup/sounds.mjs';
import { ensureTextFonts } from './setup/fonts.mjs';
import { endProcess, inProject, isAlive, run, say, stopWith } from './setup/project.mjs';
import { supervisor } from './setup/supervisor.mjs';
import { prepareCommand } from './setup/web.mjs';

const dev = process.argv.includes('--dev');
const folder = resolve(process.env.REED_DATA ?? inProject('.data'));
const stateFile = join(folder, 'running.json');
/** A database of somebody else's; then none is started here. */
const givenDatabase = process.env.DATABASE_URL || undefined;

const MAX_TRIES = 5;
const MOST_WEB = 64;
const wanted = portWanted();
const { bind, origin } = listeningOrStop();
const web = webWanted();
ensureWritable();
const before = existsSync(stateFile) ? readState() : undefined;
if (before?.pid && isAlive(before.pid) && commandLine(before.pid).includes('start.mjs')) {
  say(`Reed Hook is running already: http://127.0.0.1:${before.port}`);
  process.exit(0);
}
// A start that was killed may leave web processes behind; the database script looks after its own.
for (const pid of [before?.web ?? []].flat())
  if (isAlive(pid) && commandLine(pid).includes('serve.mjs')) await endProcess(pid);

ensureNpmPackages();
if (!givenDatabase) ensureMariaDbPackages();
ensureSoundBank({ optional: true });
ensureTextFonts({ optional: true });
if (!dev) ensureBuild();

// The checkout is anybody's to read; from here on what is written holds the studio's data, and is its owner's alone.
process.umask(0o077);
keepPrivate(join(folder, 'cache'));
const port = await freePort(wanted);
const running = supervisor({
  folder,
  addresses: addressesOf(bind),
  port,
  web,
  cache: join(folder, 'cache'),
  dev,
  databaseUrl: givenDatabase,
  onChange: remember,
});
let ending = false;
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void end(0));
// The program was replaced by a newer one that needs no other tables, or its web processes are to begin anew.
process.on('SIGUSR2', () => void running.renew());

remember();
if (!givenDatabase) await running.startDatabase();
const setupUrl = givenDatabase ?? running.database?.setupUrl;
// Messages that no mail server takes lie with the studio's data.
process.env.REED_OUTBOX ??= join(folder, 'outbox');
const welcome = await prepare();
await running.serve();
if (process.env.REED_BACKUP === 'daily' && !givenDatabase) keepDailyBackups(folder, () => running.database);
say(`Reed Hook is ready: ${origin ?? `http://127.0.0.1:${port}`}`);
if (welcome) say(`There is no account yet. Whoever opens this address first, within a day, is the owner:\n${welcome}`);

/** Told before anything is begun: what can be reached by others without signing in is not started. */
function listeningOrStop() {
  try {
    return listening();
  } catch (error) {
    return stopWith(error.message);
  }
}

/** Brings the tables up to date; again where the database was lost over it, since that is started anew meanwhile. */
async function prepare() {
  for (let tries = 1; ; tries += 1) {
    const { status, output } = run(process.execPath, prepareCommand, {
      env: { DATABASE_URL: setupUrl },
      allowFailure: true,
    });
    if (status === 0) return /^first owner: (\S+)$/m.exec(output)?.[1];
    if (tries === MAX_TRIES) {
      process.stderr.write(`${output}\nThe database could not be brought up to date.\n`);
      return end(1);
    }
    await new Promise((again) => setTimeout(again, 1_000 * tries));
  }
}

function portWanted() {
  const text = process.env.PORT ?? '3210';
  const number = Number(text);
  if (!Number.isInteger(number) || number < 1 || number > 65_000)
    stopWith(`PORT=${text} is no port: use a number from 1 to 65000.`);
  return number;
}

/** How many web processes answer: `REED_WEB`. */
function webWanted() {
  const text = process.env.REED_WEB || '1';
  const number = Number(text);
  if (!Number.isInteger(number) || number < 1 || number > MOST_WEB)
    stopWith(`REED_WEB=${text} is no number of web processes: use 1 to ${MOST_WEB}, at most one a core.`);
  if (dev && number > 1) stopWith('REED_WEB: while developing there is one web process.');
  return number;
}

/** Told before anything is installed or tried: without a place to write nothing else helps. */
function ensureWritable() {
  const trial = join(folder, '.writable');
  try {
    makeFolder(folder);
    writeFileSync(trial, '');
    rmSync(trial);
  } catch (error) {
    if (!['EACCES', 'EROFS', 'EPERM', 'ENOSPC', 'ENOTDIR', 'EEXIST'].includes(error.code)) throw error;
    const why = {
      ENOSPC: 'its disk is full',
      EROFS: 'it lies on a disk that is mounted for reading only',
      ENOTDIR: 'a file of that name is in the way',
      EEXIST: 'a file of that name is in the way',
    }[error.code];
    stopWith(
      `The data folder ${folder} cannot be written: ${why ?? 'this user may not'}. Make room or give the user the right, or name another folder: REED_DATA=/some/folder npm start`,
    );
  }
}

/** A cache that an older version left for everybody to read. */
function keepPrivate(place) {
  if (existsSync(place) && lstatSync(place).isDirectory()) chmodSync(place, 0o700);
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

/** Written under another name first; whoever reads it finds a whole one. */
function remember() {
  const writing = `${stateFile}.writing`;
  try {
    writeFileSync(writing, JSON.stringify({ pid: process.pid, port, web: running.web }));
    renameSync(writing, stateFile);
  } catch (error) {
    // A full disk is no reason to end; the note is for the next start alone.
    say(`${stateFile} could not be written: ${error.message}`);
  }
}

async function end(status) {
  if (ending) return;
  ending = true;
  await running.end();
  rmSync(stateFile, { force: true });
  process.exit(status);
}
