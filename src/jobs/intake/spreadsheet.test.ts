import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { strToU8, zipSync } from 'fflate';
import { spreadsheet, spreadsheetOf } from '../../../tests/support/spreadsheet';
import writeXlsxFile from 'write-excel-file/node';
import { asText, openedMark } from './asText';
import { sheetsAsCsv } from './spreadsheet';

let dir: string;
beforeEach(() => {
  dir = mkdtempSync(path.join(tmpdir(), 'tally-sheet-'));
});
afterEach(() => rmSync(dir, { recursive: true }));

function file(content: string | Uint8Array): string {
  const name = path.join(dir, 'file.xlsx');
  writeFileSync(name, content);
  return name;
}

test('the first sheet becomes a CSV: texts, numbers, and dates as days', async () => {
  // Day 46279 counts from 30 December 1899 (ISO/IEC 29500-1, 18.17.4.1): 14 September 2026.
  const name = file(
    spreadsheet([
      ['date', 'page', 'clicks', 'position'],
      [{ serialDay: 46279 }, '/a,b/', 3, 7.5],
      [{ serialDay: 46280 }, 'say "so"', 4, ''],
    ]),
  );
  expect(readFileSync((await asText(name)).file, 'utf8').split('\r\n')).toEqual([
    'date,page,clicks,position',
    '2026-09-14,"/a,b/",3,7.5',
    '2026-09-15,"say ""so""",4,',
  ]);
  // Made once; the second look takes what is there.
  expect(await asText(name)).toEqual({ file: `${name}.sheet`, madeOf: 'spreadsheet' });
});

test('each sheet of a workbook that holds figures is a table of its own', async () => {
  const row = (...cells: (string | number)[]) => cells.map((value) => ({ value }));
  const sheets = {
    Chart: [row('date', 'clicks', 'impressions'), row('2026-09-14', 3, 40)],
    Filters: [row('filter', 'value'), row('type', 'web')],
    Pages: [
      row('exported', ''),
      row('date', 'page', 'clicks', 'impressions'),
      row('2026-09-14', '/a/', 3, 40),
    ],
    Empty: [row('')],
  };
  const book = await writeXlsxFile(
    Object.entries(sheets).map(([sheet, data]) => ({ sheet, data })),
  ).toBuffer();
  const name = file(new Uint8Array(book));
  const found = (await sheetsAsCsv(name, (number) => `${name}.${number}`))!;
  expect(found.files.map((one) => one.name)).toEqual(['Chart', 'Pages']);
  expect(found.leftOut.map((one) => one.name)).toEqual(['Filters']);
  expect(readFileSync(found.files[1]!.file, 'utf8')).toContain('/a/,3,40');
  // A workbook of one sheet is read as itself.
  const one = file(
    spreadsheet([
      ['date', 'page', 'clicks', 'impressions'],
      ['2026-09-14', '/a/', 1, 2],
    ]),
  );
  expect(await sheetsAsCsv(one, (number) => `${one}.${number}`)).toBeNull();
});

test('other files are read as they are', async () => {
  const name = file('a,b\n1,2');
  expect(await asText(name)).toEqual({ file: name, madeOf: null });
});

test.each<[string, Uint8Array, RegExp]>([
  ['a ZIP of something else', zipSync({ 'a.txt': strToU8('hello') }), /no spreadsheet/],
  ['the beginning of a ZIP', Uint8Array.of(0x50, 0x4b, 3, 4, 0, 0), /broken or cut off/],
  ['a sheet that swells', zipSync({ a: new Uint8Array(260 * 1024 * 1024) }, { level: 1 }), /swells/],
])('%s is refused', async (_name, content, why) => {
  await expect(asText(file(content))).rejects.toThrow(why);
});

const cell = (place: string) => `<c r="${place}"><v>1</v></c>`;
test.each([
  ['a column that no sheet has', `<row r="2">${cell('ZZZZZZZZ2')}</row>`, 'not a valid cell reference'],
  ['the last cell of a sheet', `<row r="1048576">${cell('XFD1048576')}</row>`, 'far outside the table'],
  ['a column far out', `<row r="1">${cell('XFD1')}</row>`, 'far outside the table'],
  ['a row far out', `<row r="9999999">${cell('A9999999')}</row>`, 'far outside the table'],
  ['a row by its number alone', `<row r="1e9">${cell('A1')}</row>`, 'not a valid cell reference'],
  ['wide and long at once', `<row r="1">${cell('ALL1')}</row><row r="900000"/>`, 'far outside the table'],
  ['single quotes', `<row r='2'><c r='ZZZZZZZZ2'><v>1</v></c></row>`, 'not a valid cell reference'],
  ['letters as entities', `<row r="2">${cell('&#90;ZZZZZZZ2')}</row>`, 'not a valid cell reference'],
  ['a prefix', `<x:row r="2"><x:c r="ZZZZZZZZ2"><x:v>1</x:v></x:c></x:row>`, 'not a valid cell reference'],
])('a small sheet that would swell is refused: %s', async (_, sheet, why) => {
  const name = file(spreadsheetOf(sheet));
  await expect(asText(name)).rejects.toThrow(why);
  await expect(sheetsAsCsv(name, (number) => `${name}.${number}`)).rejects.toThrow(why);
});

test('a file that ended the program time after time is set aside', async () => {
  const name = file(spreadsheet([['date', 'clicks']]));
  writeFileSync(openedMark(name), '..');
  expect((await asText(name)).madeOf).toBe('spreadsheet');
  rmSync(`${name}.sheet`);
  writeFileSync(openedMark(name), '...');
  await expect(asText(name)).rejects.toThrow('stopped 3 times while opening this file');
});
