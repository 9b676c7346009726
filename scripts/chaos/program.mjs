// A program of its own on a folder of its own, and the way to ask it.
import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { freePort } from '../setup/ports.mjs';
import { endProcess, inProject, isAlive } from '../setup/project.mjs';

/** Milliseconds. */
const UP_AGAIN = 150_000;
const FIRST_START = 240_000;
/** So long it answers without a gap. */
const STEADY = 6_000;

export const wait = (milliseconds) => new Promise((done) => setTimeout(done, milliseconds));

/** Numbers from 0 to 1 that are the same for the same seed. */
export function chanceFrom(seed) {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 4_294_967_296;
  };
}

/** An answer with its body; nothing where none came. */
export async function send(address, method, path, json) {
  try {
    const response = await fetch(address + path, {
      method,
      headers: { origin: address, 'content-type': 'application/json' },
      ...(json && { body: JSON.stringify(json) }),
      signal: AbortSignal.timeout(15_000),
    });
    return { status: response.status, body: await response.json() };
  } catch {
    return undefined;
  }
}

/** The first good answer: right after a kill a connection may still break off. */
export async function answered(address, path) {
  const giveUp = Date.now() + UP_AGAIN;
  for (;;) {
    const answer = await send(address, 'GET', path);
    if (answer?.status === 200) return answer.body;
    if (Date.now() > giveUp) throw new Error(`${path} was not answered in time.`);
    await wait(200);
  }
}

/**
 * A program that is started and ended, with what is known of its processes.
 * @param name of its folder
 * @param folder a folder that is there already, to be used as it is
 * @param env more for its environment
 */
export async function program(name, { folder = freshFolder(name), env = {} } = {}) {
  const port = await freePort(3600);
  const address = `http://127.0.0.1:${port}`;
  let supervisor;
  let last = [];
  const readPid = (file, pick) => {
    try {
      return pick(readFileSync(join(folder, file), 'utf8'));
    } catch {
      // Not written yet, or half of it.
      return undefined;
    }
  };
  const self = {
    folder,
    address,
    get supervisorPid() {
      return supervisor?.pid;
    },
    databasePid: () => readPid('database.pid', Number),
    webPid: () => readPid('running.json', (text) => JSON.parse(text).web[0]),
    start(more = {}) {
      supervisor = spawn(process.execPath, [inProject('scripts', 'start.mjs')], {
        cwd: inProject(),
        env: {
          ...process.env,
          REED_DATA: folder,
          PORT: String(port),
          REED_LOG: 'silent',
          DATABASE_URL: '',
          ...env,
          ...more,
        },
        stdio: 'ignore',
        detached: true,
      });
    },
    async isUp(milliseconds = UP_AGAIN) {
      const end = Date.now() + milliseconds;
      while (Date.now() < end) {
        if ((await send(address, 'GET', '/api/health'))?.status === 200) return true;
        await wait(250);
      }
      return false;
    },
    async begin(more) {
      self.start(more);
      if (!(await self.isUp(FIRST_START))) throw new Error('The program did not start.');
    },
    /**
     * Answers, and goes on answering: what a killed supervisor left behind answers for a moment, until the next
     * supervisor has ended it and begun its own.
     */
    async steady() {
      const giveUp = Date.now() + UP_AGAIN;
      for (let since = 0; Date.now() < giveUp; await wait(250)) {
        const answer = await send(address, 'GET', '/api/health');
        if (answer?.status !== 200) since = 0;
        else if (since === 0) since = Date.now();
        else if (Date.now() - since > STEADY) return;
      }
      throw new Error('The program was not up again in time.');
    },
    async end() {
      last = [self.databasePid(), self.webPid()].filter(Boolean);
      if (supervisor) await endProcess(supervisor.pid, 6_000);
    },
    /** What the last clean end has left running. */
    leftBehind: () => last.filter((pid) => isAlive(pid)),
  };
  return self;
}

function freshFolder(name) {
  const folder = inProject('.test-data', `chaos-${name}`);
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  return folder;
}
