import { writeFileSync } from 'node:fs';
import path from 'node:path';
import type { Site } from '../core/model/site';
import { day, TempStore } from '../../tests/support/tempDb';
import { checkFile, type NamedSettings } from './checkFile';
import { FileRefused } from './intake/fileRefused';

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
});
afterEach(() => store.close());

function check(text: string, wish: NamedSettings = {}) {
  const file = path.join(store.dir, 'sent.csv');
  writeFileSync(file, text);
  return checkFile(store.db, site, file, day('2026-11-24'), wish);
}

test('a file whose head and dates leave nothing open is taken as it is', async () => {
  expect(await check('date,page,clicks,impressions\n2026-09-03,/g/,1,2')).toEqual({});
});

test('the whole date column is looked through where the first rows leave it open', async () => {
  const head = 'date,page,clicks,impressions\n03/09/2026,/g/,1,2\n';
  expect(await check(`${head}25/09/2026,/g/,1,2`)).toEqual({ dateOrder: 'day-first' });
  await expect(check(head)).rejects.toMatchObject({ toState: 'dateOrder', name: 'FileRefused' });
  expect(await check(head, { dateOrder: 'month-first' })).toEqual({ dateOrder: 'month-first' });
});

test('columns are named as the file names them, or by their place', async () => {
  const csv = 'When,where,a,b\n2026-09-03,/g/,1,2';
  const mapping = { date: 'when', page: 'where', clicks: 'A', impressions: 3 };
  expect(await check(csv, { mapping })).toEqual({ mapping: { date: 0, page: 1, clicks: 2, impressions: 3 } });
  await expect(check(csv, { mapping: { ...mapping, clicks: 'none' } })).rejects.toThrow(
    /no column “none” for clicks; the columns are “When”/,
  );
  await expect(check(csv)).rejects.toMatchObject({ toState: 'mapping' });
});

test('a mapping once stated is remembered for the next file with the same head', async () => {
  const csv = 'when,where,a,b\n03/09/2026,/g/,1,2';
  const mapping = { date: 0, page: 1, clicks: 2, impressions: 3 };
  await store.import(site, csv, { mapping, dateOrder: 'day-first' });
  expect(await check(csv.toUpperCase())).toEqual({ dateOrder: 'day-first' });
  expect(await store.import(site, csv)).toMatchObject({ state: 'done', rowsReplaced: 1 });
  // Another site knows nothing of it.
  await expect(check('when,where,c,d\n03/09/2026,/g/,1,2')).rejects.toBeInstanceOf(FileRefused);
});

test('rows without dates ask for their period', async () => {
  const csv = 'page,clicks,impressions\n/g/,1,2';
  await expect(check(csv)).rejects.toMatchObject({ toState: 'period' });
  const period = { firstDay: '2026-09-01', lastDay: '2026-09-28' };
  expect(await check(csv, { period })).toEqual({ period });
  await expect(check(csv, { period: { ...period, lastDay: '2026-08-01' } })).rejects.toThrow(
    /before its first/,
  );
  await expect(check(csv, { period: { ...period, lastDay: '2027-08-01' } })).rejects.toThrow(/in the future/);
});
