import { addDays, isoDay } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import type { PageEvidence } from '../../core/model/evidence';
import type { Site } from '../../core/model/site';
import { DEFAULT_ADDRESS_RULES } from '../../core/model/addressRules';
import { TempStore } from '../../../tests/support/tempDb';
import { addChange } from '../ledger/changes';
import { changesOnPages } from '../ledger/findChanges';
import { today } from '../clock';
import { findPage, pagesForAddresses } from '../addresses/pages';
import { saveRules } from '../addresses/rekey';
import { addSighting, lastSighting } from './sightings';
import {
  dueLook,
  earlierTitles,
  findSnapshot,
  keepFailure,
  keepSnapshot,
  lookOf,
  pagesTitled,
  passOver,
  setWatched,
  snapshotsOf,
  titlesOf,
  unloggedOn,
  watchedPages,
} from './snapshots';
import { thinSnapshots } from './thin';
import { write } from '../write';

const PAGE: PageEvidence = {
  ...{ status: 200, finalAddress: 'https://www.quillow-bees.example/a/', title: 'Old', description: null },
  ...{ canonical: null, robots: [], headings: [], structuredData: [], words: 0, text: '', links: [] },
  ...{ images: 0, imagesWithoutAlt: [], encoding: 'UTF-8', misfits: 0 },
};
const NEW = { ...PAGE, title: 'New' };
const ago = (days: number) => addDays(today(), -days);

let store: TempStore;
let site: Site;
let a: number;
let b: number;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
  [a, b] = (await write(store.db, () => pagesForAddresses(store.db, site, ['/a/', '/b/']))).map(
    ({ id }) => id,
  ) as [number, number];
});
afterEach(() => store.close());

const keep = (page: number, evidence: PageEvidence, days: number) =>
  keepSnapshot(store.db, site.id, page, evidence, ago(days));
const log = (over: object = {}) =>
  addChange(
    store.db,
    site,
    newChangeSchema.parse({
      ...{ title: 'Shorter title', kind: 'title-rewrite', day: isoDay(ago(6)), pages: ['/a/'] },
      ...{ oldText: 'Old', newText: 'New', ...over },
    }),
  );

test('a page that says the same is no new snapshot, only seen again', async () => {
  const first = await keep(a, PAGE, 9);
  const again = await keep(a, PAGE, 8);
  expect([again.id, again.day, again.lastDay]).toEqual([first.id, ago(9), ago(8)]);
  const second = await keep(a, NEW, 5);
  expect(second.differences).toEqual([
    { aspect: 'title', kind: 'title-rewrite', before: 'Old', after: 'New' },
  ]);
  expect(snapshotsOf(store.db, a).map(({ id }) => id)).toEqual([second.id, first.id]);
  expect(findSnapshot(store.db, first.id)!.differences).toBeNull();
  expect(snapshotsOf(store.db, b)).toEqual([]);
});

test('what nobody logged is offered until it is logged or passed over', async () => {
  await keep(a, PAGE, 9);
  await keep(a, PAGE, 7);
  const { id } = await keep(a, NEW, 5);
  const offered = () => unloggedOn(store.db, site);
  expect(offered()).toEqual([
    {
      ...{ snapshotId: id, from: ago(7), to: ago(5) },
      page: { id: a, address: 'https://www.quillow-bees.example/a/' },
      differences: [{ aspect: 'title', kind: 'title-rewrite', before: 'Old', after: 'New' }],
    },
  ]);
  await passOver(store.db, site.id, id, true);
  expect(offered()).toEqual([]);
  await passOver(store.db, site.id, id, false);
  await log({ kind: 'headings' });
  await log({ day: isoDay(ago(8)) });
  expect(offered()).toHaveLength(1);
  await log();
  expect(offered()).toEqual([]);
});

test('differences long past are no longer offered', async () => {
  await keep(a, PAGE, 90);
  await keep(a, NEW, 70);
  expect(unloggedOn(store.db, site)).toEqual([]);
});

test('titles that several pages share, and those that a page had before', async () => {
  await keep(a, PAGE, 9);
  await keep(b, PAGE, 9);
  expect(pagesTitled(store.db, site.id, 'Old', a).map(({ id }) => id)).toEqual([b]);
  await keep(b, NEW, 5);
  expect(pagesTitled(store.db, site.id, 'Old', a)).toEqual([]);
  await log({ oldText: 'Older', pages: ['/b/'] });
  const changes = changesOnPages(store.db, [b]);
  expect(earlierTitles(titlesOf(store.db, b), changes, b)).toEqual(['Old', 'Older']);
});

test('watched pages come round once a day, the one that waited longest first', async () => {
  expect(dueLook(store.db, Date.now())).toBeNull();
  await setWatched(store.db, site.id, [a, b], true);
  expect(watchedPages(store.db, site.id)).toEqual(new Set([a, b]));
  await keep(a, PAGE, 0);
  expect(dueLook(store.db, Date.now())?.page.id).toBe(b);
  await keepFailure(store.db, site.id, b, 'It cannot be reached.');
  expect(lookOf(store.db, b)).toMatchObject({ watched: true, failure: 'It cannot be reached.' });
  expect(dueLook(store.db, Date.now())).toBeNull();
  expect(dueLook(store.db, Date.now() + 24 * 3600 * 1000)?.page.id).toBe(a);
  await keep(b, PAGE, 0);
  expect(lookOf(store.db, b).failure).toBeNull();
  await setWatched(store.db, site.id, [a], false);
  expect(watchedPages(store.db, site.id)).toEqual(new Set([b]));
});

test('a page that becomes part of another takes its snapshots and sightings with it', async () => {
  await keep(a, PAGE, 9);
  await addSighting(store.db, a, { title: 'Old', day: ago(3), since: null });
  await saveRules(store.db, site, { ...DEFAULT_ADDRESS_RULES, trailingSlash: 'without' });
  expect(findPage(store.db, site.id, a)).toBeNull();
  const joined = store.rows('page').find((row) => (row as { address: string }).address.endsWith('/a')) as {
    id: number;
  };
  expect(snapshotsOf(store.db, joined.id)).toHaveLength(1);
  expect(lastSighting(store.db, joined.id)).toMatchObject({ title: 'Old' });
});

test('of snapshots that differ in a date alone, one a week is kept once they are old; work stays', async () => {
  const said = (text: string, title = 'Old') => ({ ...PAGE, title, text });
  // Every day another date, and one day another title.
  for (let day = 100; day >= 40; day--)
    await keep(a, said(`Today is day ${day}\nWax melts at 62 degrees`, day > 80 ? 'Old' : 'New'), day);
  await keep(b, said('Nothing of it changes'), 100);
  const before = snapshotsOf(store.db, a, 100);
  expect(before).toHaveLength(61);
  const gone = await thinSnapshots(store.db, site.id, today());
  const after = snapshotsOf(store.db, a, 100).reverse();
  expect(after.length).toBe(61 - gone);
  const old = after.filter(({ lastDay }) => lastDay < ago(60));
  // 40 days lie in six or seven weeks, and the new title divides one of them.
  expect(old.length).toBeLessThanOrEqual(8);
  expect(old.length).toBeGreaterThanOrEqual(6);
  // The last sixty days are as they were, and every day is still said to be seen by the one that stands for it.
  expect(after.filter(({ day }) => day >= ago(60))).toHaveLength(21);
  for (const [i, one] of after.entries()) if (i > 0) expect(one.day - after[i - 1]!.lastDay).toBe(1);
  const title = after.find(({ differences }) => differences?.some(({ aspect }) => aspect === 'title'))!;
  expect([title.day, title.evidence.title]).toEqual([ago(80), 'New']);
  expect(snapshotsOf(store.db, b, 100)).toHaveLength(1);
  expect(await thinSnapshots(store.db, site.id, today())).toBe(0);
});
