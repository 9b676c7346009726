import fc from 'fast-check';

/**
 * Properties try the same cases in every run of the tests, so that what fails was made to fail by a change; new cases are tried by
 * `npm run fuzz -- properties`, which gives other seeds.
 */
fc.configureGlobal({ seed: Number(process.env['PROPERTY_SEED'] ?? 20_261_126) });
