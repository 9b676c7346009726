// `npm test`: all the set-up, then lint, types, unit tests, integration tests on a real MariaDB, and the interface in a browser.
// The last line alone says `N passed, N failed`; the exit status tells the same.
import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { ensureBuild } from './setup/build.mjs';
import { ensureMariaDbPackages, startMariaDb } from './setup/mariadb.mjs';
import { ensureDebianPackages, ensureNpmPackages } from './setup/packages.mjs';
import { freePort } from './setup/ports.mjs';
import { ensureTextFonts } from './setup/fonts.mjs';
import { ensureSoundBank } from './setup/sounds.mjs';
import { endProcess, inProject, run, say } from './setup/project.mjs';
import { prepareCommand, startWeb, webAnswers } from './setup/web.mjs';

const folder = inProject('.test-data');
const results = join(folder, 'results');
let passed = 0;
let failed = 0;

ensureNpmPackages();
ensureMariaDbPackages();
ensureDebianPackages({ chromium: ['chromium'], 'poppler-utils': ['pdftotext'] });
ensureSoundBank({ optional: false });
ensureTextFonts({ optional: false });
// A run that was killed may have left the small disk of the chaos test, which cannot be removed while it is one.
spawnSync('umount', ['-l', join(folder, 'chaos-disk')], { stdio: 'ignore' });
// Its own folder, made anew: never the data that a person works with.
rmSync(folder, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

const tool = (...parts) => inProject('node_modules', ...parts);
// The types of the routes are written by the build; the type check wants them.
ensureBuild();
// Each of these keeps one core busy; side by side they take as long as the longest.
await steps([
  ['Format', [tool('prettier', 'bin', 'prettier.cjs'), '--check', '--log-level', 'warn', '.']],
  ['Lint and layers', [tool('eslint', 'bin', 'eslint.js'), '.', '--max-warnings', '0']],
  ['Types', [tool('typescript', 'bin', 'tsc'), '--noEmit']],
]);
// All that may go wrong goes by while the unit tests run: what is killed waits more than it works.
const chaos = chaosBegun();
jest('Unit tests and command line', ['src', 'tests/command', `--maxWorkers=${availableParallelism()}`], {});
await chaosEnded(chaos);

const database = await startMariaDb(folder);
let web;
try {
  const env = { DATABASE_URL: database.setupUrl };
  run(process.execPath, prepareCommand, { env });
  jest('Integration tests', ['tests/integration', '--runInBand'], env);
  const port = await freePort(3230);
  web = startWeb({ port, databaseUrl: database.url, cache: join(folder, 'cache'), log: 'error' });
  if (!(await webAnswers(web, port))) {
    say('The web process did not answer.');
    failed += 1;
  } else playwright({ ...env, REED_ADDRESS: `http://127.0.0.1:${port}` });
} finally {
  if (web) await endProcess(web.pid);
  await database.stop();
}

say(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);

/** A program of this project in the background, with all that it says. */
function begun(args) {
  const child = spawn(process.execPath, args, { cwd: inProject(), stdio: ['ignore', 'pipe', 'pipe'] });
  const said = [];
  child.stdout.on('data', (chunk) => said.push(chunk));
  child.stderr.on('data', (chunk) => said.push(chunk));
  return { said, ended: new Promise((done) => child.once('close', done)) };
}

/** The chaos test on folders and ports of its own, with a minute of kills. */
function chaosBegun() {
  say('Kills, a full disk, a frozen database, two web processes and a clock that jumps, while saving …');
  return begun([inProject('scripts', 'chaos.mjs'), '60']);
}

async function chaosEnded({ said, ended }) {
  const status = await ended;
  if (status === 0) passed += 1;
  else failed += 1;
  process.stdout.write(Buffer.concat(said));
}

/** Checks side by side; each counts as one. */
async function steps(checks) {
  say(`${checks.map(([name]) => name).join(', ')} …`);
  const running = checks.map(([name, args]) => ({ name, ...begun(args) }));
  for (const { name, said, ended } of running) {
    if ((await ended) === 0) passed += 1;
    else {
      failed += 1;
      say(`${name}:`);
      process.stdout.write(Buffer.concat(said));
    }
  }
}

function jest(name, args, env) {
  say(`${name} …`);
  const file = join(results, `${args[0].replaceAll('/', '-')}.json`);
  const { output } = run(
    process.execPath,
    [tool('jest', 'bin', 'jest.js'), ...args, '--json', `--outputFile=${file}`],
    { allowFailure: true, env: { ...env, NODE_ENV: 'test' } },
  );
  const counted = readResult(file);
  const bad = counted ? counted.numFailedTests + counted.numRuntimeErrorTestSuites : 1;
  // A suite without tests is a suite that was not run.
  const none = counted && counted.numPassedTests + counted.numFailedTests === 0 ? 1 : 0;
  passed += counted?.numPassedTests ?? 0;
  failed += bad + none;
  if (bad + none > 0) process.stdout.write(output.slice(0, 40_000));
}

function playwright(env) {
  say('The interface in Chromium …');
  const file = join(results, 'browser.json');
  const { output } = run(process.execPath, [tool('@playwright', 'test', 'cli.js'), 'test'], {
    allowFailure: true,
    env: { ...env, PLAYWRIGHT_JSON_OUTPUT_NAME: file },
  });
  const stats = readResult(file)?.stats;
  const bad = stats ? stats.unexpected + (stats.expected + stats.flaky === 0 ? 1 : 0) : 1;
  passed += stats ? stats.expected + stats.flaky : 0;
  failed += bad;
  if (stats?.flaky > 0)
    say(
      `${stats.flaky} passed only at the second try:\n${output
        .split('\n')
        .filter((text) => /✘/.test(text))
        .join('\n')}`,
    );
  if (bad > 0) process.stdout.write(output.slice(0, 40_000));
}

function readResult(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch (error) {
    if (error.code === 'ENOENT' || error instanceof SyntaxError) return undefined;
    throw error;
  }
}
