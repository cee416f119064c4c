import { writeFileSync } from 'node:fs';
import path from 'node:path';
import type { IntakeSettings } from '../core/intake/settings';
import type { Site } from '../core/model/site';
import { spreadsheet } from '../../tests/support/spreadsheet';
import { day, TempStore } from '../../tests/support/tempDb';
import { addImport, findImport, listProblems, type ImportRow } from '../store/figures/imports';
import { redoImport, undoImport } from '../store/figures/undo';
import { setChangeDeleted } from '../store/ledger/changes';
import { listChanges } from '../store/ledger/findChanges';
import { changesOfSheet } from '../store/ledger/sheetImport';
import { importFile } from './importFile';
import { inspectLedger } from './importLedger';

let store: TempStore;
let site: Site;
let files = 0;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
});
afterEach(() => store.close());

const SHEET = [
  'Date;URL;What changed;Type;Old;New;By',
  '14.09.2026;/guides/wasps/;Shorter titles;title;Old wasps;New wasps;MH',
  '14.09.2026;/guides/bees/;Shorter titles;title;Old bees;New bees;MH',
  '15.09.2026;https://elsewhere.example/;Not ours;title;;;MH',
  '16.09.2026;/shop/;Prices in the table;price table;;;JK',
  ';;;;;;',
].join('\n');

function write(content: string | Uint8Array): string {
  const file = path.join(store.dir, `sheet-${++files}.csv`);
  writeFileSync(file, content);
  return file;
}

async function bringIn(content: string | Uint8Array, settings: IntakeSettings = {}): Promise<ImportRow> {
  const file = write(content);
  const values = { siteId: site.id, fileName: 'ledger.csv', bytesTotal: 1, takenOn: day('2026-10-01') };
  const id = await addImport(store.db, { ...values, state: 'queued' }, settings);
  store.db.$client.prepare("UPDATE import SET about = 'changes' WHERE id = ?").run(id);
  await importFile(store.db, id, file);
  return findImport(store.db, id)!;
}
const ledger = () => listChanges(store.db, site.id).map(({ title, pages }) => `${title}: ${pages.length}`);

test('the rows of a sheet become changes, and those that cannot be read are listed', async () => {
  const done = await bringIn(SHEET);
  expect(done).toMatchObject({
    state: 'done',
    rowsRead: 4,
    rowsStored: 3,
    rowsRefused: 1,
    dialect: 'semicolons, UTF-8',
  });
  expect(listProblems(store.db, done.id, 9)).toEqual([
    { line: 4, message: 'elsewhere.example is another site than www.quillow-bees.example.' },
  ]);
  expect(ledger()).toEqual(['Prices in the table: 1', 'Shorter titles: 1', 'Shorter titles: 1']);
  expect(listChanges(store.db, site.id)[0]).toMatchObject({ kind: 'price-table', person: 'JK', steps: {} });
});

test('with rows joined, those of one day and wording are one change on several pages', async () => {
  const done = await bringIn(SHEET, { ledger: { join: true } });
  expect(ledger()).toEqual(['Prices in the table: 1', 'Shorter titles: 2']);
  expect(listChanges(store.db, site.id)[1]!.parts.map(({ newText }) => newText)).toEqual([
    'New wasps',
    'New bees',
  ]);
  expect(changesOfSheet(store.db, done.id)).toBe(2);
});

test('the same sheet again changes nothing, and a longer one only adds what is new', async () => {
  await bringIn(SHEET, { ledger: { join: true } });
  const before = store.rows('change');
  const again = await bringIn(SHEET, { ledger: { join: true } });
  expect(again).toMatchObject({ state: 'done', rowsStored: 0, rowsRepeated: 3 });
  expect(store.rows('change')).toEqual(before);
  const longer = `${SHEET}\n17.09.2026;/shop/;Alt texts;images;;;JK\n17.09.2026;/shop/;Alt texts;images;;;JK`;
  expect(await bringIn(longer)).toMatchObject({ rowsStored: 1, rowsRepeated: 4 });
  expect(ledger()).toEqual(['Alt texts: 1', 'Prices in the table: 1', 'Shorter titles: 2']);
});

test('a sheet can be undone and counts again, but what was deleted by hand stays deleted', async () => {
  const done = await bringIn(SHEET);
  const [prices] = listChanges(store.db, site.id);
  // Both in the same millisecond.
  const timers = ['nextTick', 'setImmediate', 'queueMicrotask', 'setTimeout', 'clearTimeout'] as const;
  jest.useFakeTimers({ now: Date.parse('2026-10-01T12:00:00Z'), doNotFake: [...timers] });
  await setChangeDeleted(store.db, prices!.id, true);
  expect(await undoImport(store.db, site, done.id)).toBe(true);
  jest.useRealTimers();
  expect(ledger()).toEqual([]);
  // While it is undone its rows are not known, so that it could come in again.
  expect((await inspectLedger(store.db, site, write(SHEET), day('2026-10-01'), {})).known).toBe(0);
  expect(await redoImport(store.db, site, done.id)).toBe(true);
  expect(ledger()).toEqual(['Shorter titles: 1', 'Shorter titles: 1']);
  // What somebody deleted does not come back with the same sheet either.
  expect(await bringIn(SHEET)).toMatchObject({ rowsStored: 0, rowsRepeated: 3 });
});

test('a spreadsheet is read like a CSV, and what was mapped by hand is remembered', async () => {
  const rows = [
    ['happened', 'where', 'did'],
    [{ serialDay: 46279 }, '/a/', 'Something'],
  ];
  const unread = await bringIn(spreadsheet(rows));
  expect(unread).toMatchObject({ state: 'failed', failure: expect.stringMatching(/no column with the day/) });
  const mapping = { day: 0, page: 1, title: 2 };
  expect(await bringIn(spreadsheet(rows), { ledger: { mapping } })).toMatchObject({
    state: 'done',
    rowsStored: 1,
  });
  expect(ledger()).toEqual(['Something: 1']);
  const later = [rows[0]!, [{ serialDay: 46280 }, '/a/', 'Something else']];
  expect(await bringIn(spreadsheet(later))).toMatchObject({ state: 'done', rowsStored: 1 });
});

test('the preview says what would come of it, and asks what is open', async () => {
  const look = (text: string, settings: IntakeSettings = {}) =>
    inspectLedger(store.db, site, write(text), day('2026-10-01'), settings);
  expect(await look(SHEET)).toMatchObject({
    ...{ rows: 4, refused: 1, known: 0, changes: 3, join: false, problems: [], asksDateOrder: false },
    sample: [{ line: 2, understood: { title: 'Shorter titles', day: '2026-09-14' } }, {}, { line: 4 }, {}],
  });
  expect((await look(SHEET, { ledger: { join: true } })).changes).toBe(2);
  const vague = 'date,page,type,change\n2026-09-14,/a/,Hero swap,New hero\n2026-09-15,/b/,Meta desc,Shorter';
  expect((await look(vague)).unsure).toEqual([{ written: 'hero swap', rows: 1, kind: 'hero swap' }]);
  expect(await look(vague, { ledger: { kinds: { 'hero swap': 'media' } } })).toMatchObject({
    unsure: [{ written: 'hero swap', kind: 'media' }],
    sample: [{ understood: { kind: 'media' } }, { understood: { kind: 'meta-description' } }],
  });
  const open = 'date,page,change\n03/09/2026,/a/,x';
  expect(await look(open)).toMatchObject({ asksDateOrder: true, dateOrder: 'ambiguous' });
  expect(await look(open, { dateOrder: 'month-first' })).toMatchObject({
    asksDateOrder: false,
    sample: [{ understood: { day: '2026-03-09' } }],
  });
  expect(await bringIn(open)).toMatchObject({
    state: 'failed',
    failure: expect.stringContaining('dateOrder='),
  });
});
