import { newChangeSchema } from '../core/model/change';
import { TempStore } from '../../tests/support/tempDb';
import { addChange, editChange } from './changes';
import { Readers } from './readers';
import { readingsOf } from './readings';

let store: TempStore;
let readers: Readers;
beforeEach(() => {
  store = new TempStore();
  readers = new Readers(store.db);
});
afterEach(() => store.close());

test('the list of readings is kept while nothing changes, and made anew when anything does', async () => {
  const site = await store.site();
  await store.import(site, 'date,page,clicks,impressions\n2026-02-01,/a/,1,10\n2026-06-01,/a/,2,10');
  const input = { title: 'One', kind: 'title', day: '2026-04-01', pages: ['/a/'] };
  const change = await addChange(store.db, site, newChangeSchema.parse(input));
  const list = () => readingsOf(store.db, readers, site);
  const first = list();
  expect(list()).toBe(first);
  await editChange(store.db, site, change.id, { title: 'Another' });
  const edited = list();
  expect(edited).not.toBe(first);
  expect(edited[0]!.change.title).toBe('Another');
  expect(readingsOf(store.db, readers, site, { windowDays: 14 })[0]!.spans.windowDays).toBe(14);
  expect(list()[0]!.spans.windowDays).toBe(28);
  await store.import(site, 'date,page,clicks,impressions\n2026-03-30,/a/,7,10');
  expect(list()[0]!.metrics.clicks.before).toBe(7);
});

test('a site without figures has no reader, and its readings say so', async () => {
  const site = await store.site();
  const input = { title: 'One', kind: 'title', day: '2026-04-01', pages: ['/a/'] };
  await addChange(store.db, site, newChangeSchema.parse(input));
  const [reading] = readingsOf(store.db, readers, site);
  expect(reading).toMatchObject({ verdict: 'waiting', net: null, yardstick: null, swing: null });
  expect(readers.curve(site)(1)).toBeGreaterThan(readers.curve(site)(9));
  expect(readers.shares(site, [1], reading!.spans.before, reading!.spans.after)).toEqual([]);
});
