import { TempStore } from '../../../tests/support/tempDb';
import { dropFilter, keepFilter, keptFilters } from './filters';
import { passedOpenings, dismissOpening, takeUpOpening } from './passed';
import { findSheet, keepSheet, keptSheets, setSheetDeleted } from './sheets';
import {
  pageTraits,
  queryTraits,
  savePageTraits,
  saveQueryTraits,
  traitsOfPage,
  traitsOfQuery,
} from './traits';

let store: TempStore;
beforeEach(() => (store = new TempStore()));
afterEach(() => store.close());

test('what is said of a page or a query stays until something else is said', async () => {
  const { db } = store;
  const site = await store.site();
  await store.import(site, 'date,page,query,clicks,impressions\n2026-01-01,/a/,wax,1,2');
  await savePageTraits(db, [1], { target: 'wax' });
  await savePageTraits(db, [1], { weight: 2, target: undefined });
  expect(traitsOfPage(db, 1)).toEqual({ target: 'wax', weight: 2, sink: false });
  expect([...pageTraits(db, site.id)]).toHaveLength(1);
  await saveQueryTraits(db, [1], { brand: false });
  await saveQueryTraits(db, [1], { intent: 'to-buy' });
  expect(traitsOfQuery(db, 1)).toEqual({ targetPageId: null, intent: 'to-buy', brand: false });
  expect([...queryTraits(db, site.id)]).toEqual([
    [1, { targetPageId: null, intent: 'to-buy', brand: false }],
  ]);
});

test('filters, openings that are not worth it, and sheets are kept and can be taken back', async () => {
  const { db } = store;
  const { id } = await store.site();
  await keepFilter(db, id, { subject: 'pages', name: 'F', query: '?q=a' });
  await keepFilter(db, id, { subject: 'pages', name: 'F', query: '?q=b' });
  const [kept] = keptFilters(db, id, 'pages');
  expect(kept).toMatchObject({ name: 'F', query: '?q=b' });
  expect(keptFilters(db, id, 'queries')).toEqual([]);
  await dropFilter(db, id + 1, kept!.id);
  expect(keptFilters(db, id, 'pages')).toHaveLength(1);
  await dropFilter(db, id, kept!.id);
  expect(keptFilters(db, id, 'pages')).toEqual([]);

  await dismissOpening(db, id, 'k', { reason: 'no', clicksAMonth: 3 });
  expect(passedOpenings(db, id).get('k')).toEqual({ reason: 'no', clicksAMonth: 3 });
  await takeUpOpening(db, id, 'k');
  expect(passedOpenings(db, id).size).toBe(0);

  const sheet = await keepSheet(
    db,
    {
      siteId: id,
      name: 'S',
      day: 20_000 as never,
      firstDay: 1 as never,
      lastDay: 2 as never,
      pageIds: [1, 2],
    },
    [],
  );
  expect(keptSheets(db, id)).toMatchObject([{ name: 'S', pageIds: [1, 2] }]);
  await setSheetDeleted(db, id, sheet, true);
  expect([keptSheets(db, id), findSheet(db, sheet)]).toEqual([[], null]);
  await setSheetDeleted(db, id, sheet, false);
  expect(findSheet(db, sheet)?.sheet.name).toBe('S');
});
