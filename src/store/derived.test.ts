import { HOME, TempStore } from '../../tests/support/tempDb';
import { rebuildDerived } from './derived';
import { addSite } from './sites';

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
});
afterEach(() => store.close());

const derived = (): Record<string, unknown>[][] => [
  store.rows('page_total_day') as Record<string, unknown>[],
  store.rows('page_series ORDER BY page_id, device') as Record<string, unknown>[],
  store.rows('site_day_covered') as Record<string, unknown>[],
];

test('what imports derived one after another, one rebuilding derives at once', async () => {
  const site = await store.site();
  const other = await addSite(store.db, { name: 'Other', address: 'https://other.quillow-bees.example' });
  await store.import(
    site,
    'date,page,query,device,clicks,impressions,position\n2026-01-01,/a/,hive,mobile,1,10,3\n2026-01-01,/a/,hive,desktop,2,20,4\n2026-01-02,/a/,bee,mobile,1,5,6',
  );
  await store.import(
    site,
    'date,page,device,clicks,impressions,position\n2026-01-01,/a/,mobile,3,30,5\n2026-01-01,/a/,desktop,4,40,\n2026-01-03,/b/,mobile,0,7,9',
  );
  await store.import(site, 'date,page,clicks,impressions\n2026-01-01,/a/,8,80');
  await store.import(other, 'date,page,clicks,impressions\n2026-01-05,/a/,1,2');
  const before = derived();
  // Worked out by hand: the undivided row wins, the query row stands where no total was given.
  const [totals, series, covered] = before;
  expect([totals, covered]).toEqual([
    [
      { page_id: 1, day: 20454, clicks: 8, impressions: 80, position_sum: null, from_queries: 0 },
      { page_id: 1, day: 20455, clicks: 1, impressions: 5, position_sum: 30, from_queries: 1 },
      { page_id: 2, day: 20456, clicks: 0, impressions: 7, position_sum: 63, from_queries: 0 },
      { page_id: 3, day: 20458, clicks: 1, impressions: 2, position_sum: null, from_queries: 0 },
    ],
    [
      { site_id: site.id, day: 20454, has_queries: 1 },
      { site_id: site.id, day: 20455, has_queries: 1 },
      { site_id: site.id, day: 20456, has_queries: 0 },
      { site_id: other.id, day: 20458, has_queries: 0 },
    ],
  ]);
  // Each page as a whole, and /a/ and /b/ by device too.
  expect(series?.map((row) => [row.page_id, row.device, row.first_day, row.days])).toEqual([
    [1, 0, 20454, 2],
    [1, 1, 20454, 1],
    [1, 2, 20454, 1],
    [2, 0, 20456, 1],
    [2, 2, 20456, 1],
    [3, 0, 20458, 1],
  ]);
  expect(await rebuildDerived(store.db)).toBe(4);
  expect(derived()).toEqual(before);

  store.db.$client.exec('UPDATE page_total_day SET clicks = clicks + 1; DELETE FROM site_day_covered');
  await rebuildDerived(store.db);
  expect(derived()).toEqual(before);
});

test('rebuilding an empty database leaves it empty', async () => {
  await store.site();
  expect(await rebuildDerived(store.db)).toBe(0);
  expect(derived()).toEqual([[], [], []]);
  expect(store.rows('site')).toEqual([expect.objectContaining({ address: HOME })]);
});
