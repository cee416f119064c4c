import { isoDay, addDays } from '../../core/calendar/day';
import { day, TempStore } from '../../../tests/support/tempDb';
import { listPages } from '../addresses/pages';
import { countryShares, positionBins, querySeries, queryTotalsIn } from './queries';
import { queryIdOf } from './queryIds';
import { siteSeries } from './series';

const FIRST = day('2026-02-01');
const span = (from: number, to: number) => ({ firstDay: addDays(FIRST, from), lastDay: addDays(FIRST, to) });
const [BEFORE, AFTER] = [span(0, 9), span(12, 21)];

/** Rows by query, device and day; `wax` is new in the after span, `smoke` lost in it. */
function csv(): string {
  const lines = ['date,page,query,device,clicks,impressions,position'];
  for (let i = 0; i < 24; i++) {
    const date = isoDay(addDays(FIRST, i));
    for (const device of ['mobile', 'desktop']) {
      lines.push(`${date},/a/,hive,${device},${i % 3},${10 + i},${device === 'mobile' ? 4 : 6}`);
      lines.push(`${date},/b/,hive,${device},1,5,9`);
      if (i >= 12) lines.push(`${date},/a/,wax,${device},2,20,3`);
      if (i < 10) lines.push(`${date},/a/,smoke,${device},1,8,2`);
    }
  }
  return lines.join('\n');
}

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
});
afterEach(() => store.close());

async function filled() {
  const site = await store.site();
  await store.import(site, csv());
  return { site, ids: listPages(store.db, site.id).map((page) => page.id) };
}

test('sums of queries in two spans are those of their rows, over all devices and pages', async () => {
  const { ids } = await filled();
  const found = queryTotalsIn(store.db, [ids[0]!], BEFORE, AFTER)!;
  const of = (query: string) => found.find((one) => one.query === query)!;
  const sum = (from: number, to: number, value: (i: number) => number) => {
    let total = 0;
    for (let i = from; i <= to; i++) total += value(i);
    return total;
  };
  expect(of('hive').before).toEqual({
    days: 10,
    clicks: 2 * sum(0, 9, (i) => i % 3),
    impressions: 2 * sum(0, 9, (i) => 10 + i),
    positionSum: sum(0, 9, (i) => (4 + 6) * (10 + i)),
    positionWeight: 2 * sum(0, 9, (i) => 10 + i),
  });
  expect(of('hive').after!.clicks).toBe(2 * sum(12, 21, (i) => i % 3));
  expect([of('wax').before, of('wax').after!.clicks]).toEqual([null, 40]);
  expect([of('smoke').before!.impressions, of('smoke').after]).toEqual([160, null]);
  // Of two pages together, what both brought.
  const both = queryTotalsIn(store.db, ids, BEFORE, AFTER)!;
  const hive = both.find((one) => one.query === 'hive')!;
  expect(hive.before!.clicks).toBe(of('hive').before!.clicks + 20);
  expect(queryTotalsIn(store.db, ids, span(-60, -50), span(-40, -30))).toBeNull();
});

test('rows not divided by device stand for a query and day, beside those that are', async () => {
  const { site, ids } = await filled();
  await store.import(site, 'date,page,query,clicks,impressions,position\n2026-02-01,/a/,hive,7,70,5');
  const hive = queryTotalsIn(store.db, [ids[0]!], span(0, 0), span(1, 1))!.find((q) => q.query === 'hive')!;
  expect(hive.before).toMatchObject({ clicks: 7, impressions: 70, positionSum: 350 });
  expect(hive.after).toMatchObject({ impressions: 22 });
});

test('series of queries hold their days, the asked one first', async () => {
  const { site, ids } = await filled();
  const id = queryIdOf(store.db, site.id, 'smoke')!;
  const series = querySeries(store.db, site.id, [ids[0]!], 'smoke');
  expect(series.map((one) => one.id)).toEqual([-id, expect.any(Number), expect.any(Number)]);
  const [smoke] = series;
  expect(smoke).toMatchObject({ firstDay: FIRST, pages: [ids[0]] });
  expect([...(smoke!.clicks as Float64Array)]).toEqual(Array(10).fill(2));
  expect(smoke!.positionSum[0]).toBe(2 * 8 * 2);
  expect(queryIdOf(store.db, site.id, 'never')).toBeNull();
});

test('clicks by position leave out searches for the site itself', async () => {
  const { ids } = await filled();
  const impressions = (brand: string[]) =>
    positionBins(store.db, ids, span(0, 23), brand).reduce((sum, bin) => sum + bin.impressions, 0);
  expect(impressions([]) - impressions(['hive'])).toBe(2 * (24 * 5 + 10 * 24 + (23 * 24) / 2));
  for (const bin of positionBins(store.db, ids, span(0, 23), [])) {
    expect(bin.position).toBeGreaterThanOrEqual(2);
    expect(bin.position).toBeLessThanOrEqual(9);
  }
});

test('impressions by country, where rows are divided by it', async () => {
  const site = await store.site();
  await store.import(
    site,
    'date,page,country,clicks,impressions\n2026-02-01,/a/,nor,1,30\n2026-02-01,/a/,isl,1,10\n2026-02-13,/a/,nor,1,5',
  );
  const id = listPages(store.db, site.id)[0]!.id;
  expect(countryShares(store.db, [id], BEFORE, AFTER)).toEqual([
    { name: 'isl', before: 10, after: 0 },
    { name: 'nor', before: 30, after: 5 },
  ]);
  // What lies between the spans belongs to neither.
  expect(countryShares(store.db, [id], span(-9, -1), AFTER)[0]).toEqual({ name: 'isl', before: 0, after: 0 });
});

test('series of pages grow at both ends, and later files write over their days only', async () => {
  const site = await store.site();
  const row = (date: string, clicks: number) =>
    store.import(site, `date,page,clicks,impressions,position\n${date},/a/,${clicks},100,2.5`);
  await row('2026-02-05', 5);
  await row('2026-02-03', 3);
  await row('2026-02-08', 8);
  await row('2026-02-05', 6);
  const [series, ...others] = siteSeries(store.db, site.id);
  expect(others).toEqual([]);
  expect(series!.firstDay).toBe(day('2026-02-03'));
  expect([...(series!.clicks as Int32Array)]).toEqual([3, 0, 6, 0, 0, 8]);
  expect([...(series!.positionSum as Float64Array)]).toEqual([250, 0, 250, 0, 0, 250]);
  expect([...(series!.present as Uint8Array)]).toEqual([1, 0, 1, 0, 0, 1]);
});
