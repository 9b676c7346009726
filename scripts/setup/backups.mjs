// Backups of the database: one compressed file, consistent while the program runs, read once after writing.
import {
  createReadStream,
  createWriteStream,
  existsSync,
  mkdirSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { spawn } from 'node:child_process';
import { createGunzip, createGzip } from 'node:zlib';
import { rootArguments } from './mariadb.mjs';
import { findProgram } from './packages.mjs';
import { say } from './project.mjs';

const DAY = 86_400_000;
/** Daily backups that are kept. */
const MAX_KEPT = 14;
/** The last line of a whole dump. Source: mariadb-dump's own mark of completion. */
const COMPLETE = /-- Dump completed/;
/** What a dump of ours begins with, so that another file is not taken for one. */
const OURS = /CREATE TABLE `tunes`/;

/** Writes a backup of the running server's data to a file. Throws where it is not whole; then no file is left. */
export async function backUp(folder, socket, file) {
  const writing = `${file}.writing`;
  const dump = spawn(
    findProgram('mariadb-dump'),
    [
      ...rootArguments(folder, socket),
      '--single-transaction',
      '--skip-lock-tables',
      '--hex-blob',
      '--default-character-set=utf8mb4',
      'reed_hook',
    ],
    { stdio: ['ignore', 'pipe', 'pipe'] },
  );
  let trouble = '';
  dump.stderr.on('data', (chunk) => {
    trouble += chunk;
  });
  const ended = new Promise((done) => dump.once('close', done));
  try {
    await pipeline(dump.stdout, createGzip(), createWriteStream(writing, { mode: 0o600 }));
    if ((await ended) !== 0) throw new Error(trouble.trim() || 'mariadb-dump failed');
    await checkBackup(writing);
    renameSync(writing, file);
  } catch (error) {
    rmSync(writing, { force: true });
    throw new Error(`The backup was not made: ${error.message}`, { cause: error });
  }
}

/** Reads a backup through. Throws where it is damaged, not whole, or none of ours. */
export async function checkBackup(file) {
  let isOurs = false;
  let end = '';
  await pipeline(createReadStream(file), createGunzip(), async (source) => {
    let carried = '';
    for await (const chunk of source) {
      const text = carried + chunk.toString('latin1');
      isOurs ||= OURS.test(text);
      carried = text.slice(-200);
      end = carried;
    }
  });
  if (!COMPLETE.test(end)) throw new Error('it ends before its last line');
  if (!isOurs) throw new Error('it holds no Reed Hook tables');
}

/** Loads a checked backup into the server, in place of what is there. */
export async function loadBackup(folder, socket, file) {
  await feed(
    folder,
    socket,
    [],
    'DROP DATABASE IF EXISTS reed_hook; CREATE DATABASE reed_hook CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;',
  );
  await feed(folder, socket, ['reed_hook'], file);
}

/** @param source a file to unpack, or SQL */
async function feed(folder, socket, database, source) {
  const client = spawn(
    findProgram('mariadb'),
    [...rootArguments(folder, socket), '--default-character-set=utf8mb4', ...database],
    {
      stdio: ['pipe', 'ignore', 'pipe'],
    },
  );
  let trouble = '';
  client.stderr.on('data', (chunk) => {
    trouble += chunk;
  });
  const ended = new Promise((done) => client.once('close', done));
  if (existsSync(source)) await pipeline(createReadStream(source), createGunzip(), client.stdin);
  else client.stdin.end(source);
  if ((await ended) !== 0) throw new Error(trouble.trim() || 'mariadb failed');
}

/** A name that sorts by time. */
export function backupName(now = new Date()) {
  return `reed-hook-${now.toISOString().slice(0, 19).replaceAll(':', '-')}.sql.gz`;
}

/**
 * A backup a day while the program runs; the oldest beyond 14 go. One that fails is said and tried again in an hour.
 */
export function keepDailyBackups(folder, database) {
  const place = join(folder, 'backups');
  const make = async () => {
    mkdirSync(place, { recursive: true, mode: 0o700 });
    const kept = readdirSync(place)
      .filter((name) => /^reed-hook-[\d-]+T[\d-]+\.sql\.gz$/.test(name))
      .sort();
    const last = kept.at(-1);
    if (last && Date.now() - statSync(join(place, last)).mtimeMs < DAY) return;
    const now = database();
    if (!now) return;
    try {
      await backUp(folder, now.socket, join(place, backupName()));
      for (const old of kept.slice(0, Math.max(0, kept.length + 1 - MAX_KEPT)))
        rmSync(join(place, old), { force: true });
    } catch (error) {
      say(error.message);
    }
  };
  void make();
  setInterval(() => void make(), 3_600_000).unref();
}
