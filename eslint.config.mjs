import next from 'eslint-config-next/core-web-vitals';
import typescript from 'eslint-config-next/typescript';

const config = [
  { ignores: ['.next/', 'build/', 'data/', 'test-results/', 'next-env.d.ts'] },
  ...next,
  ...typescript,
  {
    files: ['**/*.ts', '**/*.tsx', '**/*.mjs'],
    rules: {
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
    // All SQL is in the store; `.dependency-cruiser.mjs` says which folder may import which.
    files: ['src/**/*.ts', 'src/**/*.tsx'],
    ignores: ['src/store/**', 'src/demo/**', 'src/bench/**', '**/*.test.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        { property: '$client', message: 'Write a function in src/store and call it.' },
      ],
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['**/store/database'],
              importNames: ['prepared'],
              message: 'Write a function in src/store and call it.',
            },
          ],
        },
      ],
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
