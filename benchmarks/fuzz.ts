import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import fc from 'fast-check';
import { fuzz } from '../tests/fuzzReaders';
import { judge } from './judge';
import { hands } from './hands';
import { measureHearing } from './hear';
import { measureSolos } from './solos';
import { anyLevelCase, brokenRules } from '../tests/levelRules';

/**
 * `npm run fuzz [-- CASES [SEED]]` throws damaged files at the readers, `npm run fuzz -- levels [CASES [SEED]]` any
 * recipes at the levels: as many cases as wanted, from a seed on; faults come with the seed that makes them again. `npm
 * run fuzz -- judge [TUNES]` counts what a musician would mark in pencil, `npm run fuzz -- solos [N]` measures composed
 * solos, `npm run fuzz -- hear [N]` judges rendered takes with known mistakes; `npm run fuzz -- properties [CASES [SEED
 * [PATH]]]` tries the properties of the unit tests on thousands of other cases than `npm test` does; `npm run fuzz --
 * hands [NAME]` sets the program's parts beside those that were arranged by hand.
 */
const [first = '', ...others] = process.argv.slice(2);
if (first === 'judge') judge(Number(others[0] ?? 60));
else if (first === 'hands') hands(others[0], (line) => process.stdout.write(`${line}\n`));
else if (first === 'solos') measureSolos(Number(others[0] ?? 200), (line) => process.stdout.write(`${line}\n`));
else if (first === 'hear') await measureHearing(Number(others[0] ?? 200), (line) => process.stdout.write(`${line}\n`));
else if (first === 'properties')
  properties(Number(others[0] ?? 2_000), Number(others[1] ?? Date.now() % 1_000_000), others[2]);
else if (first === 'levels') levels(Number(others[0] ?? 5_000), Number(others[1] ?? 1));
else readers(Number(first || 10_000), Number(others[0] ?? 1));

/**
 * The unit tests with so many cases for each property, from another seed than theirs. @param path of some of them alone
 */
function properties(runs: number, seed: number, path = 'src'): void {
  const env = {
    ...process.env,
    PROPERTY_SEED: String(seed),
    PROPERTY_RUNS: String(runs),
    NODE_ENV: 'test' as const,
  };
  process.stdout.write(`seed ${seed}\n`);
  const jest = join('node_modules', 'jest', 'bin', 'jest.js');
  const { status } = spawnSync(process.execPath, [jest, path, '--silent', '--testTimeout', String(60 * runs)], {
    env,
    stdio: 'inherit',
  });
  if (status !== 0) process.exitCode = 1;
}

function readers(cases: number, seed: number): void {
  const result = fuzz(cases, seed, (line) => process.stdout.write(`${line}\n`));
  for (const fault of result.faults.slice(0, 20)) process.stdout.write(`${fault}\n`);
  process.stdout.write(
    `${result.cases} cases: ${result.read} read, ${result.refused} refused, ${result.faults.length} faults; ${result.stepsAByte.toFixed(1)} steps a byte at most, slowest ${Math.round(result.slowest)} ms, at most ${Math.round(result.megabytes)} MB\n`,
  );
  process.exitCode = result.faults.length === 0 ? 0 : 1;
}

function levels(cases: number, seed: number): void {
  const details = fc.check(
    fc.property(anyLevelCase, (one) => {
      const broken = brokenRules(one);
      if (broken.length > 0) throw new Error(broken.slice(0, 3).join('; '));
    }),
    { numRuns: cases, seed },
  );
  if (details.failed) process.stdout.write(`${fc.defaultReportMessage(details) ?? ''}\n`);
  process.stdout.write(`${details.numRuns} parts: ${details.failed ? 'a rule is broken' : 'no rule is broken'}\n`);
  process.exitCode = details.failed ? 1 : 0;
}
