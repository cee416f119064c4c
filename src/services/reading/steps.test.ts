import { addDays, isoDay } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import { changedFields } from '../../core/model/changeHistory';
import { isMade } from '../../core/model/steps';
import type { Site } from '../../core/model/site';
import { addSite } from '../../store/sites';
import { day, TempStore } from '../../../tests/support/tempDb';
import { historyOf, restoreChange } from '../../store/ledger/changeHistory';
import {
  addChange,
  editChange,
  recordDecision,
  recordStep,
  setChangeDeleted,
} from '../../store/ledger/changes';
import { chainOf, findChange } from '../../store/ledger/findChanges';
import { Engines } from '../site/engines';
import { pictureOf } from './readingPicture';
import { readChange } from './readChange';
import { readChanges } from './readChanges';
import { SiteContext } from '../site/siteContext';

const TODAY = day('2026-06-01');
let store: TempStore;
let site: Site;
beforeEach(async () => {
  process.env.TALLY_TODAY = isoDay(TODAY);
  store = new TempStore();
  site = await store.site();
});
afterEach(() => {
  store.close();
  delete process.env.TALLY_TODAY;
});

const MADE = addDays(TODAY, -60);
const log = (over: object = {}, key: string | null = null) =>
  addChange(
    store.db,
    site,
    newChangeSchema.parse({ title: 'T', kind: 'title-rewrite', day: isoDay(MADE), pages: ['/a/'], ...over }),
    key,
  );
const read = (id: number, wish = {}) =>
  readChange(new SiteContext(store.db, site), new Engines(store.db), findChange(store.db, id)!, wish);

async function figures(): Promise<void> {
  const rows = Array.from({ length: 200 }, (_, i) =>
    ['/a/', '/b/', '/c/', '/d/', '/e/', '/f/', '/g/'].map(
      (page) => `${isoDay(addDays(TODAY, i - 199))},${page},${5 + (i % 4)},100,5`,
    ),
  );
  await store.import(site, ['date,page,clicks,impressions,position', ...rows.flat()].join('\n'));
}

test('a step recorded after the after span has ended leaves a finished reading as it is', async () => {
  await figures();
  const { id } = await log();
  const finished = read(id);
  expect(finished.spans.complete).toBe(true);
  for (const on of [TODAY, addDays(MADE, 9)]) {
    await recordStep(store.db, id, { step: 'crawled', day: isoDay(on) });
    const { spans, verdict, net } = read(id);
    expect({ spans, verdict, net }).toEqual({
      spans: finished.spans,
      verdict: finished.verdict,
      net: finished.net,
    });
  }
  // A version that was recorded in time is put back as it was.
  await recordStep(
    store.db,
    id,
    { step: 'crawled', day: isoDay(addDays(MADE, 9)) },
    undefined,
    addDays(MADE, 9),
  );
  await recordStep(store.db, id, { step: 'crawled', day: null });
  await restoreChange(store.db, site, id, historyOf(store.db, id)[0]!.id);
  expect(read(id).spans.settlingDays).toBe(9);
});

test('the after span begins no earlier than the day on which the page was crawled again', async () => {
  process.env.TALLY_TODAY = isoDay(addDays(MADE, 20));
  const { id } = await log();
  expect(read(id).spans.settlingDays).toBe(site.settlingDays);
  await recordStep(store.db, id, { step: 'crawled', day: isoDay(addDays(MADE, 9)) });
  expect(read(id).spans).toMatchObject({ settlingDays: 9, after: { firstDay: addDays(MADE, 9) } });
  // A crawl within the days that are left out anyway changes nothing, and a wish is a wish.
  await recordStep(store.db, id, { step: 'crawled', day: isoDay(addDays(MADE, 1)) });
  expect(read(id).spans.settlingDays).toBe(site.settlingDays);
  await recordStep(store.db, id, { step: 'crawled', day: isoDay(addDays(MADE, 9)) });
  expect(read(id, { settlingDays: 5 }).spans.settlingDays).toBe(5);
  await recordStep(store.db, id, { step: 'crawled', day: null });
  expect(findChange(store.db, id)!.steps).toEqual({});
});

test('a change that was only planned is not read, and touches no page, until it is made', async () => {
  await figures();
  const plan = await log({ planned: true });
  const other = await log({ pages: ['/b/'] });
  expect([isMade(plan), plan.steps.planned]).toEqual([false, TODAY]);
  const waiting = read(plan.id);
  expect([waiting.spans.planned, waiting.verdict, waiting.compared?.after ?? null]).toEqual([
    true,
    'waiting',
    null,
  ]);
  const yardstick = () => read(other.id).yardstick!.pages;
  const untouched = yardstick();
  const made = await recordStep(store.db, plan.id, { step: 'made', day: isoDay(addDays(MADE, 2)) });
  expect([isMade(made), made.day]).toEqual([true, addDays(MADE, 2)]);
  expect(read(plan.id)).toMatchObject({ spans: { planned: false }, compared: { after: expect.anything() } });
  expect(yardstick()).toBe(untouched - 1);
  expect(
    readChanges(new SiteContext(store.db, site), new Engines(store.db)).map(({ spans }) => spans.planned),
  ).toEqual([false, false]);
  await recordStep(store.db, plan.id, { step: 'made', day: null });
  expect(read(plan.id).spans.planned).toBe(true);
});

test('a change on a day to come is a plan, but for tomorrow, which may be today elsewhere', async () => {
  expect(isMade(await log({ day: isoDay(addDays(TODAY, 1)) }))).toBe(true);
  const later = await log({ day: isoDay(addDays(TODAY, 2)) });
  expect([isMade(later), later.steps]).toEqual([false, { planned: TODAY }]);
});

test('an edit can plan a change and make it', async () => {
  const { id } = await log();
  await editChange(store.db, site, id, { planned: true });
  expect(isMade(findChange(store.db, id)!)).toBe(false);
  await editChange(store.db, site, id, { planned: false });
  expect(findChange(store.db, id)!.steps).toEqual({ planned: TODAY, made: MADE });
  // An edit of something else leaves the steps alone.
  await editChange(store.db, site, id, { title: 'Other' });
  expect(findChange(store.db, id)!.steps.made).toBe(MADE);
});

test('a decision stands with its day and reason, and can be taken back', async () => {
  const { id } = await log();
  const decided = await recordDecision(store.db, id, {
    decision: 'keep',
    reason: 'It lifted.',
    day: isoDay(TODAY),
  });
  expect([decided.decision, decided.steps.decided]).toEqual([
    { decision: 'keep', reason: 'It lifted.' },
    TODAY,
  ]);
  const open = await recordDecision(store.db, id, { decision: null, reason: 'x', day: isoDay(TODAY) });
  expect([open.decision, open.steps]).toEqual([null, {}]);
  // What it said before each of these is kept.
  expect(store.rows('change_history')).toHaveLength(2);
});

test('changes that follow one another read as a chain, from any of them', async () => {
  const first = await log({ title: 'Title' });
  const second = await log({ title: 'Headings', day: isoDay(addDays(MADE, 10)), followsId: first.id });
  const third = await log({ title: 'Title again', day: isoDay(addDays(MADE, 20)), followsId: second.id });
  const alone = await log({ title: 'Alone' });
  for (const { id } of [first, second, third]) {
    expect(chainOf(store.db, site.id, id).map(({ title }) => title)).toEqual([
      'Title',
      'Headings',
      'Title again',
    ]);
  }
  expect(chainOf(store.db, site.id, alone.id)).toEqual([]);
  await setChangeDeleted(store.db, third.id, true);
  expect(chainOf(store.db, site.id, first.id)).toHaveLength(2);
  // Whatever another site's change names, it is no part of this chain.
  const other = await addSite(store.db, { name: 'Other', address: 'https://other.quillow-bees.example' });
  const elsewhere = await addChange(
    store.db,
    other,
    newChangeSchema.parse({ title: 'Elsewhere', kind: 'headings', day: isoDay(MADE), pages: ['/a/'] }),
  );
  store.db.$client.exec(`UPDATE change SET follows_id = ${first.id} WHERE id = ${elsewhere.id}`);
  expect(chainOf(store.db, site.id, first.id)).toHaveLength(2);
  await expect(log({ followsId: 999 })).rejects.toThrow(/There is no change 999 on this site/);
});

test('a request that is sent twice under its name logs one change', async () => {
  const once = await log({}, 'release-41');
  expect((await log({}, 'release-41')).id).toBe(once.id);
  expect((await log({}, 'release-42')).id).not.toBe(once.id);
  await expect(log({ title: 'Something else' }, 'release-41')).rejects.toThrow(/used for another request/);
  expect(store.rows('change')).toHaveLength(2);
});

test('every edit is kept with its time, and can be taken back, and that too', async () => {
  const { id } = await log({ newText: 'first', queries: ['hive'] });
  const first = findChange(store.db, id)!;
  await editChange(store.db, site, id, { newText: 'second', pages: ['/b/'], queries: [] });
  await recordStep(store.db, id, { step: 'crawled', day: isoDay(TODAY) });
  await recordDecision(store.db, id, { decision: 'keep', reason: 'x', day: isoDay(TODAY) });
  const last = findChange(store.db, id)!;
  const history = historyOf(store.db, id);
  const states = [last, ...history.map(({ was }) => was)];
  expect(history.map(({ was }, i) => changedFields(was, states[i]!))).toEqual([
    ['steps', 'decision'],
    ['steps'],
    ['pages', 'queries', 'new text'],
  ]);
  const restored = await restoreChange(store.db, site, id, history[2]!.id);
  expect(changedFields(restored, first)).toEqual([]);
  expect(
    changedFields(await restoreChange(store.db, site, id, historyOf(store.db, id)[0]!.id), last),
  ).toEqual([]);
  await expect(restoreChange(store.db, site, id, 999)).rejects.toThrow(/no such entry/);
});

test('the stroke of a change stands on its own picture also while it is planned', async () => {
  await figures();
  const { id } = await log({ day: isoDay(addDays(TODAY, 5)) });
  const engines = new Engines(store.db);
  const picture = pictureOf(new SiteContext(store.db, site), engines, read(id));
  expect(picture.changes.map((change) => change.id)).toEqual([id]);
});
