import fc from 'fast-check';
import { parameterMatcher } from './rules';

test('a pattern of many stars is matched at once', () => {
  // By trying every way, as an expression would, this takes longer than anybody has.
  const matches = parameterMatcher(['*a*a*a*a*a*a*a*a*a*a*a*a*a*a*a*a*a*a*a*b']);
  expect(matches('a'.repeat(20_000))).toBe(false);
  expect(matches(`${'a'.repeat(20_000)}b`)).toBe(true);
});

test.each<[string, string, boolean]>([
  ['utm_*', 'UTM_source', true],
  ['*clid', 'gclid', true],
  ['*clid', 'clidx', false],
  ['a*a', 'a', false],
  ['a*a', 'aa', true],
  ['a*b*c', 'aXbYc', true],
  ['a*b*c', 'acb', false],
  ['a.c', 'abc', false],
  ['[x]', '[x]', true],
  ['*', '', true],
  ['constructor', 'constructor', true],
])('%s fits %s: %p', (pattern, name, fits) => {
  expect(parameterMatcher([pattern])(name)).toBe(fits);
});

/** The plainest way: a star stands for any beginning of what is left. */
function slowly(pattern: string, text: string): boolean {
  if (pattern === '') return text === '';
  if (pattern[0] !== '*') return pattern[0] === text[0] && slowly(pattern.slice(1), text.slice(1));
  return slowly(pattern.slice(1), text) || (text !== '' && slowly(pattern, text.slice(1)));
}

test('it finds what trying every way finds', () => {
  const of = (letters: string[]) => fc.string({ unit: fc.constantFrom(...letters), maxLength: 8 });
  fc.assert(
    fc.property(of(['a', 'b', '*']), of(['a', 'b']), (pattern, text) => {
      expect(parameterMatcher([pattern])(text)).toBe(slowly(pattern, text));
    }),
    { numRuns: 2000 },
  );
});
