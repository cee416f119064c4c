import { addDays, isoDay } from '../../core/calendar/day';
import { listQuerySchema } from '../../core/lists/wish';
import type { Site } from '../../core/model/site';
import { day, TempStore } from '../../../tests/support/tempDb';
import { compareSubject } from '../reading/compareSubject';
import { Engines } from '../site/engines';
import { Findings } from '../pages/findings';
import { Lists } from '../lists/lists';
import { listRequest } from '../lists/fromQuery';
import { QueryPages } from './queryPages';
import { SiteContext } from '../site/siteContext';
import { subjectDays } from './subjectDays';

const FIRST = day('2026-06-01');
const DAYS = 120;

const rows = (head: string, line: (at: number, date: string) => string[], from = 0) =>
  [
    head,
    ...Array.from({ length: DAYS - from }, (_, i) => line(from + i, isoDay(addDays(FIRST, from + i)))).flat(),
  ].join('\n');

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
  const pages = rows('date,page,clicks,impressions,position', (_, date) =>
    ['/hives/', '/honey/', '/swarms/'].map((page) => `${date},${page},20,400,5`),
  );
  await store.import(site, pages);
  const queries = rows('date,query,clicks,impressions,position', (_, date) => [
    `${date},buy a hive,6,100,4`,
    `${date},raw honey,2,50,8`,
  ]);
  const imported = await store.import(site, queries);
  expect(imported).toMatchObject({ state: 'done', grain: 'query_day', rowsRefused: 0 });
});
afterEach(() => store.close());

const span = (from: number, to: number) => ({ firstDay: addDays(FIRST, from), lastDay: addDays(FIRST, to) });

function queries(now = span(56, 83)) {
  const engines = new Engines(store.db);
  const lists = new Lists(engines, new Findings());
  const context = new SiteContext(store.db, site);
  const wish = listRequest(context, 'queries', listQuerySchema.parse({}));
  if (!wish || typeof wish === 'string') throw new Error(`No list: ${wish}`);
  return lists.list(context, { ...wish, spans: { now, was: null } })!;
}

test('queries without a page are listed with their figures, on no page', () => {
  const { lines } = queries();
  expect(lines.map(({ query, metrics }) => [query?.text, metrics.clicks.after])).toEqual([
    ['buy a hive', 6 * 28],
    ['raw honey', 2 * 28],
  ]);
  expect(lines[0]!.metrics.position.after).toBe(4);
  expect(lines[0]!.further.pages).toBe(0);
});

test('on days with rows by page and query the others are left aside, so that nothing counts twice', async () => {
  const pairs = rows(
    'date,page,query,clicks,impressions,position',
    (_, date) => [`${date},/hives/,buy a hive,5,90,4`],
    100,
  );
  await store.import(site, pairs);
  const { lines } = queries(span(90, 109));
  const hive = lines.find(({ query }) => query?.text === 'buy a hive')!;
  expect(hive.metrics.clicks.after).toBe(6 * 10 + 5 * 10);
  // Withheld on these days, so what was known without a page does not count either.
  const honey = lines.find(({ query }) => query?.text === 'raw honey')!;
  expect(honey.metrics.clicks.after).toBe(2 * 10);
});

test('a query without a page has its days and its comparison', () => {
  const engines = new Engines(store.db);
  const context = new SiteContext(store.db, site);
  const wish = { pageIds: null, query: 'buy a hive', device: 0, span: span(0, DAYS - 1) };
  const days = subjectDays(context, { engines, queryPages: new QueryPages(engines) }, wish)!;
  expect(new Set(days.clicks)).toEqual(new Set([6]));
  const compared = compareSubject(context, engines, {
    ...{ pageIds: null, query: 'buy a hive', device: null },
    ...{ before: span(28, 55), after: span(56, 83) },
  })!;
  expect(compared.metrics.clicks).toMatchObject({ before: 168, after: 168 });
  expect(compared.net?.clicks?.ratio).toBeCloseTo(1, 2);
});
