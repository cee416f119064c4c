import { fillSite } from '../../tests/support/fullSite';
import { TempStore } from '../../tests/support/tempDb';
import { purgeSite } from './archive/purge';
import { dueLook } from './evidence/snapshots';
import { dueFeeds } from './figures/feeds';
import { nextQueued } from './figures/imports';
import {
  addSite,
  deletedSites,
  findSite,
  listSites,
  setSiteDeleted,
  siteContents,
  sitesToPurge,
} from './sites';

const DAY_MS = 86_400_000;

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
});
afterEach(() => store.close());

/** All rows of all tables but those that no site owns: names of countries, and the version of the entries. */
const everything = () =>
  Object.fromEntries(
    store.db.$client
      .prepare<[], string>(
        "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%' AND name NOT IN ('label', 'entries')",
      )
      .pluck()
      .all()
      .map((name) => [name, store.rows(`"${name}"`)]),
  );

test('a deleted site is nobody’s and does nothing by itself; put back it is as it was', async () => {
  const site = await store.site();
  await fillSite(store, site);
  store.db.$client.exec("UPDATE import SET state = 'queued' WHERE id = 1");
  const before = everything();
  expect([dueFeeds(store.db, Date.now()).length, dueLook(store.db, Date.now())?.siteId]).toEqual([
    1,
    site.id,
  ]);
  expect(nextQueued(store.db)?.id).toBe(1);
  expect(siteContents(store.db, site.id)).toMatchObject({ changes: 1, events: 1, rounds: 1, reports: 1 });

  expect(await setSiteDeleted(store.db, site.id, true)).toBe(true);
  expect(await setSiteDeleted(store.db, site.id, true)).toBe(false);
  expect([listSites(store.db), findSite(store.db, site.id)]).toEqual([[], null]);
  expect(dueFeeds(store.db, Date.now())).toEqual([]);
  expect([dueLook(store.db, Date.now()), nextQueued(store.db)]).toEqual([null, null]);
  await expect(addSite(store.db, { name: 'Again', address: site.address })).rejects.toThrow(
    'can still be put back',
  );
  expect(deletedSites(store.db)).toMatchObject([{ id: site.id, address: site.address }]);

  expect(await setSiteDeleted(store.db, site.id, false)).toBe(true);
  expect(everything()).toEqual(before);
});

test('after thirty days all of it goes, and nothing of any other site', async () => {
  const other = await store.site('https://other.example');
  const without = everything();
  const site = await store.site();
  await fillSite(store, site);
  await setSiteDeleted(store.db, site.id, true);
  const now = Date.now();
  expect(sitesToPurge(store.db, now + 29 * DAY_MS)).toEqual([]);
  expect(deletedSites(store.db, now + 29 * DAY_MS)).toHaveLength(1);
  expect(sitesToPurge(store.db, now + 31 * DAY_MS)).toEqual([site.id]);
  expect(deletedSites(store.db, now + 31 * DAY_MS)).toEqual([]);
  await purgeSite(store.db, site.id);
  expect(everything()).toEqual(without);
  expect(listSites(store.db).map(({ id }) => id)).toEqual([other.id]);
  expect((await store.site()).id).toBeGreaterThan(site.id);
});
