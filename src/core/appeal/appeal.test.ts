import fc from 'fast-check';
import { asDay } from '../calendar/day';
import { positionCurve } from './positionCurve';
import { plainShowings, ShowingsSum } from './showings';

test('a page that is chosen often and stands high does not make the curve steeper', () => {
  const usual = (position: number) => 0.3 / position;
  // The page at the top is chosen twice as often as the site is, at both of its positions; the other half as often.
  const bins = [
    ...[1, 4].map((position) => ({ page: 1, position, level: 2 })),
    ...[4, 8].map((position) => ({ page: 2, position, level: 0.5 })),
  ].map(({ page, position, level }) => ({
    ...{ page, position, impressions: 200_000 },
    clicks: 200_000 * level * usual(position),
  }));
  const curve = positionCurve(bins);
  expect(curve(1) / curve(4)).toBeCloseTo(4, 0);
  expect(curve(4) / curve(8)).toBeCloseTo(2, 0);
  const asOne = positionCurve(
    bins.map(({ position, clicks, impressions }) => ({ position, clicks, impressions })),
  );
  expect(asOne(1) / asOne(8)).toBeGreaterThan(1.5 * (curve(1) / curve(8)));
});

test('the clicks that a curve expects of all bins add up to those there were, and never rise down the page', () => {
  const bin = fc.record({
    page: fc.integer({ min: 1, max: 4 }),
    position: fc.integer({ min: 1, max: 30 }),
    impressions: fc.integer({ min: 1, max: 50_000 }),
    clicks: fc.integer({ min: 0, max: 4000 }),
  });
  fc.assert(
    fc.property(fc.array(bin, { minLength: 1, maxLength: 30 }), (raw) => {
      const bins = raw.map((one) => ({ ...one, clicks: Math.min(one.clicks, one.impressions) }));
      const curve = positionCurve(bins);
      for (let p = 1; p < 40; p++) expect(curve(p + 1)).toBeLessThanOrEqual(curve(p) + 1e-12);
      expect(curve(1)).toBeLessThanOrEqual(1);
      expect(curve(60)).toBeGreaterThan(0);
    }),
  );
});

describe('showings', () => {
  const curve = (position: number) => 0.4 / position;
  const page = {
    firstDay: asDay(100),
    impressions: [100, 50],
    positionSum: [500, 400],
    positionWeight: [100, 50],
  };

  test('are the clicks that a page would have at the usual CTR, query by query, and withheld ones at their own mean', () => {
    const sum = new ShowingsSum(page, curve);
    sum.add(asDay(100), 1, 40, 80);
    sum.add(asDay(100), 2, 20, 120);
    // Before the page's days, without impressions, or without a position: passed over.
    sum.add(asDay(99), 1, 40, 80);
    sum.add(asDay(101), 1, 0, 0);
    sum.add(asDay(101), 1, 10, NaN);
    const { expected, rankWeight } = sum.total();
    // 40 at position 2, 20 at 6, and the 40 left at (500 - 80 - 120) / 40 = 7.5.
    expect(expected[0]).toBeCloseTo(40 * 0.2 + 20 * (0.4 / 6) + 40 * (0.4 / 7.5), 9);
    expect(expected[1]).toBeCloseTo(50 * (0.4 / 8), 9);
    expect([...rankWeight]).toEqual([60, 0]);
    expect([...plainShowings(page, curve)]).toEqual([100 * 0.08, 50 * 0.05].map((v) => expect.closeTo(v, 9)));
  });

  test('queries that are there for some weeks only do not carry the level of those weeks', () => {
    // One query stands at 4 and falls to 5 for the last third; new ones at 18 come with the second third, and fall with it.
    const days = 90;
    const flat = (value: number) => Array.from({ length: days }, () => value);
    const long = {
      firstDay: asDay(0),
      impressions: flat(300),
      positionSum: flat(3000),
      positionWeight: flat(300),
    };
    const sum = new ShowingsSum(long, curve);
    for (let day = 0; day < days; day++) {
      const fall = day >= 60 ? 1.25 : 1;
      sum.add(asDay(day), 1, 100, 100 * 4 * fall);
      if (day >= 30) for (const query of [2, 3]) sum.add(asDay(day), query, 100, 100 * 18 * fall);
    }
    const { rankSum, rankWeight } = sum.total();
    const level = (from: number, to: number) => {
      const over = (column: Float64Array) => column.slice(from, to).reduce((a, b) => a + b, 0);
      return over(rankSum) / over(rankWeight);
    };
    // By each query's own mean the second third would seem 7% better than the first.
    expect(level(30, 60) - level(0, 30)).toBeCloseTo(0, 6);
    expect(level(60, 90) - level(30, 60)).toBeCloseTo(Math.log(1.25), 6);
  });

  test('rank does not move when a query far down comes in, and does when each stands lower', () => {
    const two = { ...page, impressions: [60, 90], positionSum: [200, 800], positionWeight: [60, 90] };
    const wider = new ShowingsSum(two, curve);
    for (const day of [100, 101]) wider.add(asDay(day), 1, 60, 180);
    wider.add(asDay(101), 2, 30, 600);
    const { rankSum, rankWeight } = wider.total();
    expect(rankSum[1]! / rankWeight[1]!).toBeCloseTo(rankSum[0]! / rankWeight[0]!, 9);
    const lower = new ShowingsSum(two, curve);
    lower.add(asDay(100), 1, 60, 180);
    lower.add(asDay(101), 1, 60, 360);
    const fell = lower.total();
    expect(fell.rankSum[1]! / 60 - fell.rankSum[0]! / 60).toBeCloseTo(Math.log(2), 9);
  });
});
