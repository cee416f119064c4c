import { asDay } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import { newResultPageSchema } from '../../core/wording/resultPage';
import { addChange } from '../../store/ledger/changes';
import { findChange } from '../../store/ledger/findChanges';
import { lastSighting } from '../../store/evidence/sightings';
import { day, TempStore } from '../../../tests/support/tempDb';
import { SiteContext } from '../site/siteContext';
import { bringInResultPage, ownResult, ownResults, resultsEventsFor, resultsEventsOf } from './resultPages';

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
});
afterEach(() => store.close());

const shown = (on: string, title: string, more: object = {}, above: object[] = []) =>
  newResultPageSchema.parse({
    ...{ query: 'wax', day: on, above },
    results: [
      { rank: 1, address: 'https://rival.example/wax', title: 'Rival' },
      { rank: 2, address: 'https://www.quillow-bees.example/wax/?utm_source=x', title, ...more },
    ],
  });

test('results of the site are told from those whose name only begins alike', async () => {
  const own = ownResults(await store.site());
  expect(own('http://quillow-bees.example/wax')).toBe(true);
  expect(own('https://www.quillow-bees.example')).toBe(true);
  expect(own('https://www.quillow-bees.example.rival.example/')).toBe(false);
  expect(own('https://shop.quillow-bees.example/')).toBe(false);
});

test('a result page that shows a new title records that it was seen, and an older one does not take it back', async () => {
  const { db } = store;
  const site = await store.site();
  const change = await addChange(
    db,
    site,
    newChangeSchema.parse({
      ...{ title: 'Wax title', kind: 'title-rewrite', day: '2026-09-01', pages: ['/wax/'] },
      ...{ oldText: 'Wax', newText: 'Wax that lasts' },
    }),
  );
  await bringInResultPage(db, site, shown('2026-09-02', 'Wax'));
  expect(findChange(db, change.id)!.steps['seen-in-results']).toBeUndefined();
  const page = await bringInResultPage(db, site, shown('2026-09-09', 'Wax that lasts'));
  expect(ownResult(site, page)).toMatchObject({ rank: 2 });
  expect(findChange(db, change.id)!.steps['seen-in-results']).toBe(day('2026-09-09'));
  await bringInResultPage(db, site, shown('2026-08-20', 'Wax'));
  // A later change of something else on the page, or one that is only planned, does not stand in between.
  for (const more of [{ kind: 'speed' }, { kind: 'title-rewrite', newText: 'Wax anew', planned: true }])
    await addChange(
      db,
      site,
      newChangeSchema.parse({ title: 'Later', day: '2026-09-20', pages: ['/wax/'], ...more }),
    );
  const other = await addChange(
    db,
    site,
    newChangeSchema.parse({
      ...{ title: 'Second', kind: 'title-rewrite', day: '2026-09-12', pages: ['/wax/'] },
      newText: 'Wax, second',
    }),
  );
  await bringInResultPage(db, site, shown('2026-09-30', 'Wax, second'));
  expect(findChange(db, other.id)!.steps['seen-in-results']).toBe(day('2026-09-30'));
  expect(lastSighting(db, change.pages[0]!.id)).toMatchObject({
    title: 'Wax, second',
    day: day('2026-09-30'),
  });
});

test('what happened between two looks stands beside a change of the page, as far as was known', async () => {
  const { db } = store;
  const site = await store.site();
  const change = await addChange(
    db,
    site,
    newChangeSchema.parse({ title: 'T', kind: 'other', day: '2026-09-01', pages: ['/wax/'] }),
  );
  await bringInResultPage(db, site, shown('2026-08-28', 'Wax', { extras: ['stars'] }));
  await bringInResultPage(db, site, shown('2026-09-18', 'Wax', {}, [{ kind: 'answer-generated' }]));
  const texts = (events: readonly { text: string }[]) => events.map(({ text }) => text);
  const both = ['the result lost its stars', 'a generated answer appeared above the results'];
  expect(texts(resultsEventsOf(db, site, ['wax']))).toEqual(both);
  const context = new SiteContext(db, site);
  expect(texts(resultsEventsFor(context, change))).toEqual(both);
  expect(resultsEventsFor(context, { ...change, queries: ['honey'] })).toEqual([]);
  expect(
    resultsEventsFor(context, {
      ...change,
      pages: [{ id: 9, address: 'https://www.quillow-bees.example/b/' }],
    }),
  ).toEqual([]);
  expect(resultsEventsFor(new SiteContext(db, site, asDay(day('2026-09-10'))), change)).toEqual([]);
});
