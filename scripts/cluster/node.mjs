// One node of the database's cluster: a MariaDB that keeps the same rows as the others (Galera).
import { spawnSync } from 'node:child_process';
import { closeSync, existsSync, lchownSync, mkdirSync, openSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { endProcess, inProject, isAlive, run, startProcess } from '../setup/project.mjs';
import { commandLine, endOf, makeFolderAs, serverUser } from '../setup/mariadb.mjs';
import { findProgram } from '../setup/packages.mjs';

/** How long a node may take to come up: fetching all rows from another is part of it. Milliseconds. */
const START = 120_000;

/**
 * What is known of a node before it runs.
 * @param folder of the cluster; the node has one of its own in it
 * @param number from 1
 * @param ports where it is asked, where the nodes talk, where missing rows and whole copies come in
 * @param peers where the nodes talk, of all of them
 */
export function clusterNode({ folder, number, ports, peers, password }) {
  const name = `n${number}`;
  const own = join(folder, name);
  const data = join(own, 'data');
  const user = serverUser(folder, data);
  const socket = join(own, 'db.sock');
  const log = join(own, 'mariadb.log');
  let process;
  let isUp = false;

  const settings = exampleSettings({
    // Where it is asked, and where the nodes talk.
    port: ports.sql,
    'bind-address': '127.0.0.1',
    innodb_buffer_pool_size: '64M',
    wsrep_node_name: name,
    wsrep_cluster_address: `gcomm://${peers.join(',')}`,
    wsrep_node_address: `127.0.0.1:${ports.group}`,
    wsrep_sst_receive_address: `127.0.0.1:${ports.copy}`,
    // Several servers of one machine keep apart.
    datadir: data,
    socket,
    'pid-file': join(own, 'mariadbd.pid'),
    'log-error': log,
    'performance-schema': 'OFF',
  })
    .replace('tcp://10.20.0.1:4567', `tcp://127.0.0.1:${ports.group}`)
    .replace('10.20.0.1:4568', `127.0.0.1:${ports.missing}`)
    .replace('gcache.size=512M', 'gcache.size=64M');
  // What is ours lies beside its folder: in that one the database's user may put any link.
  const config = join(folder, `${name}.cnf`);
  const access = join(folder, `${name}.sql`);
  const pidFile = join(folder, `${name}.pid`);
  const asUser = user ? [] : ['--user=root'];

  return {
    name,
    number,
    port: ports.sql,
    socket,
    log,
    data,
    get process() {
      return process;
    },
    /** While it is one of the cluster: from when it is up to date until it ends. */
    get pid() {
      return isUp && process.exitCode === null && process.signalCode === null ? process.pid : undefined;
    },
    /** Whether it has ever had rows. */
    get isNew() {
      // Its accounts are made as it first starts: until then it may as well be made anew.
      return !existsSync(join(data, 'ibdata1')) || existsSync(access);
    },
    /** Its folders and its settings; a server that was left behind is ended. */
    async prepare() {
      await endLeftBehind(pidFile, config);
      if (!existsSync(own)) {
        mkdirSync(own, { mode: 0o700 });
        if (user) lchownSync(own, user.uid, user.gid);
      }
      makeFolderAs(user, data);
      rmSync(config, { force: true });
      writeFileSync(config, settings, { mode: 0o644 });
    },
    /** Takes a prepared backup in place of what it has; nothing at all where none is given. */
    takeOver(backup) {
      run('find', [data, '-mindepth', '1', '-delete'], { as: user });
      if (backup === undefined) return;
      // Read by whoever may read it, written by the user whose it is from now on.
      const packed = join(folder, 'backup.tar');
      run('tar', ['-C', backup, '-cf', packed, '.']);
      const source = openSync(packed, 'r');
      const { status } = spawnSync('tar', ['-C', data, '--no-same-owner', '-xf', '-'], {
        ...user,
        stdio: [source, 'ignore', 'inherit'],
      });
      closeSync(source);
      rmSync(packed);
      if (status !== 0) throw new Error(`The backup ${backup} could not be copied to ${data}.`);
    },
    /** The first node of a new cluster: its own tables, and the accounts by which it is asked. */
    async makeFirst() {
      run('find', [data, '-mindepth', '1', '-delete'], { as: user });
      run(
        findProgram('mariadb-install-db'),
        ['--no-defaults', `--datadir=${data}`, '--auth-root-authentication-method=normal', '--skip-test-db', ...asUser],
        { as: user },
      );
      writeFileSync(access, accessSql(password), { mode: 0o640 });
      if (user) lchownSync(access, 0, user.gid);
    },
    /**
     * How much it has: the number of its last transaction; -1 where it cannot tell. The server is asked, which makes
     * whole what a crash has left. It is ended as soon as it has said so: while it only recovers, it may look for a
     * table's description for ever (columns that are computed, of rows that were deleted).
     */
    async position() {
      if (!existsSync(join(data, 'ibdata1'))) return -1;
      const told = join(own, 'recovery.log');
      run('rm', ['-f', '--', told], { as: user });
      const recovering = startProcess(
        findProgram('mariadbd'),
        [`--defaults-file=${config}`, '--wsrep-recover', `--log-error=${told}`, ...asUser],
        { stdio: 'ignore', ...(user && { uid: user.uid, gid: user.gid }) },
      );
      const gone = new Promise((done) => recovering.once('exit', done));
      const until = Date.now() + START;
      let found;
      while (!found && Date.now() < until && recovering.exitCode === null && recovering.signalCode === null) {
        await new Promise((again) => setTimeout(again, 100));
        found = /Recovered position: [\w-]+:(-?\d+)/.exec(endOf(told, 60));
      }
      if (recovering.exitCode === null && recovering.signalCode === null) recovering.kill('SIGKILL');
      await gone;
      return Number((found ?? /Recovered position: [\w-]+:(-?\d+)/.exec(endOf(told, 60)))?.[1] ?? -1);
    },
    /**
     * @param isFirst it begins the cluster anew, from what it has
     * @throws Error with the end of its log where it does not come up
     */
    async start({ isFirst = false } = {}) {
      isUp = false;
      if (isFirst) maySafelyBegin(data, user);
      process = startProcess(
        findProgram('mariadbd'),
        [
          `--defaults-file=${config}`,
          ...(isFirst ? ['--wsrep-new-cluster'] : []),
          ...(isFirst && existsSync(access) ? [`--init-file=${access}`] : []),
          ...asUser,
        ],
        { stdio: 'ignore', ...(user && { uid: user.uid, gid: user.gid }) },
      );
      writeFileSync(pidFile, String(process.pid), { mode: 0o600 });
      const mine = process;
      const until = Date.now() + START;
      while (Date.now() < until && mine.exitCode === null && mine.signalCode === null) {
        if (isReady(socket, password)) {
          rmSync(access, { force: true });
          isUp = true;
          return;
        }
        await new Promise((again) => setTimeout(again, 250));
      }
      throw new Error(`Node ${name} did not come up; its log is ${log}\n${endOf(log)}`);
    },
    async end(milliseconds = 15_000) {
      if (process) await endProcess(process.pid, milliseconds);
    },
  };
}

/** The example that operators are given, with what is this node's own in place of what it says. */
function exampleSettings(own) {
  const example = readFileSync(inProject('docs', 'examples', 'galera-node.cnf'), 'utf8');
  const kept = example.split('\n').filter((line) => !Object.hasOwn(own, line.split('=', 1)[0]));
  return [...kept, ...Object.entries(own).map(([key, value]) => `${key}=${value}`), ''].join('\n');
}

/**
 * The node that has most is allowed to begin: it may have been killed, and then does not know that it was the last. What
 * it remembers of the others is of before. Done with the rights of its own user.
 */
function maySafelyBegin(data, user) {
  const state = join(data, 'grastate.dat');
  if (existsSync(state)) run('sed', ['-i', 's/safe_to_bootstrap: 0/safe_to_bootstrap: 1/', state], { as: user });
  run('rm', ['-f', '--', join(data, 'gvwstate.dat')], { as: user });
}

function accessSql(password) {
  const account = (name, rights, databases) =>
    `CREATE USER '${name}'@'127.0.0.1' IDENTIFIED BY '${password[name]}'; GRANT ${rights} ON \`${databases}\`.* TO '${name}'@'127.0.0.1';`;
  const rows = 'SELECT, INSERT, UPDATE, DELETE';
  // One statement a line, as the server reads them.
  return [
    `ALTER USER 'root'@'localhost' IDENTIFIED BY '${password.root}';`,
    'CREATE DATABASE reed_hook CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;',
    ...account('reed', rows, 'reed_hook').split(/(?<=;) /),
    ...account('reed_setup', `${rows}, CREATE, ALTER, DROP, INDEX, REFERENCES`, 'reed\\_hook%').split(/(?<=;) /),
    '',
  ].join('\n');
}

/** Whether it takes statements: it is one of the majority, and up to date. */
function isReady(socket, password) {
  const { status, output } = run(
    findProgram('mariadb'),
    ['--no-defaults', `--socket=${socket}`, '--user=root', '-N', '-e', "SHOW STATUS LIKE 'wsrep_local_state_comment'"],
    { allowFailure: true, env: { MYSQL_PWD: password.root } },
  );
  return status === 0 && /Synced/.test(output);
}

async function endLeftBehind(pidFile, config) {
  if (!existsSync(pidFile)) return;
  const pid = Number(readFileSync(pidFile, 'utf8'));
  if (pid > 1 && isAlive(pid) && commandLine(pid).includes(config)) {
    // One that stands still hears nothing until it goes on.
    globalThis.process.kill(pid, 'SIGCONT');
    await endProcess(pid, 15_000);
  }
  rmSync(pidFile, { force: true });
}
