import type { Totals } from '@/core/measures/totals';
import type { QueryReasons, Reasons } from '@/core/reasons/reasons';
import { queryLines } from './queryLines';

const totals = (clicks: number, impressions: number): Totals => ({
  ...{ days: 28, clicks, impressions },
  ...{ positionSum: 5 * impressions, positionWeight: impressions },
});
const query = (before: Totals | null, after: Totals | null): QueryReasons => ({
  ...{ query: 'hive', before, after, reach: 1, rank: 2, appeal: 3 },
  seen: before ? (after ? 'kept' : 'lost') : 'new',
  expected: { before: before && 4, after: after && 4 },
});
const lineOf = (one: QueryReasons, named: string[] = []) => {
  const reasons: Reasons = { total: 6, reach: 1, rank: 2, appeal: 3, unseen: 0, queries: [one] };
  return queryLines(reasons, named)[0]!;
};

test('a query of one span only has nothing on the other side, and no CTR there', () => {
  const { metrics, seen, ctrMoved } = lineOf(query(null, totals(5, 100)));
  expect([seen, ctrMoved]).toEqual(['new', false]);
  expect(metrics.clicks).toMatchObject({ before: 0, after: 5, difference: 5, ratio: null });
  expect(metrics.ctr.before).toBeNull();
});

test('a CTR difference is marked where counting alone cannot make it', () => {
  expect(lineOf(query(totals(20, 1000), totals(60, 1000))).ctrMoved).toBe(true);
  expect(lineOf(query(totals(2, 100), totals(6, 100))).ctrMoved).toBe(false);
});

test('the queries that the change names are known as such', () => {
  const one = query(totals(2, 100), totals(6, 100));
  expect([lineOf(one).named, lineOf(one, ['hive']).named]).toEqual([false, true]);
});
