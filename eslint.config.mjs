import { readdirSync } from 'node:fs';
import nextVitals from 'eslint-config-next/core-web-vitals';
import nextTypescript from 'eslint-config-next/typescript';
import { createNodeResolver, importX } from 'eslint-plugin-import-x';

const foldersOf = (folder) =>
  readdirSync(new URL(folder, import.meta.url), { withFileTypes: true })
    .filter((entry) => entry.isDirectory())
    .map(({ name }) => name);

/**
 * What each layer may import, itself apart. All arrows stand in this one table and become the zones of one rule, so
 * that no block of this file can undo another. A type-only import counts: a tie is a tie.
 */
const LAYERS = {
  core: [],
  engrave: ['core'],
  sound: ['core'],
  demo: ['core'],
  db: ['core'],
  ui: ['core'],
  server: ['core', 'engrave', 'sound', 'db', 'demo'],
  features: ['core', 'engrave', 'sound', 'ui'],
  cli: ['core', 'engrave', 'sound'],
  app: ['core', 'engrave', 'ui', 'features', 'server', 'db'],
};

/** The rooms of core, lowest first: each may import those before it. */
const ROOMS = [
  'pitch',
  'time',
  'harmony',
  'score',
  'instruments',
  'fingering',
  'analysis',
  'pools',
  'drills',
  'solos',
  'work',
  'levels',
  'rehearsal',
  'keys',
  'ensemble',
  'planning',
  'formats',
];

/** Faces of rooms: what may be used from outside stands in these files, and all else is the room's own business. */
const FACES = {
  score: ['./index.ts', './edit/index.ts'],
  work: ['./index.ts', './stored/index.ts'],
  // Its package is for files alone: no screen loads it.
  formats: ['./index.ts', './calendar/index.ts'],
};
const outsideOf = (room) => [
  ...Object.keys(LAYERS)
    .filter((layer) => layer !== 'core')
    .map((layer) => `./src/${layer}`),
  ...ROOMS.filter((other) => other !== room).map((other) => `./src/core/${other}`),
];

const LAYER_WORDS = 'the layers point one way: see docs/architecture.md';
const zones = [
  ...Object.entries(LAYERS).flatMap(([layer, allowed]) =>
    Object.keys(LAYERS)
      .filter((other) => other !== layer && !allowed.includes(other))
      .map((other) => ({ target: `./src/${layer}`, from: `./src/${other}`, message: LAYER_WORDS })),
  ),
  ...ROOMS.flatMap((room, index) =>
    ROOMS.slice(index + 1).map((later) => ({
      target: `./src/core/${room}`,
      from: `./src/core/${later}`,
      message: `core points one way: ${ROOMS.join(' ← ')}`,
    })),
  ),
  ...ROOMS.flatMap((room) =>
    outsideOf(room).map((target) => ({
      target,
      from: `./src/core/${room}`,
      except: FACES[room] ?? ['./index.ts'],
      message: `${room} is entered by its face: src/core/${room}/index.ts`,
    })),
  ),
  // A feature knows what all share (work), and no other. The bench is the frame into which steps are plugged.
  ...foldersOf('./src/features/').flatMap((feature) =>
    foldersOf('./src/features/')
      .filter((other) => other !== feature && other !== 'work' && feature !== 'bench')
      .map((other) => ({
        target: `./src/features/${feature}`,
        from: `./src/features/${other}`,
        message: 'a feature imports no other; what they share lies in features/work',
      })),
  ),
];

/** Packages that a folder may not import; each file is matched by one of these blocks alone. */
function packages(files, { ignores = [], ...restriction }) {
  return { files, ignores: ['**/*.test.ts', ...ignores], rules: { 'no-restricted-imports': ['error', restriction] } };
}
const KNEX = { name: 'knex', message: 'tables are known to db alone: queries live there' };
const TESTED = ['**/*.test.ts', '**/*.test.tsx'];

const config = [
  {
    ignores: [
      'node_modules/**',
      '.next/**',
      '.data/**',
      '.test-data/**',
      '.built/**',
      'scratch/**',
      'next-env.d.ts',
      'public/**',
      'test-results/**',
    ],
  },
  ...nextVitals,
  ...nextTypescript,
  {
    files: ['**/*.ts', '**/*.tsx'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_', destructuredArrayIgnorePattern: '^_' },
      ],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      'react-hooks/exhaustive-deps': 'error',
      'react-hooks/set-state-in-effect': 'off',
    },
  },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
  {
    files: ['src/**/*.ts', 'src/**/*.tsx'],
    ignores: TESTED,
    plugins: { 'import-x': importX },
    settings: { 'import-x/resolver-next': [createNodeResolver({ extensions: ['.ts', '.tsx', '.mjs', '.js'] })] },
    rules: {
      'import-x/no-restricted-paths': ['error', { zones, basePath: import.meta.dirname }],
      'import-x/no-cycle': ['error', { ignoreExternal: true }],
    },
  },
  { files: ['src/**/*.ts', 'src/**/*.tsx'], ignores: TESTED, rules: { complexity: ['warn', 25] } },
  {
    files: ['src/core/**/*.ts'],
    ignores: TESTED,
    rules: {
      'no-console': 'error',
      'no-restricted-globals': [
        'error',
        ...['window', 'document', 'process', 'localStorage', 'fetch', 'setTimeout', 'performance'].map((name) => ({
          name,
          message: 'core knows no screen, network or clock.',
        })),
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'core is given a seed.' },
        { object: 'Date', property: 'now', message: 'core knows no clock.' },
      ],
    },
  },
  packages(['src/core/**'], {
    ignores: ['src/core/formats/json/**', 'src/core/work/stored/**'],
    patterns: [
      {
        regex: '^(?!\\.|saxes$|fflate$|dequal$|papaparse$|lru-cache$|ts-fsrs$|ics$)',
        message: 'core imports no package but small pure ones.',
      },
    ],
  }),
  packages(['src/core/formats/json/**', 'src/core/work/stored/**'], {
    patterns: [
      {
        regex: '^(?!\\.|dequal$|zod$)',
        message: 'core imports no package but small pure ones; zod here alone, where documents come in.',
      },
    ],
  }),
  packages(['src/**'], { ignores: ['src/core/**', 'src/db/**', 'src/server/database.ts'], paths: [KNEX] }),
];

export default config;
