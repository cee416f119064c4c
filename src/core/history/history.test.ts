import fc from 'fast-check';
import { asDay } from '../calendar/day';
import { History, type Series } from './history';
import { ChangeIndex } from './changeIndex';

const FIRST = 100;
const DAYS = 30;
const anySeries = fc
  .tuple(
    fc.integer({ min: FIRST - 5, max: FIRST + 5 }),
    fc.array(fc.record({ clicks: fc.nat(9), impressions: fc.nat(99), position: fc.option(fc.nat(50)) }), {
      minLength: 1,
      maxLength: 35,
    }),
  )
  .map(([firstDay, days]) => ({ firstDay, days }));

const asSeries = (
  id: number,
  {
    firstDay,
    days,
  }: { firstDay: number; days: { clicks: number; impressions: number; position: number | null }[] },
): Series => ({
  id,
  firstDay: asDay(firstDay),
  clicks: days.map((d) => d.clicks),
  impressions: days.map((d) => d.impressions),
  positionSum: days.map((d) => (d.position === null ? 0 : d.position * d.impressions)),
  positionWeight: days.map((d) => (d.position === null ? 0 : d.impressions)),
});

test('two look-ups give what adding up day by day gives, also beyond the days known', () => {
  fc.assert(
    fc.property(
      fc.array(anySeries, { minLength: 1, maxLength: 4 }),
      fc.integer({ min: -10, max: 40 }),
      fc.integer({ min: 0, max: 40 }),
      fc.uniqueArray(fc.integer({ min: 0, max: DAYS - 1 })),
      (pages, from, length, covered) => {
        const history = new History(
          asDay(FIRST),
          DAYS,
          pages.map((p, i) => asSeries(i + 7, p)),
          covered.map((d) => asDay(FIRST + d)),
        );
        const span = { firstDay: asDay(FIRST + from), lastDay: asDay(FIRST + from + length) };
        pages.forEach((page, row) => {
          const wanted = { clicks: 0, impressions: 0, positionSum: 0, positionWeight: 0 };
          page.days.forEach((d, i) => {
            const day = page.firstDay + i;
            if (day < FIRST || day >= FIRST + DAYS || day < span.firstDay || day > span.lastDay) return;
            wanted.clicks += d.clicks;
            wanted.impressions += d.impressions;
            if (d.position === null) return;
            wanted.positionSum += d.position * d.impressions;
            wanted.positionWeight += d.impressions;
          });
          const days = covered.filter((d) => d >= from && d <= from + length).length;
          expect(history.totals(row, span)).toEqual({ days, ...wanted });
          expect(history.row(history.idOf(row))).toBe(row);
        });
      },
    ),
  );
});

test('a row knows when any of its pages was changed', () => {
  const day = {
    clicks: [1],
    impressions: [1],
    positionSum: [1],
    positionWeight: [1],
    firstDay: asDay(FIRST),
  };
  const history = new History(
    asDay(FIRST),
    DAYS,
    [
      { id: 1, ...day },
      { id: 2, ...day },
      { id: -3, pages: [1, 2], ...day },
    ],
    [],
  );
  const touched = new ChangeIndex(history, [
    { day: 120, pages: [{ id: 1 }] },
    { day: 110, pages: [{ id: 1 }, { id: 9 }] },
    { day: 115, pages: [{ id: 2 }] },
  ]);
  expect([105, 110, 111, 121].map((from) => touched.firstFrom(0, from))).toEqual([110, 110, 120, null]);
  expect(touched.firstFrom(2, 111)).toBe(115);
});
