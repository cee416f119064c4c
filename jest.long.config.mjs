import base from './jest.config.mjs';

/** Tests that take long by their nature: kills in every transaction, and laws over many seeds. */
export default {
  ...base,
  testTimeout: 300_000,
  testMatch: ['<rootDir>/src/**/*.long.test.ts'],
  testPathIgnorePatterns: ['/node_modules/'],
};
