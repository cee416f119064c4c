import { isoDay, addDays } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import { changeSpans } from '../../core/calendar/span';
import { day, TempStore } from '../../../tests/support/tempDb';
import { addChange } from '../../store/ledger/changes';
import { grainsOf, siteCoverage } from '../../store/figures/coverage';
import { listPages } from '../../store/addresses/pages';
import {
  matchingPeriods,
  periodBefore,
  periodFigures,
  periodsOf,
  periodTotals,
} from '../../store/figures/periods';
import { Engines } from '../site/engines';
import { readChange } from '../reading/readChange';
import { SiteContext } from '../site/siteContext';
import { undoImport } from '../../store/figures/undo';

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
});
afterEach(() => store.close());

const CHANGE = day('2026-06-01');
const { before, after } = changeSpans(CHANGE, 28, 3);
const stated = ({ firstDay, lastDay }: typeof before) => ({
  period: { firstDay: isoDay(firstDay), lastDay: isoDay(lastDay) },
});
const HEAD = 'page,clicks,impressions,position';

test('totals of a period are kept by page, the newer file winning, and are no daily figures', async () => {
  const site = await store.site();
  const csv = `${HEAD}\n/a/,30,1000,5\nhttp://quillow-bees.example/a/,3,100,10\n/b/,1,10,`;
  const first = await store.import(site, csv, stated(before));
  expect(first).toMatchObject({ state: 'done', grain: 'page_period', rowsStored: 3, ...before });
  await store.import(site, `${HEAD}\n/a/,60,1200,4`, stated(after));
  const id = listPages(store.db, site.id).find(({ address }) => address.endsWith('/a/'))!.id;
  // Two spellings of a page are added up, as daily rows are.
  expect(periodFigures(store.db, site.id, id, before)).toEqual({
    ...{ day: before.firstDay, clicks: 33, impressions: 1100, positionSum: 6000, positionWeight: 1100 },
  });
  expect([...periodTotals(store.db, site.id, before).values()].map(({ clicks }) => clicks)).toEqual([33, 1]);
  expect(
    periodFigures(store.db, site.id, id, { ...before, lastDay: addDays(before.lastDay, -1) }),
  ).toBeNull();
  expect(periodsOf(store.db, site.id)).toEqual([after, before]);
  expect(
    periodBefore(periodsOf(store.db, site.id), {
      firstDay: addDays(before.lastDay, 1),
      lastDay: addDays(before.lastDay, 28),
    }),
  ).toEqual(before);
  expect(periodBefore(periodsOf(store.db, site.id), after)).toBeNull();
  expect(siteCoverage(store.db, site.id)).toBeNull();
  await store.import(site, `${HEAD}\n/a/,40,1000,5`, stated(before));
  expect(periodFigures(store.db, site.id, id, before)?.clicks).toBe(43);
  await undoImport(store.db, site, first.id);
  expect(periodFigures(store.db, site.id, id, before)?.clicks).toBe(40);
});

test('two periods that are the spans of a change make a plain before and after, marked as that', async () => {
  const site = await store.site();
  await store.import(site, `${HEAD}\n/a/,30,1000,5`, stated(before));
  const input = { title: 'T', kind: 'title-rewrite', day: isoDay(CHANGE), pages: ['/a/'] };
  const change = await addChange(store.db, site, newChangeSchema.parse(input));
  const read = () => readChange(new SiteContext(store.db, site), new Engines(store.db), change);
  expect(read().metrics.clicks).toMatchObject({ before: null, after: null });
  await store.import(site, `${HEAD}\n/a/,60,1200,4`, stated(after));
  const reading = read();
  expect(reading.metrics).toMatchObject({
    clicks: { before: 30, after: 60 },
    impressions: { before: 1000, after: 1200 },
    position: { before: 5, after: 4, placesGained: 1 },
  });
  expect([reading.verdict, reading.net]).toEqual(['unclear', null]);
  expect(reading.cautions.map(({ code }) => code)).toContain('period-totals');
  expect(reading.cautions.map(({ code }) => code)).not.toContain('missing-days');
  // With daily figures on both sides, periods are left alone.
  const daily = [before.firstDay, after.firstDay].map((at) => `${isoDay(at)},/a/,1,10,5`);
  await store.import(site, ['date,page,clicks,impressions,position', ...daily].join('\n'));
  expect(read().cautions.map(({ code }) => code)).not.toContain('period-totals');
});

test('a query over matching periods', async () => {
  const site = await store.site();
  const head = 'page,query,clicks,impressions,position';
  await store.import(site, `${head}\n/a/,Hive,3,100,5\n/a/,bee,9,10,1`, stated(before));
  await store.import(site, `${head}\n/a/,hive,6,120,4`, stated(after));
  const pages = [listPages(store.db, site.id)[0]!.id];
  const spans = { before, after };
  expect(matchingPeriods(store.db, site.id, pages, spans, 'hive')?.rows.map(({ clicks }) => clicks)).toEqual([
    3, 6,
  ]);
  expect(matchingPeriods(store.db, site.id, pages, spans, 'bee')).toBeNull();
  expect(matchingPeriods(store.db, site.id, pages, spans, null)).toBeNull();
});

test('each row of a file of weeks holds for its own week, and weeks add up to a span', async () => {
  const site = await store.site();
  const csv =
    'Date,page,clicks,impressions,position\n2026-W21,/a/,5,100,4\n2026-W22,/a/,7,100,6\n2099-W01,/a/,1,10,1';
  const imported = await store.import(site, csv);
  expect(imported).toMatchObject({ state: 'done', grain: 'page_period', rowsStored: 2, rowsRefused: 1 });
  const week = (firstDay: string, lastDay: string) => ({ firstDay: day(firstDay), lastDay: day(lastDay) });
  const [first, second] = [week('2026-05-18', '2026-05-24'), week('2026-05-25', '2026-05-31')];
  expect(periodsOf(store.db, site.id)).toEqual([second, first]);
  expect(imported).toMatchObject({ firstDay: first.firstDay, lastDay: second.lastDay });
  const { id } = listPages(store.db, site.id)[0]!;
  expect(periodFigures(store.db, site.id, id, second)?.clicks).toBe(7);
  expect(periodFigures(store.db, site.id, id, { ...first, lastDay: second.lastDay })).toMatchObject({
    ...{ clicks: 12, impressions: 200, positionSum: 1000 },
  });
  expect(periodFigures(store.db, site.id, id, { ...first, lastDay: addDays(second.lastDay, 1) })).toBeNull();
  expect(grainsOf(store.db, site.id)).toEqual([]);
});
