import { emptyFacts } from '../../core/facts/facts';
import { sortAndPack } from '../../core/facts/sortAndPack';
import { factsOf } from '../../../tests/support/state';
import { day, TempStore } from '../../../tests/support/tempDb';
import { ImportWriter, failImport } from './arrival';
import { addImport, findImport } from './imports';

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
});
afterEach(() => store.close());

test('rows that were stored before something went wrong count for nothing, and go when it is given up', async () => {
  const site = await store.site();
  await store.import(site, 'date,page,query,clicks,impressions\n2026-01-01,/a/,hive,1,2');
  const tables = () =>
    ['figures', 'address', 'query', 'page', 'import_day'].map((table) => store.rows(table));
  const before = tables();
  const values = { siteId: site.id, fileName: 'x.csv', bytesTotal: 1, takenOn: day('2026-02-01') };
  const id = await addImport(store.db, { ...values, state: 'queued' });
  const arrival = new ImportWriter(store.db, id, site, 'page_query_day', null);
  await arrival.name({ addresses: [`${site.address}/b/`], queries: ['', 'bee'], labels: [''] });
  const rows = { ...emptyFacts(1, 3), part: new Uint32Array(1), address: new Uint32Array(1) };
  rows.query[0] = 1;
  rows.day[0] = day('2026-01-02');
  arrival.number(rows);
  await arrival.store(sortAndPack(rows, null));
  expect(store.rows('figures')).toHaveLength(2);
  expect(factsOf(store.db, site.id)).toHaveLength(1);
  await failImport(store.db, id, 'Something went wrong.', { read: 1, refused: 0, leftOut: 0 }, []);
  expect(tables()).toEqual(before);
  expect(findImport(store.db, id)).toMatchObject({ state: 'failed', rowsStored: 0 });
});
