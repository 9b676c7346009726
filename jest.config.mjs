import nextJest from 'next/jest.js';

/** Unit tests lie beside the code; those that run the command line lie in tests/command, those that need a database in tests/integration. */
const config = {
  testEnvironment: 'node',
  testMatch: ['<rootDir>/src/**/*.test.{ts,tsx}', '<rootDir>/tests/{command,integration}/**/*.test.ts'],
  moduleNameMapper: { '^verovio/wasm$': '<rootDir>/tests/verovioForJest.cjs' },
  modulePathIgnorePatterns: ['<rootDir>/.next'],
  testTimeout: 60_000,
  // A test runs in a context of its own, where each look at a global goes through a gate: given along once, what is asked for all the time
  // costs nothing, and properties of whole lines run seven times as fast. Nothing that a test may put
  // something else in place of, and no name that a package gives something of its own (there is an icon called Map, a packet called Error).
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
