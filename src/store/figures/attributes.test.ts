import { factsOf } from '../../../tests/support/state';
import { TempStore } from '../../../tests/support/tempDb';
import { pageAttribute, queryAttribute } from './attributes';
import { listPages } from '../addresses/pages';
import { undoImport } from './undo';

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
});
afterEach(() => store.close());

test('what files state of pages and queries, the newer file standing and undone in its turn', async () => {
  const site = await store.site();
  const first = await store.import(site, 'url,page group,worth\n/a/,Guides,12\n/b/,Shop,');
  expect(first).toMatchObject({ state: 'done', grain: 'page_attribute', rowsStored: 2 });
  const second = await store.import(site, 'url,page group\n/a/,Advice\nhttp://quillow-bees.example/b/,Shop');
  expect(second).toMatchObject({ rowsReplaced: 1, rowsChanged: 1 });
  const named = (name: 'group' | 'worth') => {
    const values = pageAttribute(store.db, site.id, name);
    return listPages(store.db, site.id).map(({ id }) => values.get(id) ?? null);
  };
  expect([named('group'), named('worth')]).toEqual([
    ['Advice', 'Shop'],
    ['12', null],
  ]);
  await undoImport(store.db, site, second.id);
  expect(named('group')).toEqual(['Guides', 'Shop']);
  await undoImport(store.db, site, first.id);
  expect(listPages(store.db, site.id)).toEqual([]);
});

test('searches a month by query, a later line standing', async () => {
  const site = await store.site();
  const done = await store.import(site, 'keyword;search volume\nHive;1.900\nhive;2.400\nbee;10');
  expect(done).toMatchObject({ grain: 'query_attribute', rowsStored: 2, rowsRepeated: 1 });
  expect([...queryAttribute(store.db, site.id, 'searches').values()].sort()).toEqual(['10', '2400']);
});

test('positions alone and landing pages are kept as facts of their own', async () => {
  const site = await store.site();
  await store.import(
    site,
    'date,keyword,rank,url\n2026-01-01,Hive,4,/a/\n2026-01-01,Bee,,\n2026-01-02,Hive,3.5,',
  );
  await store.import(
    site,
    'date,landing page,sessions,bounces,conversions,revenue\n2026-01-01,/a/,100,40,2.5,"1,234.50"',
  );
  await store.import(site, 'date,clicks,impressions,country\n2026-01-01,5,50,NOR');
  expect(
    factsOf(store.db, site.id).map((line) => (JSON.parse(line) as unknown[]).filter((one) => one !== '')),
  ).toEqual([
    ['analytics_day', 'https://www.quillow-bees.example/a/', 20454, 0, 100, null, 40, 2.5, 1234.5],
    ['rank_check', 'bee', 20454, 0, null],
    ['rank_check', 'hive', 20455, 0, 3.5],
    ['rank_check', 'https://www.quillow-bees.example/a/', 'hive', 20454, 0, 4],
    ['site_day', 'nor', 20454, 0, 5, 50, null],
  ]);
});
