import { randomLcg, randomPoisson } from 'd3-random';
import { addDays, isoDay } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import { newEventSchema } from '../../core/model/event';
import type { Site } from '../../core/model/site';
import { pageOf } from '../../store/addresses/pages';
import { addChange } from '../../store/ledger/changes';
import { addEvent } from '../../store/ledger/events';
import { day, TempStore } from '../../../tests/support/tempDb';
import { Engines } from '../site/engines';
import { QueryPages } from './queryPages';
import { Shifts } from './shifts';
import { SiteContext } from '../site/siteContext';

const FIRST = day('2025-09-01');
const DAYS = 300;
const STEP = addDays(FIRST, 200);
const PAGES = 12;
const FELL = '/guides/page-0/';
const OTHER = '/guides/page-1/';

/** Pages with figures of chance; of one, clicks fall to two fifths on a day, in a step that the others do not share. */
function pagesCsv(stepOf: (page: string, day: number) => number): string {
  const lines = ['date,page,clicks,impressions,position'];
  for (let n = 0; n < PAGES; n++) {
    const poisson = randomPoisson.source(randomLcg((n + 1) / 40));
    const page = `/guides/page-${n}/`;
    for (let i = 0; i < DAYS; i++) {
      const clicks = poisson(40 * stepOf(page, FIRST + i))();
      lines.push(`${isoDay(addDays(FIRST, i))},${page},${clicks},900,5`);
    }
  }
  return lines.join('\n');
}

let store: TempStore;
let site: Site;
let shifts: Shifts;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
  const engines = new Engines(store.db);
  shifts = new Shifts(engines, new QueryPages(engines));
  await store.import(
    site,
    pagesCsv((page, on) => (page === FELL && on >= STEP ? 0.4 : 1)),
  );
});
afterEach(() => store.close());

const context = () => new SiteContext(store.db, site);
const idOf = (page: string) => pageOf(store.db, site, page)!.id;
const of = (page: string) => shifts.of(context(), { pageIds: [idOf(page)], query: null })!;
const log = (title: string, page: string, on: number) =>
  addChange(
    store.db,
    site,
    newChangeSchema.parse({ title, kind: 'headings', day: isoDay(on as never), pages: [page] }),
  );

test('a step of one page is found on its day, and no other page has one', () => {
  const found = of(FELL);
  expect(found).toHaveLength(1);
  const [{ day: on, firstDay, lastDay, ratio, low, high }] = found as [(typeof found)[0]];
  expect(firstDay).toBeLessThanOrEqual(STEP);
  expect(lastDay).toBeGreaterThanOrEqual(STEP);
  expect(Math.abs(on - STEP)).toBeLessThanOrEqual(3);
  expect(ratio).toBeGreaterThan(0.35);
  expect(ratio).toBeLessThan(0.45);
  expect(low).toBeLessThan(0.4);
  expect(high).toBeGreaterThan(0.4);
  expect(of(OTHER)).toEqual([]);
  expect(shifts.of(context(), { pageIds: [999], query: null })).toEqual([]);
});

test('what is near is told, the nearest first: of the pages in question, and of the whole site', async () => {
  await log('New headings', FELL, STEP + 1);
  await log('Of another page', OTHER, STEP);
  await log('Long before', FELL, STEP - 60);
  const note = (name: string, on: number, group?: string) =>
    addEvent(
      store.db,
      site.id,
      newEventSchema.parse({ name, kind: 'outage', firstDay: isoDay(on as never), group }),
    );
  await note('Clover update', STEP - 3);
  await note('Shop down', STEP - 2, '/shop/');
  const [shift] = of(FELL);
  const texts = shift!.near.map(({ text }) => text);
  expect(texts).toContain('New headings');
  expect(texts).toContain('Clover update');
  expect(texts).not.toContain('Of another page');
  expect(texts).not.toContain('Shop down');
  expect(texts).not.toContain('Long before');
  const distances = shift!.near.map((one) => Math.abs(one.day - shift!.day));
  expect(distances).toEqual([...distances].sort((a, b) => a - b));
});

test('pages that slipped are those whose last step went down and was not made good', async () => {
  const slipped = async (since: number) => [
    ...(await shifts.slipped(context(), since as never, () => undefined)).keys(),
  ];
  expect(await slipped(STEP - 30)).toEqual([idOf(FELL)]);
  expect(await slipped(STEP + 30)).toEqual([]);
  // Newer figures say that it came back after five weeks.
  await store.import(
    site,
    pagesCsv((page, on) => (page === FELL && on >= STEP && on < STEP + 35 ? 0.4 : 1)),
  );
  expect(await slipped(STEP - 30)).toEqual([]);
});

test('of a query the page that took over is named', async () => {
  const poisson = randomPoisson.source(randomLcg(0.71));
  const lines = ['date,page,query,clicks,impressions,position'];
  for (let i = 0; i < DAYS; i++) {
    const [page, mean] = FIRST + i < STEP ? [FELL, 24] : [OTHER, 8];
    lines.push(`${isoDay(addDays(FIRST, i))},${page},hive stands,${poisson(mean)()},200,4`);
  }
  await store.import(site, lines.join('\n'));
  const [shift, ...more] = shifts.of(context(), { pageIds: null, query: 'hive stands' })!;
  expect(more).toEqual([]);
  expect(shift!.ratio).toBeLessThan(0.45);
  expect(shift!.near.map(({ kind, text }) => [kind, text])).toContainEqual([
    'page',
    `${OTHER} took over from ${FELL}`,
  ]);
  // A query that was never shown has no level that could shift.
  expect(shifts.of(context(), { pageIds: null, query: 'nobody asks' })).toEqual([]);
});

test('a site without figures has none', async () => {
  const empty = await store.site('https://www.empty.example');
  expect(shifts.of(new SiteContext(store.db, empty), { pageIds: null, query: null })).toBeNull();
});
