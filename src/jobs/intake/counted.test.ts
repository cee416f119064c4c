import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { recogniseColumns } from '../../core/intake/columns';
import type { Site } from '../../core/model/site';
import { day, HOME, TempStore } from '../../../tests/support/tempDb';
import { listProblems, rememberedSettings } from '../../store/figures/imports';
import { headKey } from '../../core/intake/columns';
import { standingFacts } from '../../store/figures/layers';
import { checkFile } from '../checkFile';
import { inspectFile } from '../inspectFile';

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
});
afterEach(() => store.close());

const HEAD = [
  'date',
  'landing page',
  'session source / medium',
  'sessions',
  'key events',
  'purchase revenue',
];
const VISITS = [
  HEAD.join(','),
  '2026-03-01,/a/,google / organic,10,1,20.5',
  '2026-03-01,/a/,google / cpc,90,2,30',
  '2026-03-01,/a/,Bing / Organic,5,1,4.5',
  '2026-03-01,/b/,newsletter / email,7,0,0',
].join('\n');

function file(text: string): string {
  const name = path.join(store.dir, 'looked-at.csv');
  writeFileSync(name, text);
  return name;
}
const look = (text: string, stated = {}) =>
  inspectFile(file(text), { address: HOME }, day('2030-01-01'), stated);
const values = (grain: 'analytics_day' | 'page_day') =>
  Array.from(standingFacts(store.db, site.id, grain), ({ facts }) =>
    Array.from({ length: facts.rows }, (_, row) => facts.values.map((column) => column[row]!)),
  ).flat();

test('only organic sessions count unless somebody says otherwise, and those of one page are added up', async () => {
  const done = await store.import(site, VISITS);
  expect(done).toMatchObject({ state: 'done', rowsRead: 4, rowsLeftOut: 2, rowsRefused: 0, rowsRepeated: 0 });
  expect(values('analytics_day')).toEqual([[15, NaN, NaN, 2, 25]]);
});

test('the preview lists the channels with their rows, and how many rows are left', async () => {
  const seen = await look(VISITS);
  expect([seen.grain, seen.rows, seen.rowsCounted, seen.questions]).toEqual(['analytics_day', 4, 2, []]);
  expect(seen.choices).toEqual([
    {
      choice: 'channel',
      more: false,
      values: [
        { value: 'Bing / Organic', rows: 1, counts: true },
        { value: 'google / cpc', rows: 1, counts: false },
        { value: 'google / organic', rows: 1, counts: true },
        { value: 'newsletter / email', rows: 1, counts: false },
      ],
    },
  ]);
  expect(seen.sample.map(({ understood }) => understood === null)).toEqual([false, true, false, true]);
  const email = await look(VISITS, { counted: { channel: ['Newsletter / email'] } });
  expect(email.rowsCounted).toBe(1);
});

test('what was said to count is remembered with the mapping of files with the same head', async () => {
  await store.import(site, VISITS, { counted: { channel: ['google / cpc'] } });
  expect(values('analytics_day')).toEqual([[90, NaN, NaN, 2, 30]]);
  const remembered = rememberedSettings(store.db, site.id, headKey(HEAD));
  expect(remembered.counted).toEqual({ channel: ['google / cpc'] });
  const again = await store.import(site, VISITS.replaceAll('2026-03-01', '2026-03-02'));
  expect(again.rowsLeftOut).toBe(3);
});

test('where no row counts, the file is not taken, and is told what to state', async () => {
  const paid = VISITS.replaceAll(/organic/gi, 'paid');
  const seen = await look(paid);
  expect([seen.rowsCounted, seen.questions]).toEqual([0, ['counted']]);
  const failed = await store.import(site, paid);
  expect(failed).toMatchObject({ state: 'failed', failure: expect.stringContaining('counted={"channel"') });
  expect(
    await checkFile(store.db, site, file(paid), day('2030-01-01'), { counted: { channel: ['x'] } }),
  ).toEqual({
    counted: { channel: ['x'] },
  });
});

test('of several kinds of search only that of web pages counts, unless somebody says otherwise', async () => {
  const csv = [
    'date,page,search type,clicks,impressions,position',
    '2026-03-01,/a/,web,3,30,4',
    '2026-03-01,/a/,image,1,500,9',
    '2026-03-01,/a/,news,2,20,2',
  ].join('\n');
  expect(await store.import(site, csv)).toMatchObject({ rowsStored: 1, rowsLeftOut: 2 });
  expect(values('page_day')).toEqual([[3, 30, 120]]);
  await store.import(site, csv, { counted: { searchType: ['web', 'news'] } });
  expect(values('page_day')).toEqual([[5, 50, 160]]);
});

test('rows by how a result appeared overlap, and are not added up', async () => {
  const divided = [
    'date,page,search appearance,clicks,impressions',
    '2026-03-01,/a/,,5,50',
    '2026-03-01,/a/,with stars,3,30',
    '2026-03-01,/a/,with video,4,40',
  ].join('\n');
  expect(await store.import(site, divided)).toMatchObject({ rowsStored: 1, rowsLeftOut: 2 });
  expect(values('page_day')).toEqual([[5, 50, NaN]]);
  const seen = await look(divided);
  expect([seen.byAppearance, seen.rowsCounted]).toEqual([true, 1]);
  const onlyDivided = divided
    .split('\n')
    .filter((line) => !line.includes(',,'))
    .join('\n');
  const failed = await store.import(site, onlyDivided);
  expect(failed).toMatchObject({
    state: 'failed',
    failure: expect.stringMatching(/overlap and cannot be added up/),
  });
  expect(listProblems(store.db, failed.id, 5)).toEqual([]);
});

test.each([
  [['Date', 'Page path', 'Medium', 'Source', 'Sessions'], { channel: 2 }],
  [['Date', 'Page', 'Source', 'Medium', 'Sessions'], { channel: 3 }],
  [['Date', 'Page', 'Default channel group', 'Sessions', 'Goal completions'], { channel: 2, conversions: 4 }],
  [['Date', 'Page', 'Sessions', 'Transactions', 'Total revenue'], { conversions: 3, revenue: 4 }],
  [['Date', 'Page', 'Clicks', 'Impressions', 'Type of search'], { searchType: 4 }],
])('columns of %j', (head, wanted) => {
  expect(recogniseColumns(head)).toMatchObject(wanted);
});
