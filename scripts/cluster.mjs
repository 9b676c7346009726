// `npm run cluster`: the program on the database's own cluster, tried on one machine: three database nodes, two web
// processes, a proxy before them. Ctrl-C ends all of it. After a crash of everything it is started again the same way.
// `npm run cluster -- FOLDER` begins with a backup that mariadb-backup has made and prepared, in place of what is there.
import { randomBytes } from 'node:crypto';
import { existsSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { clusterNode } from './cluster/node.mjs';
import { startProxy } from './cluster/proxy.mjs';
import { backoff } from './setup/backoff.mjs';
import { ensureBuild } from './setup/build.mjs';
import { commandLine, ensureMariaDbPackages, makeFolder } from './setup/mariadb.mjs';
import { ensureDebianPackages, ensureNpmPackages } from './setup/packages.mjs';
import { freePort } from './setup/ports.mjs';
import { ensureSoundBank } from './setup/sounds.mjs';
import { ensureTextFonts } from './setup/fonts.mjs';
import { endProcess, inProject, isAlive, run, say, stopWith } from './setup/project.mjs';
import { prepareCommand, startWeb, webAnswers } from './setup/web.mjs';

const NODES = 3;
const WEBS = 2;
/**
 * The others first agree that a node has gone: one that comes back before that has them wait for each other.
 * Milliseconds.
 */
const LEFT_BEHIND = 5_000;
/** A prepared backup, to begin with in place of what is there. */
const backup = process.argv[2] === undefined ? undefined : resolve(process.argv[2]);
if (backup !== undefined && !existsSync(join(backup, 'ibdata1')))
  stopWith(`${backup} is no backup of a node: use a folder that mariadb-backup has made and prepared.`);
const folder = join(resolve(process.env.REED_DATA ?? inProject('.data')), 'cluster');
const processesFile = join(folder, 'processes.json');

ensureNpmPackages();
ensureMariaDbPackages();
ensureDebianPackages({
  'galera-4': ['/usr/lib/galera/libgalera_smm.so'],
  haproxy: ['haproxy'],
  rsync: ['rsync'],
  // What the script that copies a node's rows asks with.
  lsof: ['lsof'],
  socat: ['socat'],
});
ensureSoundBank({ optional: true });
ensureTextFonts({ optional: true });
ensureBuild();
makeFolder(join(folder, '..'));
makeFolder(folder);

let ending = false;
await endWhatWasLeft();

const password = passwords();
const plan = await ports();
const nodes = plan.nodes.map((one, k) =>
  clusterNode({
    folder,
    number: k + 1,
    ports: one,
    peers: plan.nodes.map(({ group }) => `127.0.0.1:${group}`),
    password,
  }),
);
const databaseUrl = (name, from = 0) =>
  `mysql://${name}:${password[name]}@${nodes
    .map((_, k) => `127.0.0.1:${nodes[(k + from) % NODES].port}`)
    .join(',')}/reed_hook`;

/** Web processes by number, and the proxy: what runs now. */
const webs = [];
let proxy;
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void end(0));
try {
  await startNodes();
  const { status, output } = run(process.execPath, prepareCommand, {
    env: { DATABASE_URL: databaseUrl('reed_setup') },
    allowFailure: true,
  });
  if (status !== 0) throw new Error(`The tables could not be brought up to date.\n${output}`);
  await Promise.all(plan.webs.map((_, k) => keepWeb(k)));
  keepProxy();
  for (const node of nodes) keepNode(node);
} catch (error) {
  process.stderr.write(`${error.message}\n`);
  await end(1);
}
remember();
say(`Reed Hook cluster is ready: http://127.0.0.1:${plan.proxy}`);

/** All nodes: a new cluster begins with the first, one that was stopped with the node that has most. */
async function startNodes() {
  for (const node of nodes) await node.prepare();
  if (backup !== undefined) for (const node of nodes) node.takeOver(node === nodes[0] ? backup : undefined);
  const isNew = nodes.every((node) => node.isNew);
  let first = nodes[0];
  if (isNew) await first.makeFirst();
  else {
    const positions = [];
    for (const node of nodes) positions.push(await node.position());
    first = nodes[positions.indexOf(Math.max(...positions))];
    say(`Node ${first.name} has most (${positions.join(', ')}) and begins.`);
  }
  await first.start({ isFirst: true });
  // Each copies all rows where it has none: one after another, so that one is always free to answer.
  for (const node of nodes) if (node !== first) await node.start();
}

/** A node that ends is started again, and fetches what it has missed. */
function keepNode(node, pauses = backoff()) {
  const since = Date.now();
  node.process.once('exit', async () => {
    if (ending) return;
    await new Promise((done) => setTimeout(done, Math.max(LEFT_BEHIND, pauses.next(Date.now() - since))));
    if (ending) return;
    try {
      await node.start();
    } catch (error) {
      if (!ending) say(error.message);
    }
    if (ending) return;
    remember();
    keepNode(node, pauses);
  });
}

async function keepWeb(k, pauses = backoff()) {
  const since = Date.now();
  const port = plan.webs[k];
  const web = startWeb({
    port,
    // Each prefers another node.
    databaseUrl: databaseUrl('reed', k),
    cache: join(folder, `cache-${k + 1}`),
    log: process.env.REED_LOG,
  });
  webs[k] = { web, port };
  web.once('exit', async () => {
    if (ending) return;
    await new Promise((done) => setTimeout(done, pauses.next(Date.now() - since)));
    if (!ending) await keepWeb(k, pauses);
  });
  remember();
  await webAnswers(web, port);
}

function keepProxy(pauses = backoff()) {
  const since = Date.now();
  proxy = startProxy(folder, plan.proxy, plan.webs);
  remember();
  proxy.once('exit', async () => {
    if (ending) return;
    await new Promise((done) => setTimeout(done, pauses.next(Date.now() - since)));
    if (!ending) keepProxy(pauses);
  });
}

/** Written under another name first; whoever reads it finds a whole one. */
function remember() {
  if (ending) return;
  writeFileSync(
    `${processesFile}.writing`,
    JSON.stringify(
      {
        database: nodes.flatMap(({ name, pid, port }) => (pid === undefined ? [] : [{ name, pid, port }])),
        web: webs.map(({ web, port }) => ({ pid: web.pid, port })),
        ...(proxy && { proxy: { pid: proxy.pid, port: plan.proxy } }),
      },
      undefined,
      2,
    ),
  );
  renameSync(`${processesFile}.writing`, processesFile);
}

/** A start that was killed leaves its web processes and its proxy; nodes look after their own. */
async function endWhatWasLeft() {
  if (!existsSync(processesFile)) return;
  let left;
  try {
    left = JSON.parse(readFileSync(processesFile, 'utf8'));
  } catch (error) {
    if (error instanceof SyntaxError) return;
    throw error;
  }
  const marks = [
    ...(left.web ?? []).map(({ pid }) => [pid, 'serve.mjs']),
    ...(left.proxy ? [[left.proxy.pid, join(folder, 'haproxy.cfg')]] : []),
  ];
  for (const [pid, mark] of marks) if (isAlive(pid) && commandLine(pid).includes(mark)) await endProcess(pid, 2_000);
  rmSync(processesFile, { force: true });
}

function passwords() {
  const file = join(folder, 'passwords.json');
  if (!existsSync(file)) {
    const made = Object.fromEntries(
      ['root', 'reed', 'reed_setup'].map((name) => [name, randomBytes(24).toString('hex')]),
    );
    writeFileSync(`${file}.writing`, JSON.stringify(made), { mode: 0o600 });
    renameSync(`${file}.writing`, file);
  }
  return JSON.parse(readFileSync(file, 'utf8'));
}

/** Ports that are free, near those that they usually have. */
async function ports() {
  const taken = new Set();
  const next = async (from) => {
    let port = await freePort(from);
    while (taken.has(port)) port = await freePort(port + 1);
    taken.add(port);
    return port;
  };
  const list = [];
  for (let k = 1; k <= NODES; k += 1)
    list.push({
      sql: await next(4_400 + k),
      group: await next(4_500 + 10 * k),
      missing: await next(4_500 + 10 * k + 1),
      copy: await next(4_600 + 10 * k),
    });
  const webPorts = [];
  for (let k = 1; k <= WEBS; k += 1) webPorts.push(await next(4_700 + k));
  const wanted = Number(process.env.PORT ?? '3280');
  if (!Number.isInteger(wanted) || wanted < 1 || wanted > 65_000)
    stopWith(`PORT=${process.env.PORT} is no port: use a number from 1 to 65000.`);
  return { nodes: list, webs: webPorts, proxy: await next(wanted) };
}

/** The proxy first, then the web processes, then the nodes one after another, so that the last knows that it was. */
async function end(status) {
  if (ending) return;
  ending = true;
  if (proxy) await endProcess(proxy.pid, 2_000);
  await Promise.all(webs.map(({ web }) => endProcess(web.pid, 3_000)));
  for (const node of [...nodes].reverse()) await node.end();
  rmSync(processesFile, { force: true });
  process.exit(status);
}
