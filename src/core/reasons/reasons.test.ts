import fc from 'fast-check';
import type { Totals } from '../measures/totals';
import { brandWords, isBrandQuery } from './brand';
import { ctrParts } from './exposure';
import { positionCurve } from '../appeal/positionCurve';
import { whyClicksMoved, type QueryTotals } from './reasons';
import { roundParts } from './rounding';
import { shareProduct, type Factors } from './sharing';

const factor = fc.double({ min: 0, max: 1000, noNaN: true });
const factors: fc.Arbitrary<Factors> = fc.tuple(factor, factor, factor);
const product = ([a, b, c]: Factors) => a * b * c;
/** The largest product that any order of change passes through: rounding is in proportion to it. */
const largest = (a: Factors, b: Factors) =>
  Math.max(1, product(a.map((v, i) => Math.max(v, b[i]!)) as never));
const sum = (list: readonly number[]) => list.reduce((total, value) => total + value, 0);

describe('sharing of a product', () => {
  test('adds up', () => {
    fc.assert(
      fc.property(factors, factors, (before, after) => {
        const whole = product(after) - product(before);
        const size = largest(before, after);
        expect(Math.abs(sum(shareProduct(before, after)) - whole) / size).toBeLessThan(1e-12);
      }),
    );
  });

  test('is symmetric: neither the order of the factors nor the direction of time matters', () => {
    fc.assert(
      fc.property(factors, factors, (before, after) => {
        const shares = shareProduct(before, after);
        const turned = shareProduct([before[2], before[0], before[1]], [after[2], after[0], after[1]]);
        const scale = largest(before, after);
        expect(turned.map((s) => s / scale)).toEqual(
          [shares[2], shares[0], shares[1]].map((s) => expect.closeTo(s / scale, 10)),
        );
        shareProduct(after, before).forEach((share, i) =>
          expect(share / scale).toBeCloseTo(-shares[i]! / scale, 10),
        );
      }),
    );
  });

  test('gives nothing to a factor that did not move', () => {
    fc.assert(
      fc.property(factors, factors, fc.nat(2), (before, after, still) => {
        const kept = after.map((value, i) => (i === still ? before[i]! : value)) as unknown as Factors;
        expect(shareProduct(before, kept)[still]).toBe(0);
      }),
    );
  });

  test('gives all to the one that did', () => {
    expect(shareProduct([10, 0.5, 2], [30, 0.5, 2])).toEqual([20, 0, 0]);
  });
});

const totals = (clicks: number, impressions: number, position: number | null): Totals => ({
  ...{ days: 28, clicks, impressions },
  positionSum: (position ?? 0) * impressions,
  positionWeight: position === null ? 0 : impressions,
});
const curve = positionCurve([]);
const anyTotals = fc
  .tuple(
    fc.nat(60),
    fc.integer({ min: 1, max: 4000 }),
    fc.option(fc.double({ min: 1, max: 60, noNaN: true })),
  )
  .map(([clicks, more, position]) => totals(clicks, clicks + more, position));
const anyQuery = fc.record({
  query: fc.string(),
  before: fc.option(anyTotals),
  after: fc.option(anyTotals),
});

describe('why clicks moved', () => {
  test('reach, rank, appeal and unseen add up to the difference', () => {
    fc.assert(
      fc.property(anyTotals, anyTotals, fc.array(anyQuery), (before, after, queries) => {
        const { total, reach, rank, appeal, unseen } = whyClicksMoved(before, after, queries, curve);
        expect(total).toBe(after.clicks - before.clicks);
        const size = 1 + Math.abs(reach) + Math.abs(rank) + Math.abs(appeal);
        expect((reach + rank + appeal + unseen) / size).toBeCloseTo(total / size, 12);
      }),
    );
  });

  test('a new or lost query is all reach', () => {
    const queries: QueryTotals[] = [
      { query: 'hive tool', before: null, after: totals(30, 600, 4) },
      { query: 'old smoker', before: totals(12, 90, 2), after: null },
    ];
    const reasons = whyClicksMoved(totals(12, 90, 2), totals(35, 700, 4), queries, curve);
    expect(reasons).toMatchObject({ total: 23, reach: 18, rank: 0, appeal: 0, unseen: 5 });
    expect(reasons.queries.map((q) => [q.query, q.seen, q.reach])).toEqual([
      ['hive tool', 'new', 30],
      ['old smoker', 'lost', -12],
    ]);
  });

  test('each reason alone gets it all', () => {
    const of = (after: Totals) => {
      const before = totals(50, 1000, 5);
      return whyClicksMoved(before, after, [{ query: 'q', before, after }], curve);
    };
    expect(of(totals(100, 2000, 5))).toMatchObject({ reach: 50, rank: 0, appeal: 0 });
    expect(of(totals(100, 1000, 5))).toMatchObject({ reach: 0, rank: 0, appeal: 50 });
    const higher = of(totals((50 * curve(3)) / curve(5), 1000, 3));
    expect(higher.rank).toBeCloseTo(higher.total, 9);
    // Without a position rank cannot have a part.
    expect(of(totals(100, 1000, null))).toMatchObject({ rank: 0, appeal: 50 });
  });
});

describe('CTR by position', () => {
  const bin = (position: number, ctr: number, impressions: number) => ({
    ...{ position, impressions, clicks: ctr * impressions },
  });

  test('where there is much data it is the site’s own, and it never rises', () => {
    const own = positionCurve([bin(1, 0.4, 1e6), bin(2, 0.1, 1e6), bin(3, 0.3, 1e6), bin(4, 0.05, 1e6)]);
    expect(own(1)).toBeCloseTo(0.4, 2);
    // 0.1 at two and 0.3 at three violate the order and are pooled.
    expect(own(2)).toBeCloseTo(0.2, 2);
    expect(own(3)).toBeCloseTo(0.2, 2);
    expect(own(4)).toBeCloseTo(0.05, 2);
  });

  test('a hundred impressions at one place hardly move it from the smooth default', () => {
    const usual = positionCurve([bin(2, 0.12, 1e6)]);
    expect(positionCurve([bin(2, 0.12, 1e6), bin(9, 0, 100)])(9)).toBeGreaterThan(0.75 * usual(9));
  });

  test('it falls all the way, stays above 0, and has no jumps', () => {
    const bins = fc.array(
      fc.tuple(
        fc.double({ min: 1, max: 80, noNaN: true }),
        fc.double({ min: 0, max: 0.9, noNaN: true }),
        fc.integer({ min: 1, max: 1e6 }),
      ),
    );
    fc.assert(
      fc.property(bins, (list) => {
        const own = positionCurve(list.map(([p, ctr, m]) => bin(p, ctr, m)));
        let last = own(0.5);
        for (let position = 1; position < 100; position += 0.5) {
          const here = own(position);
          expect(here).toBeGreaterThan(0);
          expect(here).toBeLessThanOrEqual(last * (1 + 1e-9));
          last = here;
        }
      }),
    );
  });

  test('searches for the site itself are known by its name and host', () => {
    const words = brandWords('Quillow Bee Yard', 'https://www.quillow-bees.example');
    expect(words).toEqual(['quillow', 'quillowbees']);
    expect(
      ['quillow bee yard', 'Quillow honey', 'quillow bees', 'quillowbees'].every((q) =>
        isBrandQuery(q, words),
      ),
    ).toBe(true);
    expect(['bee smoker', 'bees', 'willow bees'].some((q) => isBrandQuery(q, words))).toBe(false);
    expect(
      ['hive & honey', 'Hive and Honey opening hours', 'hivehoney', 'hiveandhoney', 'hive+honey'].every((q) =>
        isBrandQuery(q, brandWords('Hive & Honey', 'https://hive-and-honey.example')),
      ),
    ).toBe(true);
    expect(['hive honey', 'hive & honey shop'].map((q) => isBrandQuery(q, ['hive and honey']))).toEqual([
      true,
      true,
    ]);
    expect(['honey from a hive', 'hive', 'and'].some((q) => isBrandQuery(q, ['hive & honey', '&']))).toBe(
      false,
    );
    expect(brandWords('The Yard', 'https://hives.example')).toEqual(['hives']);
  });
});

test('a fall of CTR is parted into exposure and what happened within the searches', () => {
  const before = totals(100, 1000, 4);
  const same = { query: 'a', before, after: totals(100, 1000, 4) };
  const wide = ctrParts(before, totals(110, 2000, 9), [
    same,
    { query: 'b', before: null, after: totals(10, 1000, 14) },
  ]);
  expect(wide?.within).toBeCloseTo(0, 12);
  expect(wide?.exposure).toBeCloseTo(Math.log(0.055 / 0.1), 12);
  const worse = ctrParts(before, totals(50, 1000, 4), [{ query: 'a', before, after: totals(50, 1000, 4) }]);
  expect(worse?.exposure).toBeCloseTo(0, 12);
  expect(worse?.within).toBeCloseTo(Math.log(0.5), 12);
  expect(ctrParts(totals(0, 10, 3), before, [])).toBeNull();
});

test('rounded parts still add up to their rounded sum, each within one of its own', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -500, max: 500, noNaN: true }), { minLength: 1, maxLength: 6 }),
      (parts) => {
        const rounded = roundParts(parts);
        expect(sum(rounded)).toBe(Math.round(sum(parts)) + 0);
        rounded.forEach((part, i) => expect(Math.abs(part - parts[i]!)).toBeLessThanOrEqual(1 + 1e-9));
      },
    ),
  );
});
