import fc from 'fast-check';
import { findRank, wordsOf } from './find';

/** Names in the order in which they are found. */
const found = (typed: string, names: [string, string?][]) =>
  names
    .map(([name, detail]) => ({ name, rank: findRank(typed, name, detail) }))
    .filter(({ rank }) => rank !== null)
    .sort((a, b) => a.rank! - b.rank!)
    .map(({ name }) => name);

test('words are matched by their beginnings and not by scattered letters', () => {
  const places: [string, string?][] = [
    ['Settings', 'name, spans and settling days'],
    ['/guides/mead-basics/', 'page'],
    ['Desk', 'what is due today'],
  ];
  expect(found('mead', places)).toEqual(['/guides/mead-basics/']);
  expect(found('guides basics', places)).toEqual(['/guides/mead-basics/']);
  expect(found('set', places)).toEqual(['Settings']);
});

test('the closest name comes first, and hints last', () => {
  expect(
    found('wax', [
      ['Ledger', 'wax and honey'],
      ['Beeswax candles'],
      ['/shop/wax-blocks-for-candles/'],
      ['Wax'],
      ['/wax/'],
      ['Wax title shorter'],
    ]),
  ).toEqual([
    'Wax',
    '/wax/',
    'Wax title shorter',
    '/shop/wax-blocks-for-candles/',
    'Beeswax candles',
    'Ledger',
  ]);
});

test('all words that are typed have to fit, in any order, whatever their case and accents', () => {
  expect(findRank('Smoker shorter', 'Shorter title on the smoker guide')).not.toBeNull();
  expect(findRank('smoker longer', 'Shorter title on the smoker guide')).toBeNull();
  expect(findRank('MÜL', '/imkerei/müller/')).not.toBeNull();
});

test('whatever is called what was typed comes before everything else', () => {
  fc.assert(
    fc.property(fc.string({ minLength: 1, maxLength: 12 }), fc.string({ maxLength: 12 }), (name, other) => {
      fc.pre(wordsOf(name).length > 0);
      expect(findRank(name, name)).toBe(0);
      const rank = findRank(name, `${name} ${other}`);
      if (wordsOf(other).length > 0 && rank !== null) expect(rank).toBeGreaterThan(0);
    }),
  );
  expect(findRank('', 'anything')).toBe(0);
  expect(findRank('---', 'anything')).toBe(0);
});
