import { randomLcg, randomNormal } from 'd3-random';
import { asDay } from '../calendar/day';
import { DAY, readerOf, type DayOf } from '../../../tests/support/readingInput';
import { commonVariance } from './commonVariance';
import type { Swing } from './swing';

const ROWS = 20;
const HORIZON = { days: 28, settlingDays: 7 };

/** A swing with nothing in it but net moves of appeal, in windows that begin on these days and stand apart. */
function swingOf(days: readonly number[], netOf: (column: number, row: number) => number): Swing {
  const nets = Float32Array.from({ length: ROWS * days.length }, (_, at) =>
    netOf(Math.floor(at / ROWS), at % ROWS),
  );
  return {
    ...{ horizon: HORIZON, days: days.map(asDay), rows: ROWS, overlapping: 1 },
    measures: { appeal: { nets, correlation: 0, criticalValue: 1.7 } },
  } as unknown as Swing;
}
const rows = Array.from({ length: ROWS }, (_, row) => ({ row, weight: row < 10 ? 2 : 1, shared: 0.0002 }));
const days = Array.from({ length: 400 }, (_, i) => 1000 + i);

describe('what a control misses of rows all at once', () => {
  test('is what their moves have in common, whatever each does by itself', () => {
    const normal = randomNormal.source(randomLcg(0.21))();
    const missed = days.map(() => 0.08 * normal());
    const variance = commonVariance(
      'appeal',
      rows,
      swingOf(days, (column) => missed[column]! + 0.2 * normal()),
      asDay(5000),
    );
    expect(Math.sqrt(variance)).toBeCloseTo(0.08, 2);
  });

  test('is no less than what the control itself is known to, and what is assumed where nothing was seen', () => {
    // Moves that cancel each other have less than nothing in common.
    const against = swingOf(days, (_column, row) => (row % 2 === 0 ? 0.2 : -0.2));
    const even = rows.map((one) => ({ ...one, weight: 1 }));
    expect(commonVariance('appeal', even, against, asDay(5000))).toBeCloseTo(0.0002, 12);
    const none = commonVariance(
      'appeal',
      rows,
      swingOf([], () => 0),
      asDay(5000),
    );
    expect(none).toBeCloseTo(0.0017, 9);
  });

  test('leaves out windows that were not over before the day, and rows of which nothing is known then', () => {
    const late = swingOf(days, (column, row) => (row === 3 ? NaN : column < 100 ? 0.1 : 5));
    // Of the first hundred windows the last ends on day 1099 + 35.
    expect(commonVariance('appeal', rows, late, asDay(1134))).toBeLessThan(0.011);
    expect(commonVariance('appeal', rows, late, asDay(1135))).toBeGreaterThan(0.2);
    const alone = swingOf(days, (_column, row) => (row === 3 ? 0.5 : NaN));
    expect(commonVariance('appeal', rows, alone, asDay(5000))).toBeCloseTo(0.0017, 9);
  });
});

describe('of an engine', () => {
  const page =
    (salt: number): DayOf =>
    (day) => {
      const at = 1 + 0.06 * Math.sin(day / (8 + salt) + salt);
      return { clicks: Math.round(40 * at), impressions: Math.round(1200 * at), position: 6 };
    };
  const pages = (count: number) => Array.from({ length: count }, (_, i) => page(i + 1));
  const of = (count: number, ids: readonly number[]) => {
    const engine = readerOf(pages(count), [{ day: DAY, pages: [{ id: 10 }] }]);
    const asked = { ids, day: DAY, horizon: { days: 28, settlingDays: 3 } };
    return engine.commonVariance('appeal', asked, engine.look(asked, 28));
  };

  test('rows are held against a yardstick of five rows at least, besides each other', () => {
    expect(of(12, [10, 11, 12, 13])!).toBeGreaterThan(0);
    expect(of(8, [10, 11, 12, 13])).toBeNull();
  });
});
