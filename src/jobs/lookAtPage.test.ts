import { addDays, isoDay } from '../core/calendar/day';
import { newChangeSchema, type Change } from '../core/model/change';
import type { Site } from '../core/model/site';
import { AddressRefused } from '../outside/http/address';
import { AskFailed, type Get } from '../outside/http/get';
import { simulatedSite } from '../outside/sitePages/simulated';
import { addChange, recordStep } from '../store/ledger/changes';
import { findChange, listChanges } from '../store/ledger/findChanges';
import { today } from '../store/clock';
import { pagesForAddresses } from '../store/addresses/pages';
import { lastSighting } from '../store/evidence/sightings';
import { lookOf, snapshotsOf, unloggedOn } from '../store/evidence/snapshots';
import { write } from '../store/write';
import { TempStore } from '../../tests/support/tempDb';
import { askIndex } from './askIndex';
import { lookAtPage } from './lookAtPage';
import { indexOfWorld, simulatedPageOn, type SimulatedWorld } from './simulatedWorld';

const ago = (days: number) => addDays(today(), -days);
const WORLD: SimulatedWorld = {
  firstDay: isoDay(ago(200)),
  busy: ['/a/'],
  pages: {
    '/a/': {
      ...{ title: 'Old', description: 'Was', heading: 'A', types: [], links: [] },
      sections: [{ heading: 'S', text: 'Body' }],
    },
  },
  edits: [{ day: isoDay(ago(30)), path: '/a/', page: { heading: 'A, unlogged' } }],
};

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
});
afterEach(() => store.close());

const log = (over: object): Promise<Change> =>
  addChange(
    store.db,
    site,
    newChangeSchema.parse({
      ...{ title: 'x', kind: 'title-rewrite', day: isoDay(ago(20)), pages: ['/a/'] },
      ...over,
    }),
  );
const pageOn = (days: number) => simulatedPageOn(WORLD, listChanges(store.db, site.id), '/a/', ago(days));
const page = async () => (await write(store.db, () => pagesForAddresses(store.db, site, ['/a/'])))[0]!;

test('the made-up site is what its makers put in, what they did unlogged, and what the ledger says was made', async () => {
  await log({ oldText: 'Old', newText: 'New' });
  await log({
    kind: 'meta-description',
    day: isoDay(ago(10)),
    newText: 'Is',
    parts: [{ kind: 'body-copy', oldText: 'Body', newText: 'More body' }],
  });
  await log({ day: isoDay(ago(5)), newText: 'Planned', planned: true });
  expect(pageOn(40)).toEqual(WORLD.pages['/a/']);
  expect(pageOn(30)).toMatchObject({ title: 'Old', heading: 'A, unlogged' });
  expect(pageOn(20)).toMatchObject({ title: 'New', heading: 'A, unlogged', description: 'Was' });
  expect(pageOn(0)).toMatchObject({
    title: 'New',
    description: 'Is',
    sections: [{ heading: 'S', text: 'More body' }],
  });
  expect(simulatedPageOn(WORLD, [], '/none/', ago(0))).toBeNull();
});

test('a page is looked at, and what was done to it between two looks is found', async () => {
  const at = await page();
  const look = (days: number) =>
    lookAtPage(
      store.db,
      site,
      at,
      simulatedSite(() => pageOn(days)),
      ago(days),
    );
  await look(31);
  await look(29);
  expect(snapshotsOf(store.db, at.id)).toHaveLength(2);
  expect(unloggedOn(store.db, site)).toMatchObject([
    {
      from: ago(31),
      to: ago(29),
      differences: [{ kind: 'headings', before: 'H1 A', after: 'H1 A, unlogged' }],
    },
  ]);
  await look(1);
  expect(snapshotsOf(store.db, at.id)[0]).toMatchObject({ day: ago(29), lastDay: ago(1) });
});

test('why a page could not be fetched stands with it; faults of the program do not', async () => {
  const at = await page();
  const failing =
    (error: Error): Get =>
    async () =>
      Promise.reject(error);
  for (const error of [new AskFailed('It is silent.'), new AddressRefused('It is inside.')]) {
    expect(await lookAtPage(store.db, site, at, failing(error), today())).toHaveProperty('failure');
    expect(lookOf(store.db, at.id).failure).not.toBeNull();
  }
  await expect(lookAtPage(store.db, site, at, failing(new TypeError('x')), today())).rejects.toThrow('x');
  expect(
    await lookAtPage(
      store.db,
      site,
      { ...at, address: `${site.address}/basket/` },
      simulatedSite(() => null),
      today(),
    ),
  ).toEqual({
    failure: expect.stringMatching(/does not allow \/basket\//),
  });
});

test('the index is asked: steps follow once all pages came to them, and what was recorded by hand stays', async () => {
  const change = await log({ oldText: 'Old', newText: 'New' });
  const index = () => indexOfWorld(WORLD, listChanges(store.db, site.id), today());
  await recordStep(store.db, change.id, { step: 'reindex-requested', day: isoDay(ago(20)) });
  const answer = await askIndex(store.db, change, index(), today());
  expect(answer).toEqual({ crawled: 1, recorded: ['crawled', 'seen-in-results'] });
  const { steps } = findChange(store.db, change.id)!;
  expect(steps.crawled! - change.day).toBeLessThanOrEqual(2);
  expect(steps['seen-in-results']!).toBeGreaterThan(steps.crawled!);
  expect(lastSighting(store.db, change.pages[0]!.id)).toMatchObject({ title: 'New', day: today() });
  // Asked again it changes nothing.
  expect((await askIndex(store.db, findChange(store.db, change.id)!, index(), today())).recorded).toEqual([]);
  expect(findChange(store.db, change.id)!.steps).toEqual(steps);
});

test('a change of today is neither crawled nor seen yet', async () => {
  const change = await log({ day: isoDay(today()), oldText: 'Old', newText: 'New' });
  const silent = { crawledSince: async () => null, shown: async () => ({ title: 'Old', since: ago(90) }) };
  expect(await askIndex(store.db, change, silent, today())).toEqual({ crawled: 0, recorded: [] });
  expect(lastSighting(store.db, change.pages[0]!.id)).toMatchObject({ title: 'Old', since: ago(90) });
});
