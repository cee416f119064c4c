import { earningQueries } from './earned';

test('a search earns by its clicks over the sessions of its page', () => {
  const visited = { sessions: 29_000, engaged: null, conversions: 290, revenue: 5800 };
  const found = earningQueries(
    [
      { query: 'rare', clicks: 20 },
      { query: 'hive kit', clicks: 800 },
      { query: 'bee yard', clicks: 2900 },
    ],
    visited,
  );
  // Common practice, no published source: 800 of 29,000 is about 3%.
  expect(found.map(({ query, share }) => [query, Math.round(share * 100)])).toEqual([
    ['bee yard', 10],
    ['hive kit', 3],
  ]);
  expect(found[1]!.conversions).toBeCloseTo(8);
  expect(found[1]!.revenue).toBeCloseTo(160);
});

test('where nobody visited, nothing is earned, and an absent figure stays absent', () => {
  const none = { sessions: 0, engaged: null, conversions: null, revenue: null };
  expect(earningQueries([{ query: 'a', clicks: 5 }], none)).toEqual([]);
  const [one] = earningQueries([{ query: 'a', clicks: 5 }], { ...none, sessions: 10 });
  expect(one).toMatchObject({ share: 0.5, conversions: null, revenue: null });
});
