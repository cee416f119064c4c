import next from 'eslint-config-next/core-web-vitals';
import typescript from 'eslint-config-next/typescript';

/** Imports go one way: app to ui to core, app to services to store to core, jobs to services; core imports none of the others. */
const DIRECTIONS = {
  core: [],
  store: ['core'],
  services: ['core', 'store'],
  jobs: ['core', 'store', 'services', 'outside'],
  outside: ['core'],
  demo: ['core', 'store', 'services', 'jobs', 'outside'],
  bench: ['core', 'store', 'services', 'jobs'],
  ui: ['core'],
  server: ['core', 'store', 'services', 'jobs'],
  app: ['core', 'store', 'services', 'jobs', 'ui', 'outside'],
};

const zones = Object.entries(DIRECTIONS).flatMap(([room, allowed]) =>
  Object.keys(DIRECTIONS)
    .filter((other) => other !== room && !allowed.includes(other))
    .map((other) => ({
      target: `./src/${room}`,
      from: `./src/${other}`,
      message: `src/${room} must not import from src/${other}; see CONTRIBUTING.md.`,
    })),
);

const config = [
  { ignores: ['.next/', 'build/', 'data/', 'test-results/', 'next-env.d.ts'] },
  ...next,
  ...typescript,
  {
    files: ['**/*.ts', '**/*.tsx', '**/*.mjs'],
    rules: {
      'import/no-restricted-paths': ['error', { zones }],
      'import/no-anonymous-default-export': 'off',
      // The React Compiler, which this warns for, is not used.
      'react-hooks/incompatible-library': 'off',
      // `in` finds what objects inherit as well: with a word of a user, `constructor` is in everything.
      'no-restricted-syntax': [
        'error',
        {
          selector: "BinaryExpression[operator='in'][left.type!='Literal'][left.type!='PrivateIdentifier']",
          message: 'Use Object.hasOwn or a Map.',
        },
      ],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      '@typescript-eslint/consistent-type-imports': 'error',
    },
  },
  {
    // No clock and no global random in the computation: both are given to it.
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'Give the day to core.' },
        { object: 'Math', property: 'random', message: 'Give a seeded generator to core.' },
      ],
      'no-restricted-imports': [
        'error',
        { patterns: ['node:*', 'react', 'next/*', 'drizzle-orm*', 'better-sqlite3'] },
      ],
    },
  },
];

export default config;
