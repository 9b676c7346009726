// A cluster of its own on a folder of its own, and the way to ask it.
import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { freePort } from '../setup/ports.mjs';
import { endProcess, inProject, isAlive } from '../setup/project.mjs';
import { send, wait } from './program.mjs';

/** Milliseconds. */
const FIRST_START = 420_000;
const BACK_WITHIN = 90_000;

/** @param name of its folder, which is made anew */
export async function ownCluster(name) {
  const data = inProject('.test-data', `chaos-${name}`);
  rmSync(data, { recursive: true, force: true });
  mkdirSync(data, { recursive: true });
  const port = await freePort(3_800);
  let supervisor;
  const self = {
    folder: join(data, 'cluster'),
    address: `http://127.0.0.1:${port}`,
    passwords: () => JSON.parse(readFileSync(join(data, 'cluster', 'passwords.json'), 'utf8')),
    processes: () => JSON.parse(readFileSync(join(data, 'cluster', 'processes.json'), 'utf8')),
    /** @returns once it says that it is ready */
    async start(...words) {
      supervisor = spawn(process.execPath, [inProject('scripts', 'cluster.mjs'), ...words], {
        cwd: inProject(),
        env: { ...process.env, REED_DATA: data, PORT: String(port), REED_LOG: 'silent', DATABASE_URL: '' },
        stdio: ['ignore', 'pipe', 'pipe'],
        detached: true,
      });
      let said = '';
      for (const stream of [supervisor.stdout, supervisor.stderr]) stream.on('data', (chunk) => (said += chunk));
      const until = Date.now() + FIRST_START;
      while (!said.includes(`Reed Hook cluster is ready: ${self.address}`)) {
        if (Date.now() > until || supervisor.exitCode !== null)
          throw new Error(`The cluster did not start: ${said.slice(-1_500)}`);
        await wait(200);
      }
    },
    /** All nodes and web processes run and answer. */
    async whole() {
      const until = Date.now() + BACK_WITHIN;
      for (;;) {
        const { database, web, proxy } = self.processes();
        const isAll =
          database.length === 3 &&
          [...database, ...web, proxy].every(({ pid }) => isAlive(pid)) &&
          (await Promise.all(web.map((one) => answersAt(one.port)))).every(Boolean);
        if (isAll) return;
        if (Date.now() > until) throw new Error('The cluster was not whole again in time.');
        await wait(250);
      }
    },
    /** Everything at once, as when the current fails. */
    crash() {
      const { database, web, proxy } = self.processes();
      for (const { pid } of [{ pid: supervisor.pid }, proxy, ...web, ...database])
        if (isAlive(pid)) process.kill(pid, 'SIGKILL');
    },
    async end() {
      if (supervisor) await endProcess(supervisor.pid, 60_000);
    },
  };
  return self;
}

async function answersAt(port) {
  return (await send(`http://127.0.0.1:${port}`, 'GET', '/api/health'))?.status === 200;
}
