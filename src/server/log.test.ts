import { levelTold, pathTold } from './log';

test('a path is told without what opens something or was typed', () => {
  expect(pathTold('/sites/1/ledger?q=mk%40quillow-bees.example')).toBe('/sites/1/ledger');
  expect(pathTold('/shared/abcdefghijklmnop')).toBe('/shared/…');
  expect(pathTold('/pass/abcdefghijklmnop?x=1')).toBe('/pass/…');
  expect(pathTold('/x'.repeat(1000))).toHaveLength(300);
});

test('a level that is none is refused by name', () => {
  expect([levelTold(''), levelTold('warn')]).toEqual(['info', 'warn']);
  expect(() => levelTold('loud')).toThrow(
    'TALLY_LOG_LEVEL is one of debug, info, warn, error, and is “loud”.',
  );
});
