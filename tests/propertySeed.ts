import fc from 'fast-check';

/**
 * Properties try the same cases in every run of the tests, so that what fails was made to fail by a change; more of
 * them would only be the same ones again. New cases, and thousands of them, are tried by `npm run fuzz -- properties`,
 * which gives other seeds and numbers.
 */
fc.configureGlobal({
  seed: Number(process.env['PROPERTY_SEED'] ?? 20_261_126),
  numRuns: Number(process.env['PROPERTY_RUNS'] ?? 70),
});
