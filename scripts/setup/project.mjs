// Where things lie, and how commands are run. Node's own modules alone: this runs before anything is installed.
import { spawn, spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(dirname(fileURLToPath(import.meta.url))));
export const inProject = (...parts) => join(root, ...parts);

export function say(text) {
  process.stdout.write(`${text}\n`);
}

/** Ends with one line on standard error. */
export function stopWith(text) {
  process.stderr.write(`${text}\n`);
  process.exit(1);
}

/** Runs a command to its end; its output is shown only when it fails, unless `show` is set. */
export function run(command, args, { env = {}, show = false, allowFailure = false, as } = {}) {
  const done = spawnSync(command, args, {
    cwd: root,
    env: { ...process.env, ...env },
    stdio: show ? 'inherit' : 'pipe',
    encoding: 'utf8',
    maxBuffer: 64 * 1024 * 1024,
    ...(as && { uid: as.uid, gid: as.gid }),
  });
  const status = done.status ?? 1;
  if (status !== 0 && !allowFailure) {
    if (!show) process.stderr.write(`${done.stdout ?? ''}${done.stderr ?? ''}`);
    stopWith(`${[command, ...args].join(' ').slice(0, 200)} failed${done.error ? `: ${done.error.message}` : ''}`);
  }
  return { status, output: `${done.stdout ?? ''}${done.stderr ?? ''}` };
}

/** Starts a command in a process group of its own, so that Ctrl-C reaches only us and we end it in order. */
export function startProcess(command, args, { env = {}, stdio = ['ignore', 'ignore', 'pipe'], ...as } = {}) {
  return spawn(command, args, { cwd: root, env: { ...process.env, ...env }, stdio, detached: true, ...as });
}

/** Asks a process to end and waits; after the time given it is killed. */
export async function endProcess(pid, milliseconds = 10_000) {
  if (!isAlive(pid)) return;
  signal(pid, 'SIGTERM');
  const until = Date.now() + milliseconds;
  while (isAlive(pid) && Date.now() < until) await new Promise((done) => setTimeout(done, 50));
  if (!isAlive(pid)) return;
  signal(pid, 'SIGKILL');
  // A process that was killed is not gone at once.
  for (let k = 0; k < 40 && isAlive(pid); k += 1) await new Promise((done) => setTimeout(done, 50));
}

export function isAlive(pid) {
  return signal(pid, 0);
}

function signal(pid, name) {
  try {
    process.kill(pid, name);
    return true;
  } catch (error) {
    if (error.code === 'EPERM') return true;
    if (error.code === 'ESRCH') return false;
    throw error;
  }
}

/**
 * The kernel counts in hundredths of a second on every machine that runs Node. Source: proc(5), and USER_HZ of Linux.
 */
const TICK_MILLISECONDS = 10;

/** The processor time that a process has used so far, in milliseconds; nothing where the system does not tell. */
export function processorTime(pid) {
  try {
    // The name of the program stands in brackets and may hold spaces; the figures follow it.
    const fields = readFileSync(`/proc/${pid}/stat`, 'utf8')
      .replace(/^.*\) /s, '')
      .split(' ');
    return (Number(fields[11]) + Number(fields[12])) * TICK_MILLISECONDS;
  } catch (error) {
    if (['ENOENT', 'ESRCH', 'EACCES'].includes(error.code)) return undefined;
    throw error;
  }
}
