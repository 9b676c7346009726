// `npm test`: all the set-up, then format, lint, types, unused code, unit tests and chaos side by side with the build,
// then integration tests on a real MariaDB and the interface in a browser. The browser has the machine to itself: beside
// the unit tests, on two cores, its ladders and sound files came later than a person would wait. The last line alone says
// `N passed, N failed`; the exit status tells the same.
import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { ensureMariaDbPackages, startMariaDb } from './setup/mariadb.mjs';
import { ensureDebianPackages, ensureNpmPackages } from './setup/packages.mjs';
import { freePort } from './setup/ports.mjs';
import { ensureTextFonts } from './setup/fonts.mjs';
import { ensureSoundBank } from './setup/sounds.mjs';
import { endProcess, inProject, run, say } from './setup/project.mjs';
import { prepareCommand, startWeb, webAnswers } from './setup/web.mjs';

const folder = inProject('.test-data');
const results = join(folder, 'results');
const caches = inProject('node_modules', '.cache', 'reed-hook');
const begunAt = Date.now();
let passed = 0;
let failed = 0;

ensureNpmPackages();
ensureMariaDbPackages();
ensureDebianPackages({
  chromium: ['chromium'],
  'poppler-utils': ['pdftotext'],
  // What ends TLS before the program, in the example that is tried.
  'nginx-light': ['nginx'],
  openssl: ['openssl'],
});
ensureSoundBank({ optional: false });
ensureTextFonts({ optional: false });
// A run that was killed may have left the small disk of the chaos test, which cannot be removed while it is one.
spawnSync('umount', ['-l', join(folder, 'chaos-disk')], { stdio: 'ignore' });
// Its own folder, made anew: never the data that a person works with.
rmSync(folder, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

const tool = (...parts) => inProject('node_modules', ...parts);
const database = await startMariaDb(folder);
let web;
try {
  const env = { DATABASE_URL: database.setupUrl };
  // Others wait for the build: the rest makes way for it.
  const building = begun([inProject('scripts', 'build.mjs')]);
  const aside = Promise.all([
    checks([
      ['Types', [tool('typescript', 'bin', 'tsc'), '--noEmit'], [tool('next', 'dist', 'bin', 'next'), 'typegen']],
      ['Lint and layers', [tool('eslint', 'bin', 'eslint.js'), '.', '--max-warnings', '0', ...cache('eslint')]],
      [
        'Format',
        [tool('prettier', 'bin', 'prettier.cjs'), '--check', '--log-level', 'warn', '.', ...cache('prettier')],
      ],
      ['Parts as they were', ['--import', 'tsx', inProject('benchmarks', 'partHashes.ts')]],
      ['Unused code', [tool('knip', 'bin', 'knip.js'), '--no-progress', '--cache', '--cache-location', caches]],
    ]),
    jest('Unit tests and command line', ['src', 'tests/command', `--maxWorkers=${availableParallelism()}`], {}),
  ]);
  const { status, said } = await building.ended;
  if (status !== 0) {
    failed += 1;
    process.stdout.write(said());
  } else {
    // What may go wrong goes by while the unit tests run: what is killed waits more than it works.
    await check('Chaos', [inProject('scripts', 'chaos.mjs'), '60']);
    await aside;
    run(process.execPath, prepareCommand, { env });
    await jest('Integration tests', ['tests/integration', '--runInBand'], env);
    await check('Cluster', [inProject('scripts', 'chaos.mjs'), 'once']);
    const port = await freePort(3230);
    web = startWeb({ port, databaseUrl: database.url, cache: join(folder, 'cache'), log: 'error' });
    if (!(await webAnswers(web, port))) {
      say('The web process did not answer.');
      failed += 1;
    } else await playwright({ ...env, REED_ADDRESS: `http://127.0.0.1:${port}` });
  }
  await aside;
} finally {
  if (web) await endProcess(web.pid);
  await database.stop();
}

say(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);

/** Says what has ended and when. */
function ended(name) {
  const seconds = Math.round((Date.now() - begunAt) / 1_000);
  say(`${name}: after ${Math.floor(seconds / 60)} min ${String(seconds % 60).padStart(2, '0')} s`);
}

/** Where a check keeps what it has looked at, from one run to the next. */
function cache(name) {
  return ['--cache', '--cache-location', join(caches, name)];
}

/**
 * A program of this project in the background; `said` is all that it has said so far. @param makesWay for what is not
 * waited for
 */
function begun(args, { env = {}, makesWay = false } = {}) {
  const [command, words] = makesWay ? ['nice', ['-n', '5', process.execPath, ...args]] : [process.execPath, args];
  const child = spawn(command, words, {
    cwd: inProject(),
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  const chunks = [];
  child.stdout.on('data', (chunk) => chunks.push(chunk));
  child.stderr.on('data', (chunk) => chunks.push(chunk));
  const said = () => Buffer.concat(chunks).toString();
  return { ended: new Promise((done) => child.once('close', (status) => done({ status, said }))) };
}

/** One check; it counts as one. @param first what has to be run before it */
async function check(name, args, first, makesWay = false) {
  const before = first && (await begun(first, { makesWay }).ended);
  const { status, said } = before && before.status !== 0 ? before : await begun(args, { makesWay }).ended;
  ended(name);
  if (status === 0) passed += 1;
  else failed += 1;
  if (status !== 0 || ['Chaos', 'Cluster'].includes(name)) process.stdout.write(said());
}

async function checks(all) {
  await Promise.all(all.map(([name, args, first]) => check(name, args, first, true)));
}

async function jest(name, args, env) {
  const file = join(results, `${args[0].replaceAll('/', '-')}.json`);
  const { said } = await begun([tool('jest', 'bin', 'jest.js'), ...args, '--json', `--outputFile=${file}`], {
    env: { ...env, NODE_ENV: 'test' },
    makesWay: true,
  }).ended;
  ended(name);
  const counted = readResult(file);
  const bad = counted ? counted.numFailedTests + counted.numRuntimeErrorTestSuites : 1;
  // A suite without tests is a suite that was not run.
  const none = counted && counted.numPassedTests + counted.numFailedTests === 0 ? 1 : 0;
  passed += counted?.numPassedTests ?? 0;
  failed += bad + none;
  if (bad + none > 0) process.stdout.write(said().slice(0, 40_000));
}

async function playwright(env) {
  const file = join(results, 'browser.json');
  const { said } = await begun([tool('@playwright', 'test', 'cli.js'), 'test'], {
    env: { ...env, PLAYWRIGHT_JSON_OUTPUT_NAME: file },
  }).ended;
  ended('The interface in Chromium');
  const stats = readResult(file)?.stats;
  const bad = stats ? stats.unexpected + (stats.expected + stats.flaky === 0 ? 1 : 0) : 1;
  passed += stats ? stats.expected + stats.flaky : 0;
  failed += bad;
  if (stats?.flaky > 0)
    say(
      `${stats.flaky} passed only at the second try:\n${said()
        .split('\n')
        .filter((text) => /✘/.test(text))
        .join('\n')}`,
    );
  if (bad > 0) process.stdout.write(said().slice(0, 40_000));
}

function readResult(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch (error) {
    if (error.code === 'ENOENT' || error instanceof SyntaxError) return undefined;
    throw error;
  }
}
