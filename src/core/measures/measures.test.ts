import fc from 'fast-check';
import { asDay } from '../calendar/day';
import { compare, comparePosition, compareTotals } from './comparison';
import {
  averagePosition,
  clickThroughRate,
  NO_FIGURES,
  sumFigures,
  type DayFigures,
  type Totals,
} from './totals';
import { Accumulator } from './accumulator';

const totals = (clicks: number, impressions: number, position = 1): Totals => ({
  days: 28,
  clicks,
  impressions,
  positionSum: position * impressions,
  positionWeight: impressions,
});

const dayRow = (day: number, clicks: number, impressions: number, positionSum: number): DayFigures => ({
  day: asDay(day),
  ...new Accumulator().add(clicks, impressions, positionSum),
});

const anyRows = fc.array(
  fc
    .record({
      day: fc.integer({ min: 0, max: 60 }).map(asDay),
      clicks: fc.integer({ min: 0, max: 100 }),
      impressions: fc.integer({ min: 0, max: 5000 }),
      positionSum: fc.oneof(fc.integer({ min: 0, max: 50_000 }), fc.constant(NaN)),
    })
    .map((row) => dayRow(row.day, row.clicks, row.impressions, row.positionSum)),
);

test('CTR is the ratio of the sums, not the mean of daily ratios', () => {
  const rows: DayFigures[] = [dayRow(1, 1, 1, 1), dayRow(2, 0, 99, 990)];
  const sum = sumFigures(rows, { firstDay: asDay(1), lastDay: asDay(2) });
  expect(clickThroughRate(sum)).toBe(0.01);
  expect(averagePosition(sum)).toBeCloseTo((1 * 1 + 10 * 99) / 100, 12);
});

test('without impressions CTR and position are absent, not 0', () => {
  expect(clickThroughRate(NO_FIGURES)).toBeNull();
  expect(averagePosition(NO_FIGURES)).toBeNull();
});

test('rows without a position do not weigh on the average', () => {
  const rows: DayFigures[] = [dayRow(1, 0, 10, 40), dayRow(2, 0, 1000, NaN)];
  expect(averagePosition(sumFigures(rows, { firstDay: asDay(0), lastDay: asDay(9) }))).toBe(4);
});

test('sums over two neighbouring spans add up to the sum over both', () => {
  fc.assert(
    fc.property(anyRows, fc.integer({ min: 0, max: 59 }), (rows, cut) => {
      const whole = sumFigures(rows, { firstDay: asDay(0), lastDay: asDay(60) });
      const left = sumFigures(rows, { firstDay: asDay(0), lastDay: asDay(cut) });
      const right = sumFigures(rows, { firstDay: asDay(cut + 1), lastDay: asDay(60) });
      for (const key of Object.keys(whole) as (keyof Totals)[])
        expect(left[key] + right[key]).toBe(whole[key]);
    }),
  );
});

test('swapping the spans turns differences round and ratios over', () => {
  const side = fc.tuple(
    fc.integer({ min: 1, max: 500 }),
    fc.integer({ min: 500, max: 9000 }),
    fc.integer({ min: 1, max: 40 }),
  );
  fc.assert(
    fc.property(side, side, (a, b) => {
      const there = compareTotals(totals(...a), totals(...b));
      const back = compareTotals(totals(...b), totals(...a));
      for (const metric of ['clicks', 'impressions', 'ctr'] as const) {
        expect(there[metric].difference).toBe(-back[metric].difference! + 0);
        expect(there[metric].ratio! * back[metric].ratio!).toBeCloseTo(1, 10);
      }
      expect(there.position.placesGained! + back.position.placesGained!).toBe(0);
    }),
  );
});

test('a gain of places is positive although the number falls', () => {
  expect(comparePosition(7.9, 7.6).placesGained).toBeCloseTo(0.3, 12);
});

test('nothing is divided by nought, and absence is passed on', () => {
  expect(compare(0, 5)).toEqual({ before: 0, after: 5, difference: 5, ratio: null });
  expect(compareTotals(null, totals(1, 10)).clicks).toEqual({
    before: null,
    after: 1,
    difference: null,
    ratio: null,
  });
});

// Newcombe, Statistics in Medicine 17 (1998) 873-890: 56 of 70 against 48 of 80. Only the difference itself belongs
// here; its interval comes with inference.
test('difference of two proportions, Newcombe 1998', () => {
  expect(compareTotals(totals(48, 80), totals(56, 70)).ctr.difference).toBeCloseTo(0.2, 12);
});

// Newcombe, Statistics in Medicine 17 (1998) 857-872: each proportion lies inside its published 95% score interval.
test.each([
  [81, 263, 0.2553, 0.3662],
  [15, 148, 0.0624, 0.1605],
  [0, 20, 0, 0.1611],
  [1, 29, 0.0061, 0.1718],
])('the proportion %p of %p, Newcombe 1998', (clicks, impressions, low, high) => {
  const rate = clickThroughRate(totals(clicks, impressions))!;
  expect(rate).toBeCloseTo(clicks / impressions, 12);
  expect(rate).toBeGreaterThanOrEqual(low);
  expect(rate).toBeLessThanOrEqual(high);
});

// Common practice, no published source.
test('148 clicks of 11,000 impressions is 1.35%', () => {
  expect(clickThroughRate(totals(148, 11_000))).toBeCloseTo(0.0135, 4);
});

// Common practice, no published source: CTR doubling at the same impressions doubles the clicks.
test('doubled CTR at the same impressions is doubled clicks', () => {
  const { clicks, ctr } = compareTotals(totals(100, 10_000), totals(200, 10_000));
  expect([clicks.ratio, ctr.ratio]).toEqual([2, 2]);
});
