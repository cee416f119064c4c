import fc from 'fast-check';
import { addDays, isoDay, type Day } from '../../core/calendar/day';
import { History } from '../../core/history/history';
import { averagePosition, sumFigures } from '../../core/measures/totals';
import { day, TempStore } from '../../../tests/support/tempDb';
import { listPages } from '../addresses/pages';
import { coveredDaysIn } from './coverage';
import { pageDaysIn, queryDaysIn, siteTotals } from './days';
import { periodFigures } from './periods';
import { queryTotalsIn, querySeries } from './queries';
import { siteSeries } from './series';

const FIRST = day('2026-03-01');
const DAYS = 6;
const SPAN = { firstDay: FIRST, lastDay: addDays(FIRST, DAYS - 1) };
const LATER = { firstDay: addDays(FIRST, DAYS), lastDay: addDays(FIRST, DAYS + 3) };

type Row = {
  query: string;
  device: string;
  on: number;
  clicks: number;
  shown: number;
  position: number | null;
};

const anyRows = fc.uniqueArray(
  fc.record<Row>({
    query: fc.constantFrom('smoker', 'hive'),
    device: fc.constantFrom('mobile', 'desktop'),
    on: fc.nat(DAYS - 1),
    clicks: fc.nat(9),
    shown: fc.integer({ min: 9, max: 50 }),
    // Many without a position, so that days, queries and pages are mixed.
    position: fc.oneof(fc.constant(null), fc.integer({ min: 1, max: 40 })),
  }),
  { selector: ({ query, device, on }) => `${query}/${device}/${on}`, minLength: 1, maxLength: 20 },
);

/** The average position by the one rule, added up by hand: rows without a position count nothing. */
function byHand(rows: readonly Row[]): number | null {
  const known = rows.filter(({ position }) => position !== null);
  const weight = known.reduce((sum, { shown }) => sum + shown, 0);
  return weight === 0
    ? null
    : known.reduce((sum, { shown, position }) => sum + shown * position!, 0) / weight;
}

const rounded = (position: number | null) => (position === null ? null : Number(position.toFixed(9)));

test('every path over the same rows comes to the same average position, some of them without one', async () => {
  await fc.assert(
    fc.asyncProperty(anyRows, async (rows) => {
      const store = new TempStore();
      try {
        const site = await store.site();
        const line = ({ query, device, on, clicks, shown, position }: Row) =>
          `${isoDay(addDays(FIRST, on) as Day)},/a/,${query},${device},${clicks},${shown},${position ?? ''}`;
        const head = 'date,page,query,device,clicks,impressions,position';
        await store.import(site, [head, ...rows.map(line)].join('\n'));
        const { db } = store;
        const [page] = listPages(db, site.id);
        const ids = [page!.id];
        const wanted = rounded(byHand(rows));

        expect(rounded(averagePosition(sumFigures(pageDaysIn(db, ids, SPAN), SPAN)))).toBe(wanted);
        expect(rounded(averagePosition(siteTotals(db, site.id, [SPAN])[0]!.get(page!.id)!))).toBe(wanted);
        const history = new History(FIRST, DAYS, siteSeries(db, site.id), coveredDaysIn(db, site.id, SPAN));
        expect(rounded(averagePosition(history.totals(0, SPAN)))).toBe(wanted);

        const totals = queryTotalsIn(db, ids, SPAN, LATER)!;
        for (const query of new Set(rows.map((row) => row.query))) {
          const own = rounded(byHand(rows.filter((row) => row.query === query)));
          const days = queryDaysIn(db, site.id, query, ids, SPAN);
          expect(rounded(averagePosition(sumFigures(days, SPAN)))).toBe(own);
          expect(rounded(averagePosition(totals.find((one) => one.query === query)!.before!))).toBe(own);
          const [series] = querySeries(db, site.id, ids, query);
          const one = new History(FIRST, DAYS, [series!], coveredDaysIn(db, site.id, SPAN));
          expect(rounded(averagePosition(one.totals(0, SPAN)))).toBe(own);
        }
      } finally {
        store.close();
      }
    }),
    { numRuns: 40 },
  );
});

test('totals of a period keep the position of the devices that have one', async () => {
  const store = new TempStore();
  const site = await store.site();
  const csv = 'page,device,clicks,impressions,position\n/a/,mobile,1,10,4\n/a/,desktop,2,1000,';
  const settings = { period: { firstDay: isoDay(SPAN.firstDay), lastDay: isoDay(SPAN.lastDay) } };
  await store.import(site, csv, settings);
  const figures = periodFigures(store.db, site.id, listPages(store.db, site.id)[0]!.id, SPAN)!;
  expect([figures.impressions, averagePosition(figures)]).toEqual([1010, 4]);
  store.close();
});
