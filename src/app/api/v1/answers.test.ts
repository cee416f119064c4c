import { addDays, isoDay } from '@/core/calendar/day';
import { newChangeSchema } from '@/core/model/change';
import { changeJson, loggedChangeJson } from '@/core/model/changeJson';
import { eventJson } from '@/core/model/eventJson';
import { toJson } from '@/core/model/json';
import { siteJson } from '@/core/model/siteJson';
import { importJson } from '@/core/intake/importJson';
import { readingItemJson, readingJson } from '@/core/reading/readingJson';
import { twinCautions } from '@/services/pages/twins';
import { newEventSchema } from '@/core/model/event';
import type { Site } from '@/core/model/site';
import { Engines } from '@/services/site/engines';
import { readChange } from '@/services/reading/readChange';
import { readChanges } from '@/services/reading/readChanges';
import { SiteContext } from '@/services/site/siteContext';
import { addChange, recordStep } from '@/store/ledger/changes';
import { addEvent } from '@/store/ledger/events';
import { listProblems } from '@/store/figures/imports';
import { day, TempStore } from '../../../../tests/support/tempDb';
/* Stored things as the API answers with them. */

const FIRST = day('2026-01-01');

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
  const lines = ['date,page,query,device,clicks,impressions,position'];
  for (let i = 0; i < 120; i++)
    for (const page of ['/a/', '/b/', '/c/', '/d/', '/e/', '/f/'])
      for (const query of ['wax', 'honey'])
        lines.push(`${isoDay(addDays(FIRST, i))},${page},${query},mobile,${(i % 5) + 2},${80 + (i % 9)},4.5`);
  await store.import(site, lines.join('\n'));
});
afterEach(() => store.close());

test('a change, as it is logged and as it stands after its steps', async () => {
  const change = await addChange(
    store.db,
    site,
    newChangeSchema.parse({
      ...{ title: 'T', kind: 'title-rewrite', day: isoDay(addDays(FIRST, 60)), pages: ['/a', '/b/'] },
      ...{ tags: ['round'], queries: ['Wax'], parts: [{ kind: 'headings', page: '/b/', newText: 'N' }] },
      expectation: { metric: 'position', direction: 'up', amount: 1, reviewDay: '2026-06-01' },
    }),
  );
  const stepped = await recordStep(store.db, change.id, { step: 'crawled', day: '2026-03-05' });
  expect(toJson(changeJson, stepped)).toMatchObject({
    ...{ day: '2026-03-02', planned: false, steps: { crawled: '2026-03-05' } },
    expectation: { metric: 'position', reviewDay: '2026-06-01' },
    parts: [{ page: 'https://www.quillow-bees.example/b/' }],
  });
  // The page without a slash has no figures, and its twin has.
  const { cautions } = toJson(loggedChangeJson, {
    change,
    cautions: twinCautions(new SiteContext(store.db, site), change.pages),
  });
  expect(cautions).toEqual([
    { field: 'pages.0', message: expect.stringContaining('/a has no search figures, and /a/ has') },
  ]);
});

test('a reading, complete and waiting, alone and in a list', async () => {
  for (const after of [40, 110])
    await addChange(
      store.db,
      site,
      newChangeSchema.parse({
        ...{ title: `On day ${after}`, kind: 'headings', day: isoDay(addDays(FIRST, after)) },
        pages: ['/a/', '/b/'],
      }),
    );
  const context = new SiteContext(store.db, site);
  const engines = new Engines(store.db);
  const readings = readChanges(context, engines);
  const list = readings.map((reading) => toJson(readingItemJson, reading));
  expect(list.map(({ verdict }) => verdict === 'waiting')).toEqual([true, false]);
  for (const { change } of readings) {
    const reading = readChange(context, engines, change);
    const json = toJson(readingJson, reading);
    expect(json.sentence.length).toBeGreaterThan(20);
    expect(json.pages).toHaveLength(json.net === null ? 0 : 2);
    expect(json.spans.before.lastDay).toBe(isoDay(addDays(change.day, -1)));
  }
});

test('a site, an event and an import', async () => {
  expect(toJson(siteJson, site)).toEqual({ id: site.id, name: site.name, address: site.address });
  const event = newEventSchema.parse({
    name: 'E',
    kind: 'other',
    firstDay: '2026-02-01',
    lastDay: '2026-02-02',
  });
  const noted = await addEvent(store.db, site.id, event);
  expect(toJson(eventJson, noted)).toMatchObject({ firstDay: '2026-02-01', lastDay: '2026-02-02' });
  const failed = await store.import(site, 'date,page,clicks,impressions\n2026-02-31,/a/,1,2');
  const json = toJson(importJson, { ...failed, problems: listProblems(store.db, failed.id, 9) });
  expect(json).toMatchObject({
    state: 'failed',
    about: 'figures',
    rowsRefused: 1,
    rowsLeftOut: 0,
    foldedAt: null,
  });
  // What concerns the whole file stands at its head, before the rows.
  expect(json.problems.map(({ line }) => line)).toEqual([1, 2]);
});
