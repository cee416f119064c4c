import fc from 'fast-check';
import { addDays, isoDay } from '../../core/calendar/day';
import type { Site } from '../../core/model/site';
import { day, TempStore } from '../../../tests/support/tempDb';
import { coveredDaysIn, firstCoveredDay, siteCoverage } from './coverage';
import { pageDaysIn, queryDaysIn } from './days';
import { listPages } from '../addresses/pages';

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
});
afterEach(() => store.close());

const FIRST = day('2026-01-01');
const ALWAYS = { firstDay: day('2000-01-01'), lastDay: day('2100-01-01') };

type Row = { offset: number; device: string; country: string; clicks: number; more: number };

const csv = (rows: readonly Row[], query?: string) =>
  [
    `date,page,device,country,clicks,impressions,position${query ? ',query' : ''}`,
    ...rows.map(
      (r) =>
        `${isoDay(addDays(FIRST, r.offset))},/g/,${r.device},${r.country},${r.clicks},${r.clicks + r.more},4${query ? `,${query}` : ''}`,
    ),
  ].join('\n');

const division = (r: Row) => Number(r.device !== '') + 2 * Number(r.country !== '');

/** What the rule says, worked out plainly: of each day only the least divided rows, added up. */
function expected(rows: readonly Row[]) {
  const days = new Map<number, { clicks: number; impressions: number }>();
  for (const offset of new Set(rows.map((r) => r.offset))) {
    const ofDay = rows.filter((r) => r.offset === offset);
    const least = Math.min(...ofDay.map(division));
    const counted = ofDay.filter((r) => division(r) === least);
    days.set(FIRST + offset, {
      clicks: counted.reduce((sum, r) => sum + r.clicks, 0),
      impressions: counted.reduce((sum, r) => sum + r.clicks + r.more, 0),
    });
  }
  return [...days].sort(([a], [b]) => a - b);
}

const anyRows = fc.uniqueArray(
  fc.record({
    offset: fc.nat(5),
    device: fc.constantFrom('', 'desktop', 'mobile', 'tablet'),
    country: fc.constantFrom('', 'nor', 'dnk'),
    clicks: fc.nat(20),
    more: fc.nat(200),
  }),
  { selector: (r) => `${r.offset}/${r.device}/${r.country}`, minLength: 1, maxLength: 25 },
);

test('of rows divided differently, the least divided stand for a page and day', async () => {
  await fc.assert(
    fc.asyncProperty(anyRows, async (rows) => {
      const other = new TempStore();
      try {
        const its = await other.site();
        await other.import(its, csv(rows));
        const found = pageDaysIn(other.db, [listPages(other.db, its.id)[0]!.id], ALWAYS);
        expect(found.map((r) => [r.day, { clicks: r.clicks, impressions: r.impressions }])).toEqual(
          expected(rows),
        );
      } finally {
        other.close();
      }
    }),
    { numRuns: 15 },
  );
});

test('the same holds for the rows of a query', async () => {
  await fc.assert(
    fc.asyncProperty(anyRows, async (rows) => {
      const other = new TempStore();
      try {
        const its = await other.site();
        await other.import(its, csv(rows, 'bee smoker'));
        const pages = [listPages(other.db, its.id)[0]!.id];
        const found = queryDaysIn(other.db, its.id, 'bee smoker', pages, ALWAYS);
        expect(found.map((r) => [r.day, { clicks: r.clicks, impressions: r.impressions }])).toEqual(
          expected(rows),
        );
        // With no page totals, the page is the sum of its queries, and here it has one.
        expect(pageDaysIn(other.db, pages, ALWAYS).map((r) => [r.clicks, r.fromQueries])).toEqual(
          expected(rows).map(([, r]) => [r.clicks, true]),
        );
      } finally {
        other.close();
      }
    }),
    { numRuns: 15 },
  );
});

test('the days of a site are those of any of its pages, and of no other site', async () => {
  await store.import(site, 'date,page,clicks,impressions\n2026-01-01,/a/,1,2\n2026-01-05,/b/,1,2');
  expect(firstCoveredDay(store.db, site.id)).toBe(day('2026-01-01'));
  expect([...coveredDaysIn(store.db, site.id, ALWAYS)]).toEqual([day('2026-01-01'), day('2026-01-05')]);
  expect([
    ...coveredDaysIn(store.db, site.id, { firstDay: day('2026-01-02'), lastDay: day('2026-01-04') }),
  ]).toEqual([]);
  expect(firstCoveredDay(store.db, site.id + 1)).toBeNull();
});

test('the newest figures count as taken when the file came that brought them', async () => {
  expect(siteCoverage(store.db, site.id)).toBeNull();
  const row = (date: string) => `date,page,clicks,impressions\n${date},/a/,1,2`;
  await store.import(site, row('2026-01-05'), {}, '2026-01-07');
  expect(siteCoverage(store.db, site.id)).toEqual({ lastDay: day('2026-01-05'), takenOn: day('2026-01-07') });
  // An older day that comes later says nothing about the newest.
  await store.import(site, row('2026-01-02'), {}, '2026-02-01');
  expect(siteCoverage(store.db, site.id)?.takenOn).toBe(day('2026-01-07'));
  // The same day brought in again later is final.
  await store.import(site, row('2026-01-05'), {}, '2026-02-02');
  expect(siteCoverage(store.db, site.id)?.takenOn).toBe(day('2026-02-02'));
});
