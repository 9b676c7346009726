import nextVitals from 'eslint-config-next/core-web-vitals';
import nextTypescript from 'eslint-config-next/typescript';

/** Forbids a folder the imports of some others. A type-only import counts: a tie is a tie. */
function layer(files, forbidden, message, extra = {}) {
  return {
    files,
    ignores: ['**/*.test.ts', '**/*.test.tsx'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            ...(forbidden.length > 0
              ? [{ group: forbidden.flatMap((name) => [`**/${name}/**`, `@/${name}/**`]), message }]
              : []),
            ...(extra.patterns ?? []),
          ],
          paths: extra.paths ?? [],
        },
      ],
    },
  };
}

const above = ['engrave', 'sound', 'db', 'server', 'features', 'ui', 'app', 'cli', 'demo'];
const purePackages = {
  patterns: [{ regex: '^(?!\\.|saxes$|fflate$|dequal$)', message: 'core imports no package but small pure ones.' }],
};
const zodToo = {
  patterns: [
    {
      regex: '^(?!\\.|saxes$|fflate$|dequal$|zod$)',
      message: 'core imports no package but small pure ones; zod in formats/json alone.',
    },
  ],
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
  'levels',
  'keys',
  'formats',
];

const rooms = ROOMS.map((room, index) =>
  layer(
    [`src/core/${room}/**`],
    [...above, ...ROOMS.slice(index + 1).filter((later) => !(room === 'levels' && later === 'formats'))],
    'core points one way: pitch, time ← harmony ← score ← instruments ← fingering ← analysis ← levels ← keys, formats.',
    room === 'formats' ? zodToo : purePackages,
  ),
);

const config = [
  {
    ignores: [
      'node_modules/**',
      '.next/**',
      '.data/**',
      '.test-data/**',
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
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
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
  layer(['src/core/*.ts'], above, 'core imports no other layer.', purePackages),
  ...rooms,
  layer(
    ['src/engrave/**'],
    ['sound', 'db', 'server', 'features', 'ui', 'app', 'cli', 'demo'],
    'engrave builds on core alone.',
  ),
  layer(
    ['src/sound/**'],
    ['engrave', 'db', 'server', 'features', 'ui', 'app', 'cli', 'demo'],
    'sound builds on core alone.',
  ),
  layer(
    ['src/db/**'],
    ['engrave', 'sound', 'server', 'features', 'ui', 'app', 'cli', 'demo'],
    'db builds on core alone.',
  ),
  layer(['src/server/**'], ['features', 'ui', 'app', 'cli'], 'server stands below the screens and routes.'),
  layer(
    ['src/ui/**'],
    ['engrave', 'sound', 'db', 'server', 'features', 'app', 'cli', 'demo'],
    'ui gets finished values.',
  ),
  layer(['src/features/**'], ['db', 'server', 'app', 'cli', 'demo'], 'features reach the server through its routes.'),
  layer(
    ['src/cli/**'],
    ['sound', 'db', 'server', 'features', 'ui', 'app'],
    'the command line is a shell over core and engrave.',
  ),
  {
    // Tables are known to db alone: nothing else may touch Knex, but the pool that server keeps.
    files: ['src/**/*.ts', 'src/**/*.tsx'],
    ignores: [
      'src/db/**',
      'src/server/database.ts',
      'src/core/**',
      'src/engrave/**',
      'src/server/**',
      'src/ui/**',
      'src/features/**',
      'src/cli/**',
    ],
    rules: { 'no-restricted-imports': ['error', { paths: [{ name: 'knex', message: 'queries live in db.' }] }] },
  },
];

export default config;
