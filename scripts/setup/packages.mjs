// npm and Debian packages: installs what is missing, says in one line what a person would have to install.
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { delimiter, join } from 'node:path';
import { inProject, run, say, stopWith } from './project.mjs';

/** Installs the npm packages of the lock file, unless exactly these are there already. */
export function ensureNpmPackages() {
  const stamp = inProject('node_modules', '.installed-from');
  const lock = createHash('sha256')
    .update(readFileSync(inProject('package-lock.json')))
    .digest('hex');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  say('Installing npm packages (once) …');
  const { status, output } = run('npm', ['ci', '--no-audit', '--no-fund'], { allowFailure: true });
  if (status !== 0) {
    process.stderr.write(output);
    stopWith('npm ci failed: the npm packages of package-lock.json are needed.');
  }
  writeFileSync(stamp, lock);
}

/** The first of some programs that is installed, or undefined. Debian keeps servers where PATH may not look. */
export function findProgram(...names) {
  const folders = [...(process.env.PATH ?? '').split(delimiter), '/usr/sbin', '/usr/bin', '/usr/local/sbin'];
  for (const name of names) for (const folder of folders) if (existsSync(join(folder, name))) return join(folder, name);
  return undefined;
}

/**
 * Installs Debian packages for programs or files that are missing. `needs` maps a package to what it brings: a
 * program's name or a file's path. What is optional is asked for and done without where it cannot be had.
 */
export function ensureDebianPackages(needs, { optional = false } = {}) {
  const isThere = (thing) => (thing.startsWith('/') ? existsSync(thing) : findProgram(thing) !== undefined);
  const missing = Object.entries(needs)
    .filter(([, things]) => things.some((thing) => !isThere(thing)))
    .map(([name]) => name);
  if (missing.length === 0) return;
  const giveUp = optional ? say : stopWith;
  const advice = `${optional ? 'It works without, in part. ' : ''}Please install: ${missing.join(' ')} (for example: apt-get install ${missing.join(' ')}).`;
  const apt = findProgram('apt-get');
  if (!apt) return giveUp(`Something that this needs is not here. ${advice}`);
  const isRoot = process.getuid?.() === 0;
  const sudo = isRoot ? undefined : findProgram('sudo');
  if (!isRoot && !sudo) return giveUp(`Only root can install something that this needs. ${advice}`);
  const asRoot = (args) =>
    isRoot
      ? run(apt, args, { allowFailure: true, env: { DEBIAN_FRONTEND: 'noninteractive' } })
      : run(sudo, ['-n', 'DEBIAN_FRONTEND=noninteractive', apt, ...args], { allowFailure: true });
  say(`Installing from Debian (once): ${missing.join(' ')} …`);
  const install = ['install', '-y', '--no-install-recommends', ...missing];
  const options = ['-o', 'DPkg::Lock::Timeout=300'];
  if (asRoot([...options, ...install]).status === 0) return;
  asRoot([...options, 'update']);
  const second = asRoot([...options, ...install]);
  if (second.status !== 0) {
    process.stderr.write(second.output.split('\n').slice(-12).join('\n'));
    giveUp(`\n${advice}`);
  }
}
