import fc from 'fast-check';
import { exceedsJsonLimits, parseJson } from './parseJson';

test('whatever is no deeper than it may be is parsed as by the language', () => {
  fc.assert(
    fc.property(fc.json({ maxDepth: 8 }), (text) => {
      expect(parseJson(text)).toEqual(JSON.parse(text));
    }),
  );
  // Brackets within a text open nothing.
  expect(parseJson(JSON.stringify({ a: '[\\"{'.repeat(500) }))).toEqual({ a: '[\\"{'.repeat(500) });
  expect(() => parseJson('{')).toThrow(SyntaxError);
});

test.each([
  ['lists', '['.repeat(5000) + ']'.repeat(5000)],
  ['objects', `${'{"a":'.repeat(5000)}1${'}'.repeat(5000)}`],
  ['after a text', `["\\"[[",${'['.repeat(65)}`],
])('%s that are nested too deep are refused', (_, text) => {
  expect(() => parseJson(text)).toThrow('nested too deeply (more than 64 levels)');
});

test('a value is looked through to its bottom, and no further', () => {
  const nested = (levels: number) => {
    let value: unknown = 1;
    for (let i = 0; i < levels; i++) value = i % 2 === 0 ? [value] : { value };
    return value;
  };
  expect([0, 1, 64, 65, 100_000].map((levels) => exceedsJsonLimits(nested(levels)))).toEqual([
    ...[false, false, false, true, true],
  ]);
  // Sixty levels of twice the same come to more than can be walked through.
  let twice: unknown = 1;
  for (let i = 0; i < 60; i++) twice = [twice, twice];
  expect(exceedsJsonLimits(twice)).toBe(true);
  expect(exceedsJsonLimits(Array.from({ length: 100_000 }, (_, i) => ({ page: i, text: 'x' })))).toBe(false);
  expect(exceedsJsonLimits({ a: new Date(0), b: [null, undefined] })).toBe(false);
});
