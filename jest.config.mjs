import nextJest from 'next/jest.js';

/**
 * Unit tests lie beside the code; those that run the command line lie in tests/command, those that need a database in
 * tests/integration.
 */
const config = {
  testEnvironment: 'node',
  testMatch: ['<rootDir>/src/**/*.test.{ts,tsx}', '<rootDir>/tests/{command,integration}/**/*.test.ts'],
  moduleNameMapper: { '^verovio/wasm$': '<rootDir>/tests/verovioForJest.cjs' },
  modulePathIgnorePatterns: ['<rootDir>/.next'],
  // Tests make way for the browser's, so a second may last long.
  testTimeout: 180_000,
  // A test runs in a context of its own, and looking up a global there is slow. These are given to each module once:
  // properties of whole lines run seven times as fast. None of them is replaced by a test, and no package has something
  // of its own under the same name (there is an icon called Map, a packet called Error).
  sandboxInjectedGlobals: ['Math', 'Number', 'Object', 'Array', 'JSON', 'Set', 'WeakMap', 'Int16Array', 'Float64Array'],
  setupFiles: ['<rootDir>/tests/propertySeed.ts'],
};

const made = nextJest({ dir: './' })(config);

/** The synthesiser and what it builds on ship as ES modules alone, which Jest must translate. */
const withModules = async () => ({
  ...(await made()),
  transformIgnorePatterns: ['/node_modules/(?!spessasynth_core/|stb-vorbis/|pitchy/)'],
});

export default withModules;
