import { newChangeSchema } from '../../core/model/change';
import { day, TempStore } from '../../../tests/support/tempDb';
import { queryIdOf } from '../../store/figures/queryIds';
import { listPages } from '../../store/addresses/pages';
import { addChange, editChange } from '../../store/ledger/changes';
import { Engines } from './engines';
import { readChanges } from '../reading/readChanges';
import { SiteContext } from './siteContext';

let store: TempStore;
let engines: Engines;
beforeEach(() => {
  store = new TempStore();
  engines = new Engines(store.db);
});
afterEach(() => store.close());

test('the list of readings is kept while nothing changes, and made anew when anything does', async () => {
  const site = await store.site();
  await store.import(site, 'date,page,clicks,impressions\n2026-02-01,/a/,1,10\n2026-06-01,/a/,2,10');
  const input = { title: 'One', kind: 'title', day: '2026-04-01', pages: ['/a/'] };
  const change = await addChange(store.db, site, newChangeSchema.parse(input));
  const list = () => readChanges(new SiteContext(store.db, site), engines);
  const first = list();
  expect(list()).toBe(first);
  await editChange(store.db, site, change.id, { title: 'Another' });
  const edited = list();
  expect(edited).not.toBe(first);
  expect(edited[0]!.change.title).toBe('Another');
  expect(readChanges(new SiteContext(store.db, site), engines, { windowDays: 14 })[0]!.spans.windowDays).toBe(
    14,
  );
  expect(list()[0]!.spans.windowDays).toBe(28);
  await store.import(site, 'date,page,clicks,impressions\n2026-03-30,/a/,7,10');
  expect(list()[0]!.metrics.clicks.before).toBe(7);
});

test('a site without figures has no engine, and its readings say so', async () => {
  const site = await store.site();
  const input = { title: 'One', kind: 'title', day: '2026-04-01', pages: ['/a/'] };
  await addChange(store.db, site, newChangeSchema.parse(input));
  const [reading] = readChanges(new SiteContext(store.db, site), engines);
  expect(reading).toMatchObject({ verdict: 'waiting', net: null, yardstick: null, swing: null });
  expect(engines.curve(site)(1)).toBeGreaterThan(engines.curve(site)(9));
  expect(engines.shares(site, [1], reading!.spans.before, reading!.spans.after)).toEqual([]);
});

test('of many queries the engines asked for last are kept, and none is built twice in a row', async () => {
  const site = await store.site();
  const queries = Array.from({ length: 10 }, (_, i) => `query ${i}`);
  const lines = queries.map((query, i) => `2026-02-01,/a/,${query},1,${10 + i},5`);
  await store.import(site, ['date,page,query,clicks,impressions,position', ...lines].join('\n'));
  const [page] = listPages(store.db, site.id);
  const ask = (query: string) => {
    const known = { changes: [], lastReadable: day('2026-02-01') };
    return engines.queryEngine(site, known, [page!.id], {
      text: query,
      id: queryIdOf(store.db, site.id, query),
    });
  };
  const first = queries.slice(0, 8).map(ask);
  for (const [i, again] of queries.slice(0, 8).map(ask).entries()) expect(again).toBe(first[i]);
  expect(ask('query 0')).toBe(first[0]);
  // A ninth takes the place of the one that was not asked for the longest.
  const ninth = ask('query 8');
  expect(ask('query 8')).toBe(ninth);
  expect(ask('query 0')).toBe(first[0]);
  expect(ask('query 1')).not.toBe(first[1]);
});
