import { newChangeSchema } from '../core/model/change';
import { newEventSchema } from '../core/model/event';
import type { Site } from '../core/model/site';
import { TempStore } from '../../tests/support/tempDb';
import { expiredDeletions, purgeDeleted } from './archive/purgeDeleted';
import { DELETED_KINDS, deletedOf, putBackDeleted } from './deleted';
import { DELETED_KEPT_DAYS } from './keptDays';
import { newFeedSchema } from '../core/model/feed';
import { addFeed, listFeeds, setFeedDeleted } from './figures/feeds';
import { addChange, setChangeDeleted } from './ledger/changes';
import { listChanges } from './ledger/findChanges';
import { addEvent, listEvents, setEventDeleted } from './ledger/events';
import { aRound } from '../../tests/support/round';
import { newReportSchema } from '../core/model/report';
import { addReport, listReports, setReportDeleted } from './reports/reports';
import { listRounds, setRoundDeleted } from './rounds/rounds';
import { addSite } from './sites';
import { newResultPageSchema } from '../core/wording/resultPage';
import { keepResultPage, resultPagesOf, setResultPageDeleted } from './wording/resultPages';

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
});
afterEach(() => store.close());

async function oneOfEach(of: Site) {
  const { db } = store;
  const feed = { name: 'Feed', address: 'https://f.example/', token: '', daily: false, allowPrivate: false };
  const logged = { title: 'Change', kind: 'other', day: '2026-09-14', pages: ['/a'] };
  const change = (await addChange(db, of, newChangeSchema.parse(logged))).id;
  return {
    change,
    round: await aRound(db, of, ['/a']),
    report: await addReport(
      db,
      of.id,
      newReportSchema.parse({ title: 'Report', from: '2026-09-01', to: '2026-09-30' }),
    ),
    event: (
      await addEvent(
        db,
        of.id,
        newEventSchema.parse({ name: 'Event', kind: 'other', firstDay: '2026-09-14' }),
      )
    ).id,
    feed: await addFeed(db, of.id, newFeedSchema.parse(feed)),
    results: await keepResultPage(
      db,
      of.id,
      newResultPageSchema.parse({
        ...{ query: 'wax', day: '2026-09-14' },
        results: [{ rank: 1, address: 'https://r.example/', title: 'T' }],
      }),
    ),
  };
}
const deleteAll = async (ids: Awaited<ReturnType<typeof oneOfEach>>) => {
  await setChangeDeleted(store.db, ids.change, true);
  await setEventDeleted(store.db, ids.event, true);
  await setFeedDeleted(store.db, ids.feed, true);
  await setResultPageDeleted(store.db, ids.results, true);
  await setRoundDeleted(store.db, ids.round, true);
  await setReportDeleted(store.db, ids.report, true);
};

test('whatever was deleted is listed with its site, and comes back as it was', async () => {
  const ids = await oneOfEach(site);
  const other = await addSite(store.db, { name: 'Other', address: 'other.quillow-bees.example' });
  const before = JSON.stringify([
    listChanges(store.db, site.id),
    listEvents(store.db, site.id),
    listFeeds(store.db, site.id),
    resultPagesOf(store.db, site.id),
    listRounds(store.db, site.id),
    listReports(store.db, site.id),
  ]);
  expect(deletedOf(store.db, site.id)).toEqual([]);
  await deleteAll(ids);
  expect(
    deletedOf(store.db, site.id)
      .map(({ kind, name }) => [kind, name])
      .sort(),
  ).toEqual([
    ['change', 'Change'],
    ['event', 'Event'],
    ['feed', 'Feed'],
    ['report', 'Report'],
    ['results', 'wax, 2026-09-14'],
    ['round', 'Round'],
  ]);
  expect(deletedOf(store.db, other.id)).toEqual([]);
  for (const kind of DELETED_KINDS) {
    expect(await putBackDeleted(store.db, other.id, kind, ids[kind])).toBe(false);
    expect(await putBackDeleted(store.db, site.id, kind, ids[kind])).toBe(true);
    expect(await putBackDeleted(store.db, site.id, kind, ids[kind])).toBe(false);
  }
  expect(
    JSON.stringify([
      listChanges(store.db, site.id),
      listEvents(store.db, site.id),
      listFeeds(store.db, site.id),
      resultPagesOf(store.db, site.id),
      listRounds(store.db, site.id),
      listReports(store.db, site.id),
    ]),
  ).toBe(before);
});

test('it is kept for thirty days, and deleting twice does not begin them anew', async () => {
  const ids = await oneOfEach(site);
  await deleteAll(ids);
  const days = (n: number) => Date.now() + n * 86_400_000;
  expect(deletedOf(store.db, site.id, days(DELETED_KEPT_DAYS - 1))).toHaveLength(DELETED_KINDS.length);
  expect(deletedOf(store.db, site.id, days(DELETED_KEPT_DAYS + 1))).toEqual([]);
  const [first] = deletedOf(store.db, site.id);
  await new Promise((resolve) => setTimeout(resolve, 5));
  await deleteAll(ids);
  expect(deletedOf(store.db, site.id)).toContainEqual(first);
});

test('after thirty days it is gone, with all that belonged to it, and nothing else is', async () => {
  const ids = await oneOfEach(site);
  const { db } = store;
  await deleteAll(ids);
  const kept = await oneOfEach(site);
  const days = (n: number) => Date.now() + n * 86_400_000;
  const tables = ['change', 'change_page', 'event', 'feed', 'result_page', 'round', 'round_page', 'report'];
  const counts = () => tables.map((table) => store.rows(table).length);
  const before = counts();
  await purgeDeleted(db, days(DELETED_KEPT_DAYS - 1));
  expect(counts()).toEqual(before);
  await purgeDeleted(db, days(DELETED_KEPT_DAYS + 1));
  const left = counts();
  expect(left.every((n, i) => n > 0 && n < before[i]!)).toBe(true);
  expect(listReports(db, site.id).map(({ id }) => id)).toEqual([kept.report]);
  expect(listChanges(db, site.id).map(({ id }) => id)).toContain(kept.change);
  expect(db.$client.pragma('foreign_key_check')).toEqual([]);
  expect(expiredDeletions(db, days(DELETED_KEPT_DAYS + 1))).toEqual([]);
});

test('a change that a sheet brought stays known, so that the sheet does not bring it back', async () => {
  const { change } = await oneOfEach(site);
  store.db.$client.prepare('UPDATE change SET import_id = 1 WHERE id = ?').run(change);
  await setChangeDeleted(store.db, change, true);
  await purgeDeleted(store.db, Date.now() + 40 * 86_400_000);
  expect(store.rows('change')).toEqual([expect.objectContaining({ id: change })]);
});
