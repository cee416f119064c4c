import { day, TempStore } from '../../../tests/support/tempDb';
import { listPages } from '../addresses/pages';
import { narrowedSeries } from './narrowed';
import { labelIdOf, queryIdOf } from './queryIds';

let store: TempStore;
beforeEach(() => (store = new TempStore()));
afterEach(() => store.close());

test('rows are narrowed to a query, a device and a country together, and each day counts once', async () => {
  const site = await store.site();
  const lines = [
    'date,page,query,device,country,clicks,impressions,position',
    '2026-02-01,/a/,wax,mobile,Norway,1,10,4',
    '2026-02-01,/a/,wax,mobile,Spain,2,20,5',
    '2026-02-01,/a/,wax,desktop,Norway,4,40,6',
    '2026-02-02,/a/,wax,mobile,Norway,3,30,4',
    '2026-02-01,/a/,smoker,mobile,Norway,9,90,2',
  ];
  await store.import(site, lines.join('\n'));
  const [page] = listPages(store.db, site.id);
  const [query, norway] = [queryIdOf(store.db, site.id, 'wax')!, labelIdOf(store.db, 'NORWAY')!];
  const clicks = (device: number, country: number) =>
    narrowedSeries(store.db, [page!.id], { query, device, country }).map((one) => [
      ...(one.clicks as Float64Array),
    ]);
  expect(norway).toBeGreaterThan(0);
  expect(clicks(2, norway)).toEqual([[1, 3]]);
  expect(clicks(2, 0)).toEqual([[3, 3]]);
  expect(clicks(0, norway)).toEqual([[5, 3]]);
  expect(clicks(3, norway)).toEqual([]);
  const [one] = narrowedSeries(store.db, [page!.id], { query, device: 2, country: norway });
  expect(one).toMatchObject({ firstDay: day('2026-02-01') });
  expect([...(one!.positionSum as Float64Array)]).toEqual([40, 120]);
});
