import { fuzz } from '../tests/fuzzReaders';

/** `npm run fuzz [-- CASES [SEED]]`: as many cases as wanted, from a seed on; faults come with the seed that makes them again. */
const cases = Number(process.argv[2] ?? 10_000);
const seed = Number(process.argv[3] ?? 1);
const result = fuzz(cases, seed, (line) => process.stdout.write(`${line}\n`));
for (const fault of result.faults.slice(0, 20)) process.stdout.write(`${fault}\n`);
process.stdout.write(`${result.cases} cases: ${result.read} read, ${result.refused} refused, ${result.faults.length} faults; slowest ${Math.round(result.slowest)} ms, at most ${Math.round(result.megabytes)} MB\n`);
process.exitCode = result.faults.length === 0 ? 0 : 1;
