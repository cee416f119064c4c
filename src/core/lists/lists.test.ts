import fc from 'fast-check';
import { asDay } from '../calendar/day';
import { inOrder, rowsWithin } from './choose';
import { columnsOf } from './columns';
import { altered, listQueryFrom, rangeText } from './address';
import { intentOf } from '../words/intent';
import { READY_FILTERS } from './ready';
import { sheetTable, type SheetLine } from './querySheet';
import { addedUp, columnValues, emptySide, type FiguresTable } from './table';
import { listRanges, listSorting, listSpans } from './wish';
import { columnValue } from './written';

const table = (
  rows: readonly { clicks: number; impressions: number; position: number; expected?: number }[],
): FiguresTable => {
  const now = emptySide(rows.length);
  rows.forEach(({ clicks, impressions, position, expected = 0 }, row) => {
    now.clicks[row] = clicks;
    now.impressions[row] = impressions;
    now.positionSum[row] = position * impressions;
    now.positionWeight[row] = impressions;
    now.expected[row] = expected;
  });
  return { rows: rows.length, now, was: null, further: () => null };
};

test('some of the order is that part of the whole order', () => {
  const value = fc.oneof(fc.integer({ min: -5, max: 5 }), fc.constant(NaN));
  fc.assert(
    fc.property(fc.array(value), fc.boolean(), fc.nat(10), fc.nat(10), (values, falling, from, more) => {
      const column = Float64Array.from(values);
      const rows = Uint32Array.from(values.keys());
      const whole = [...rows].sort((a, b) => {
        const [x, y] = [column[a]!, column[b]!];
        if (Number.isNaN(x) || Number.isNaN(y))
          return Number(Number.isNaN(x)) - Number(Number.isNaN(y)) || a - b;
        return (falling ? y - x : x - y) || a - b;
      });
      expect(inOrder(rows, column, falling, { from, to: from + more })).toEqual(
        whole.slice(from, from + more),
      );
    }),
  );
});

test('the usual questions of the trade find what they are named for', () => {
  // Common practice, no published source: positions above 5 and below 21 with at least one click are workable.
  const rows = [
    { clicks: 0, impressions: 500, position: 12 },
    { clicks: 3, impressions: 400, position: 12 },
    { clicks: 9, impressions: 300, position: 5 },
    { clicks: 1, impressions: 200, position: 21 },
    { clicks: 148, impressions: 11_000, position: 7 },
    { clicks: 60, impressions: 11_000, position: 7 },
  ];
  const found = (name: string) => {
    const ready = READY_FILTERS.find((one) => one.name.startsWith(name))!;
    const query = listQueryFrom(ready.query, 'queries');
    return [...rowsWithin(table(rows), { ranges: listRanges(query, 'queries') })];
  };
  expect(found('workable')).toEqual([1, 4, 5]);
  expect(found('just past')).toEqual([0, 1]);
  // 148 clicks of 11,000 impressions is 1.35%: above one percent, and still few of many.
  expect(found('CTR under 1%')).toEqual([0, 1, 3, 5]);
  expect(found('ten thousand')).toEqual([4, 5]);
  expect(148 / 11_000).toBeCloseTo(0.0135, 4);
});

test('what stands in an address is taken as far as it makes sense', () => {
  const query = listQueryFrom(
    { sort: 'nothing', from: '2026-13-01', q: 'wax', 'clicks.min': 'x', device: 'mobile', other: 'y' },
    'pages',
  );
  expect(query).toMatchObject({ sort: '-impressions', q: 'wax', device: 'mobile' });
  expect(query['from']).toBeUndefined();
  expect(listRanges(query, 'pages')).toEqual([]);
  expect(altered({ q: 'wax', cursor: '50' }, { cursor: null, sort: '-clicks' })).toBe('?q=wax&sort=-clicks');
  expect(rangeText('ctr', { min: null, max: 0.01 })).toBe('CTR 1% or less');
  expect(columnsOf('pages')).toContain('queries');
  expect(columnsOf('queries')).not.toContain('queries');
  expect(listSorting('-difference.placesGained')).toEqual({
    column: 'difference.placesGained',
    falling: true,
  });
});

test('days are held against as many before, the same weekdays a year earlier, others, or none', () => {
  const last = asDay(20_000);
  const of = (against: string) => listSpans({ from: undefined, to: undefined, against }, last);
  expect(of('before')).toEqual({
    now: { firstDay: 19_973, lastDay: 20_000 },
    was: { firstDay: 19_945, lastDay: 19_972 },
  });
  expect(of('year')).toMatchObject({ was: { firstDay: 19_973 - 364, lastDay: 20_000 - 364 } });
  expect(of('none')).toMatchObject({ was: null });
  expect(of('2024-09-01..2024-10-20')).toMatch(/must not overlap the days shown|at most|FROM|days/);
  expect(listSpans({ from: '2024-02-02', to: '2024-02-01', against: 'none' }, last)).toMatch(
    /must not come after/,
  );
});

test('sums of pairs by query are those of their rows, and rates are of sums', () => {
  const { now } = table([
    { clicks: 1, impressions: 10, position: 2, expected: 2 },
    { clicks: 3, impressions: 30, position: 6, expected: 2 },
    { clicks: 5, impressions: 7, position: 1 },
  ]);
  const sum = addedUp(now, Int32Array.from([0, 0, 1]), 2);
  const made: FiguresTable = { rows: 2, now: sum, was: null, further: () => null };
  expect([...columnValues(made, 'clicks')]).toEqual([4, 5]);
  expect(columnValues(made, 'position')[0]).toBe(5);
  expect(columnValues(made, 'appeal')[0]).toBe(1);
  expect(columnValues(made, 'appeal')[1]).toBeNaN();
});

test('what a search is after is guessed by its words', () => {
  expect(intentOf('how to render wax', false)).toBe('to-learn');
  expect(intentOf('best hive price', false)).toBe('to-compare');
  expect(intentOf('hive price', false)).toBe('to-buy');
  expect(intentOf('quillow bees', true)).toBe('to-site');
  expect(intentOf('wax', false)).toBeNull();
});

test('a sheet made anew has what was said then beside it, and what is gone last on its page', () => {
  const line = (query: string, impressions: number): SheetLine => ({
    ...{ page: '/a', query, impressions, clicks: 1, ctr: 0.1, position: 4, searches: null, said: 'title' },
    ...{ clicksDifference: null, impressionsDifference: null, placesGained: null },
  });
  const plain = sheetTable([line('x', 9)]);
  expect(plain.head.at(-1)).toBe('worked in');
  expect(plain.rows[0]!.at(-1)).toBeNull();
  const anew = sheetTable([line('x', 9), line('new', 5)], [line('x', 3), line('gone', 2)]);
  expect(anew.rows.map((row) => [row[1], row[2], row.at(-4)])).toEqual([
    ['x', 9, 3],
    ['new', 5, 0],
    ['gone', 0, 2],
  ]);
});

test('values are written as people read them, and an absent one is not nought', () => {
  const written: [Parameters<typeof columnValue>[0], number | null, string][] = [
    ['clicks', 1234, '1,234'],
    ['difference.clicks', -1234, '−1,234'],
    ['ctr', 0.0345, '3.45%'],
    ['difference.ctr', 0.0014, '+0.14 pt'],
    ['position', 4.26, '4.3'],
    ['difference.placesGained', 0.23, '0.2 up'],
    ['difference.placesGained', -1, '1.0 down'],
    ['difference.placesGained', 0.01, 'level'],
    ['appeal', 0.883, '0.88'],
    ['difference.appeal', 0.02, '+0.02'],
    ['clicks', null, '–'],
    ['position', NaN, '–'],
  ];
  for (const [column, value, text] of written)
    expect([column, value, columnValue(column, value)]).toEqual([column, value, text]);
});
