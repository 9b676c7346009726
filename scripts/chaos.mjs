// `node scripts/chaos.mjs [SECONDS] [SEED]`: the program on a folder of its own, its database, web process and supervisor killed at
// random while clients save. Afterwards every save that was acknowledged must be there. Ends with status 1 where one is not.
import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { freePort } from './setup/ports.mjs';
import { endProcess, inProject, isAlive, say } from './setup/project.mjs';

const SECONDS = Number(process.argv[2] ?? 120);
const SEED = Number(process.argv[3] ?? Date.now() % 100_000);
const CLIENTS = 4;
/** Milliseconds. */
const BETWEEN_SAVES = 450;
const UP_AGAIN = 150_000;
/** So long it answers without a gap. */
const STEADY = 6_000;

const folder = inProject('.test-data', 'chaos');
rmSync(folder, { recursive: true, force: true });
mkdirSync(folder, { recursive: true });
const port = await freePort(3600);
const address = `http://127.0.0.1:${port}`;
const chance = chanceFrom(SEED);
const wait = (milliseconds) => new Promise((done) => setTimeout(done, milliseconds));

let supervisor = start();
if (!(await isUp(240_000))) stop('The program did not start.');
const tunes = await Promise.all(Array.from({ length: CLIENTS }, (_, k) => bringIn(`Chaos ${k}`)));
const until = Date.now() + 1_000 * SECONDS;
const kills = { database: 0, web: 0, supervisor: 0 };
const clients = tunes.map((id, client) => keepSaving(id, client));
await killAtRandom();
const acknowledged = await Promise.all(clients);
if (!(await isSteady(UP_AGAIN))) stop('The program was not up again after the last kill.');
let lost = 0;
for (const [client, id] of tunes.entries()) lost += await lostOf(id, acknowledged[client]);
const count = acknowledged.reduce((sum, list) => sum + list.length, 0);
say(
  `${count} saves acknowledged through ${kills.database} kills of the database, ${kills.web} of the web process, ${kills.supervisor} of the supervisor; ${lost} lost (seed ${SEED})`,
);
const backedUp = await backedUpAndRestored();
await endAll();
const left = leftBehind();
if (left.length > 0) say(`Still running after the end: ${left.join(', ')}`);
process.exit(lost === 0 && count > CLIENTS * 5 && left.length === 0 && backedUp ? 0 : 1);

function start() {
  return spawn(process.execPath, [inProject('scripts', 'start.mjs')], {
    cwd: inProject(),
    env: { ...process.env, REED_DATA: folder, PORT: String(port), REED_LOG: 'silent', DATABASE_URL: '' },
    stdio: 'ignore',
    detached: true,
  });
}

async function killAtRandom() {
  while (Date.now() < until) {
    await wait(2_500 + chance() * 5_000);
    const which = ['database', 'web', 'supervisor'][Math.floor(chance() * 3)];
    const pid = { database: databasePid(), web: webPid(), supervisor: supervisor.pid }[which];
    if (!pid || !isAlive(pid)) continue;
    process.kill(pid, 'SIGKILL');
    kills[which] += 1;
    if (which !== 'supervisor') continue;
    await wait(chance() * 2_000);
    supervisor = start();
  }
}

/** Saves again and again, each time until it is answered; gives what was acknowledged. */
async function keepSaving(id, client) {
  const acknowledged = [];
  let { version, work } = await opened(id);
  for (let number = 1; Date.now() < until; number += 1) {
    const what = `save ${client}-${number}`;
    const saveId = `chaos-${client}-${number}-${SEED}`;
    const title = `Chaos ${client}: ${number}`;
    for (;;) {
      const answer = await send('PUT', `/api/tunes/${id}`, {
        version,
        work: { ...work, tune: { ...work.tune, title } },
        what,
        saveId,
      });
      if (answer?.status === 200) {
        ({ version } = answer.body);
        acknowledged.push({ version, what });
        break;
      }
      if (answer && answer.status < 500)
        stop(`A save was refused: ${answer.status} ${JSON.stringify(answer.body).slice(0, 300)}`);
      if (Date.now() > until + UP_AGAIN) return acknowledged;
      await wait(250);
    }
    await wait(BETWEEN_SAVES);
  }
  return acknowledged;
}

/** A backup made while the program runs gives back what was there, after everything was removed; a damaged one changes nothing. */
async function backedUpAndRestored() {
  const file = join(folder, 'chaos.sql.gz');
  const before = await titles();
  const made = script('backup.mjs', file);
  for (const id of tunes) await send('DELETE', `/api/tunes/${id}`);
  const between = await titles();
  await endAll();
  writeFileSync(join(folder, 'half.sql.gz'), readFileSync(file).subarray(0, 2_000));
  const damaged = script('restore.mjs', join(folder, 'half.sql.gz'));
  const restored = script('restore.mjs', file);
  supervisor = start();
  if (!(await isUp(UP_AGAIN))) stop('The program did not start on the restored data.');
  const after = await titles();
  const isWhole =
    made.status === 0 && restored.status === 0 && damaged.status !== 0 && after === before && between !== before;
  say(
    isWhole
      ? 'A backup made while running gave everything back; half of it was refused.'
      : `The backup did not give everything back: ${JSON.stringify([made, damaged, restored, before, between, after]).slice(0, 1_500)}`,
  );
  return isWhole;
}

function script(name, file) {
  const done = spawnSync(process.execPath, [inProject('scripts', name), file], {
    cwd: inProject(),
    env: { ...process.env, REED_DATA: folder },
    encoding: 'utf8',
  });
  return { status: done.status, said: `${done.stdout}${done.stderr}` };
}

async function titles() {
  const page = await answered('/api/tunes');
  return page.body.tunes.map(({ title }) => title).join(', ');
}

/** How many acknowledged saves the tune's history does not hold, and whether its present state is the last of them or a later one. */
async function lostOf(id, acknowledged) {
  const history = await answered(`/api/tunes/${id}/history`);
  const kept = new Set(history.body.revisions.map(({ version, kind, what }) => `${version} ${kind} ${what}`));
  const missing = acknowledged.filter(({ version, what }) => !kept.has(`${version} saved ${what}`));
  for (const { version, what } of missing.slice(0, 5)) say(`Lost: version ${version}, ${what}`);
  const { version } = await opened(id);
  const last = acknowledged.at(-1)?.version ?? 0;
  if (version < last) say(`The tune stands at version ${version}, though ${last} was acknowledged.`);
  return missing.length + (version < last ? 1 : 0);
}

/** The first answer that holds what was asked: right after a kill a connection may still break off. */
async function answered(path) {
  const giveUp = Date.now() + UP_AGAIN;
  for (;;) {
    const answer = await send('GET', path);
    if (answer?.status === 200) return answer;
    if (Date.now() > giveUp) await stop(`${path} was not answered after the last kill.`);
    await wait(200);
  }
}

async function opened(id) {
  for (;;) {
    const answer = await send('GET', `/api/tunes/${id}`);
    if (answer?.status === 200) return answer.body;
    await wait(250);
  }
}

async function bringIn(title) {
  const response = await fetch(`${address}/api/tunes`, {
    method: 'POST',
    headers: { origin: address },
    body: `X:1\nT:${title}\nM:4/4\nL:1/4\nK:G\nGABc|d4|]\n`,
  });
  return (await response.json()).id;
}

/** An answer with its body; nothing where none came. */
async function send(method, path, json) {
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

/**
 * Whether it answers, and goes on answering: what a killed supervisor left behind answers for a moment, until the next supervisor has ended
 * it and begun its own.
 */
async function isSteady(most) {
  const giveUp = Date.now() + most;
  for (let since = 0; Date.now() < giveUp; await wait(250)) {
    const answer = await send('GET', '/api/health');
    if (answer?.status !== 200) since = 0;
    else if (since === 0) since = Date.now();
    else if (Date.now() - since > STEADY) return true;
  }
  return false;
}

async function isUp(milliseconds) {
  const end = Date.now() + milliseconds;
  while (Date.now() < end) {
    if ((await send('GET', '/api/health'))?.status === 200) return true;
    await wait(250);
  }
  return false;
}

function readPid(file, pick) {
  try {
    return pick(readFileSync(join(folder, file), 'utf8'));
  } catch {
    // Not written yet, or half of it.
    return undefined;
  }
}

function databasePid() {
  return readPid('database.pid', Number);
}

function webPid() {
  return readPid('running.json', (text) => JSON.parse(text).web);
}

async function endAll() {
  const pids = [databasePid(), webPid()];
  await endProcess(supervisor.pid, 6_000);
  endAll.pids = pids.filter(Boolean);
}

/** What the clean end has left running. */
function leftBehind() {
  return endAll.pids.filter((pid) => isAlive(pid));
}

async function stop(message) {
  say(message);
  await endAll();
  process.exit(1);
}

/** Numbers from 0 to 1 that are the same for the same seed. */
function chanceFrom(seed) {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 4_294_967_296;
  };
}
