/** Unit tests stand beside the code, those of components as `.test.tsx` with jsdom; the browser tests in tests/e2e are run by Playwright instead. */
export default {
  testEnvironment: 'node',
  // Laws are tried on many databases, and two test files run beside each other on a small machine.
  testTimeout: 30_000,
  // Tests run in a sandbox, where global lookups are slow: computing took four times as long.
  sandboxInjectedGlobals: [
    ...['Array', 'Error', 'JSON', 'Math', 'Number', 'Object', 'Set', 'String'],
    ...['Float32Array', 'Float64Array', 'Int32Array', 'Uint8Array', 'Uint16Array', 'Uint32Array'],
  ],
  testMatch: ['<rootDir>/src/**/*.test.{ts,tsx}', '<rootDir>/tests/unit/**/*.test.ts'],
  // Those are run by `npm run test:long`.
  testPathIgnorePatterns: ['/node_modules/', '\\.long\\.test\\.ts$'],
  moduleNameMapper: {
    '^@/(.*)$': '<rootDir>/src/$1',
    '\\.css$': '<rootDir>/tests/support/noStyles.ts',
    '^@fontsource': '<rootDir>/tests/support/noStyles.ts',
    // There is no request around what is called by a test itself.
    '^next/headers(\\.js)?$': '<rootDir>/tests/support/nextHeaders.ts',
  },
  transform: {
    '^.+\\.(t|j|mj)sx?$': [
      '@swc/jest',
      {
        jsc: {
          parser: { syntax: 'typescript', tsx: true },
          target: 'es2022',
          transform: { react: { runtime: 'automatic' } },
        },
      },
    ],
  },
  // These libraries ship as ECMAScript modules only.
  transformIgnorePatterns: [
    '/node_modules/(?!(d3-random|hyparquet|hyparquet-compressors|hyparquet-writer|hysnappy|fzstd|ml-hclust|ml-distance-euclidean|is-any-array|ml-array-rescale|react-hotkeys-hook|nuqs|better-auth|@better-auth|@better-fetch|better-call|nanostores|jose|rou3|defu|kysely|@noble|@zxcvbn-ts)/)',
  ],
  modulePathIgnorePatterns: ['<rootDir>/.next', '<rootDir>/build'],
};
