import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import fc from 'fast-check';
import { strToU8, zipSync } from 'fflate';
import { parquetWriteBuffer } from 'hyparquet-writer';
import { cellOfValue, columnsOfJsonLines } from '../../core/intake/jsonLines';
import { readAmount } from '../../core/intake/numbers';
import type { Site } from '../../core/model/site';
import { day, HOME, TempStore } from '../../../tests/support/tempDb';
import { stateOf } from '../../../tests/support/state';
import { listProblems } from '../../store/figures/imports';
import { inspectFile } from '../inspectFile';
import { isSpreadsheet, unpackArchive } from './archive';
import { asText } from './asText';
import { spreadsheet } from '../../../tests/support/spreadsheet';

let dir: string;
let store: TempStore;
let site: Site;
beforeEach(async () => {
  dir = mkdtempSync(path.join(tmpdir(), 'tally-forms-'));
  store = new TempStore();
  site = await store.site();
});
afterEach(() => {
  store.close();
  rmSync(dir, { recursive: true });
});

const written = (content: string | Uint8Array): string => {
  const name = path.join(dir, 'sent');
  writeFileSync(name, content);
  return name;
};

const ROWS = [
  { date: '2026-03-01', page: '/a/', query: 'bee "smoker"', clicks: 3, impressions: 30, position: 4.125 },
  { date: '2026-03-01', page: '/b,c/', query: 'hive', clicks: 0, impressions: 7, position: 12 },
  { date: '2026-03-02', page: '/a/', query: 'bee smoker', clicks: 1, impressions: 9, position: 3.5 },
];
const CSV = [
  'date,page,query,clicks,impressions,position',
  ...ROWS.map((r) =>
    [r.date, `"${r.page}"`, `"${r.query.replaceAll('"', '""')}"`, r.clicks, r.impressions, r.position].join(
      ',',
    ),
  ),
].join('\n');
const JSON_LINES = ROWS.map((row) => JSON.stringify(row)).join('\n');

/** What the same rows come to as CSV. */
async function asCsv(): Promise<string[]> {
  const other = new TempStore();
  const same = await other.site();
  await other.import(same, CSV);
  const state = stateOf(other.db, same.id);
  other.close();
  return state;
}

describe('JSON Lines', () => {
  test.each<[string, string | Uint8Array]>([
    ['as they are', JSON_LINES],
    ['with Windows line ends and blank lines', `${JSON_LINES.replaceAll('\n', '\r\n\r\n')}\r\n`],
    ['packed with gzip', gzipSync(JSON_LINES)],
    ['in UTF-16', Buffer.from(`\ufeff${JSON_LINES}`, 'utf16le')],
  ])('%s come to what the same rows come to as CSV', async (_name, content) => {
    expect(await store.import(site, content)).toMatchObject({ state: 'done', rowsStored: 3, rowsRefused: 0 });
    expect(stateOf(store.db, site.id)).toEqual(await asCsv());
  });

  test('a line that is no object is refused with its number, and so is one that lacks what it needs', async () => {
    const lines = [
      JSON.stringify(ROWS[0]),
      '[1,2]',
      '{"date": ',
      JSON.stringify({ date: '2026-03-01', page: '/x/' }),
    ];
    const done = await store.import(site, lines.join('\n'));
    expect(done).toMatchObject({ rowsStored: 1, rowsRefused: 3, dialect: 'JSON Lines, UTF-8' });
    expect(listProblems(store.db, done.id, 9)).toEqual([
      { line: 2, message: 'The line does not hold a JSON object.' },
      { line: 3, message: 'The line does not hold a JSON object.' },
      { line: 4, message: 'The query is empty.' },
    ]);
  });

  test('objects and lists within are columns named by the path to them', () => {
    const lines = ['{"keys": ["a", "b"], "n": 1}', '{"m": {"ctr": 0.5}, "n": 2}', 'not json'];
    expect(columnsOfJsonLines(lines)).toEqual(['keys.0', 'keys.1', 'n', 'm.ctr']);
  });

  test('JSON that has not an object a line is refused in a sentence', async () => {
    for (const text of ['[{"date": 1}]', '{\n "date": 1\n}'])
      expect(await store.import(site, text)).toMatchObject({
        state: 'failed',
        failure: expect.stringContaining('an object on each line'),
      });
  });

  test('the preview shows them as a table', async () => {
    const seen = await inspectFile(written(JSON_LINES), { address: HOME }, day('2030-01-01'));
    expect(seen).toMatchObject({ grain: 'page_query_day', rows: 3, dialect: 'JSON Lines, UTF-8' });
    expect(seen.sample[1]).toMatchObject({ line: 2, understood: { query: 'hive', values: { clicks: 0 } } });
  });

  test('a number keeps its value, however its digits could be grouped', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.0001, max: 1e9, noNaN: true }), (value) => {
        const text = cellOfValue(value);
        fc.pre(!text.includes('e'));
        expect(readAmount(text, 'Revenue')).toBe(value);
      }),
    );
    expect(readAmount(cellOfValue(1.234), 'Revenue')).toBe(1.234);
  });
});

describe('Parquet', () => {
  const column = <K extends keyof (typeof ROWS)[0]>(name: K) => ROWS.map((row) => row[name]);
  const bytes = (codec: 'SNAPPY' | 'UNCOMPRESSED' = 'SNAPPY') =>
    new Uint8Array(
      parquetWriteBuffer({
        columnData: [
          { name: 'date', data: column('date').map((text) => new Date(text)), type: 'TIMESTAMP' },
          { name: 'page', data: column('page'), type: 'STRING' },
          { name: 'query', data: column('query'), type: 'STRING' },
          { name: 'clicks', data: column('clicks').map(BigInt), type: 'INT64' },
          { name: 'impressions', data: column('impressions'), type: 'INT32' },
          { name: 'position', data: column('position'), type: 'DOUBLE' },
        ],
        codec,
        rowGroupSize: 2,
      }),
    );

  test.each(['SNAPPY', 'UNCOMPRESSED'] as const)(
    '%s comes to what the same rows come to as CSV',
    async (codec) => {
      const done = await store.import(site, bytes(codec));
      expect(done).toMatchObject({ state: 'done', rowsStored: 3, rowsRefused: 0, dialect: 'Parquet' });
      expect(stateOf(store.db, site.id)).toEqual(await asCsv());
    },
  );

  test('one that is cut off or broken is refused in a sentence, and nothing is left of it', async () => {
    const whole = bytes();
    for (const broken of [
      whole.subarray(0, whole.length - 9),
      whole.subarray(0, 6),
      Uint8Array.from([...whole.subarray(0, 12), ...new Uint8Array(60), ...whole.subarray(72)]),
    ]) {
      const failed = await store.import(site, broken);
      expect(failed).toMatchObject({
        state: 'failed',
        failure: expect.stringMatching(/Parquet file, broken/),
      });
    }
    expect(stateOf(store.db, site.id)).toEqual([]);
  });
});

describe('archives', () => {
  const place = (number: number) => path.join(dir, `part-${number}`);

  test('the tables of a ZIP are unpacked, and the rest is named with its reason', async () => {
    const zip = zipSync({
      'figures/queries.csv': strToU8(CSV),
      'read me.txt': strToU8('hello'),
      'sheet.xlsx': spreadsheet([['date', 'page']]),
      'more.jsonl': strToU8(JSON_LINES),
      '__MACOSX/x': strToU8('of the program'),
      'figures/': new Uint8Array(),
    });
    const name = written(zip);
    expect(await isSpreadsheet(name)).toBe(false);
    const { files, leftOut } = await unpackArchive(name, zip.length, place);
    expect(files.map((one) => one.name)).toEqual(['figures/queries.csv', 'more.jsonl']);
    expect(readFileSync(files[0]!.file, 'utf8')).toBe(CSV);
    expect(files[0]!.bytes).toBe(Buffer.byteLength(CSV));
    expect(leftOut.map((one) => [one.name, one.reason.slice(0, 30)])).toEqual([
      ['read me.txt', 'This does not look like a CSV:'],
      ['sheet.xlsx', 'This is a ZIP file, not a CSV:'],
    ]);
  });

  test('a spreadsheet is told from an archive', async () => {
    const name = written(spreadsheet([['date', 'page']]));
    expect(await isSpreadsheet(name)).toBe(true);
    expect((await asText(name)).madeOf).toBe('spreadsheet');
  });

  test('what swells beyond bounds is left out, and an archive without any table is refused', async () => {
    const swelling = zipSync({ 'big.csv': new Uint8Array(80 * 1024 * 1024).fill(32) }, { level: 9 });
    await expect(unpackArchive(written(swelling), swelling.length, place)).rejects.toThrow(
      /None of the files in the archive can be read. big.csv: It swells/,
    );
    const empty = zipSync({});
    await expect(unpackArchive(written(empty), empty.length, place)).rejects.toThrow(/empty|broken/);
    await expect(unpackArchive(written('PK\u0003\u0004 cut off'), 12, place)).rejects.toThrow(
      /broken or cut off/,
    );
  });

  test('a file within that is cut off is left out, and the others are taken', async () => {
    const zip = zipSync({ 'a.csv': strToU8(CSV.repeat(40)), 'b.csv': strToU8(CSV) }, { level: 6 });
    // The bytes of the first file, after its local head.
    for (let i = 60; i < 90; i++) zip[i] = 0xff;
    const { files, leftOut } = await unpackArchive(written(zip), zip.length, place);
    expect(files.map((one) => one.name)).toEqual(['b.csv']);
    expect(leftOut).toEqual([{ name: 'a.csv', reason: 'It is broken, and cannot be unpacked.' }]);
  });
});

describe('a table with a column for each day', () => {
  const look = (text: string, mapping?: Record<string, number>) =>
    inspectFile(written(text), site, day('2026-12-01'), { mapping });

  test('is read where the head names what the days hold', async () => {
    const text =
      'Top pages,2026-11-01 Clicks,2026-11-01 Impressions,2026-11-02 Clicks,2026-11-02 Impressions\n/a/,3,30,4,41\n/b/,,,1,9\n';
    const seen = await look(text);
    expect(seen).toMatchObject({
      ...{ grain: 'page_day', dialect: 'days as columns', rows: 3, mappingProblems: [] },
      head: ['Top pages', 'date', 'Clicks', 'Impressions'],
    });
    expect(seen.sample.map(({ cells }) => cells.join(' '))).toEqual([
      '/a/ 2026-11-01 3 30',
      '/a/ 2026-11-02 4 41',
      '/b/ 2026-11-02 1 9',
    ]);
  });

  test('asks what the cells hold where the head does not say, and takes positions by query', async () => {
    const text = '# checked by hand\nQuery;14.11.2026;15.11.2026\nbee smoker;4;5\nhive;;12\n';
    const open = await look(text);
    expect(open.mappingProblems.join()).toMatch(/does not say what its cells hold/);
    const seen = await look(text, { query: 0, date: 1, position: 2 });
    expect(seen).toMatchObject({ grain: 'rank_check', rows: 3, mappingProblems: [], dateOrder: 'day-first' });
    expect(seen.sample.every(({ understood }) => typeof understood === 'object')).toBe(true);
  });

  test('in a spreadsheet is read as well, and its rows are stored', async () => {
    const head = ['Page', { serialDay: 46327 }, { serialDay: 46328 }];
    const name = written(spreadsheet([head, ['/a/', 12, 15]]));
    const seen = await inspectFile(name, site, day('2026-12-01'), {
      mapping: { page: 0, date: 1, sessions: 2 },
    });
    expect(seen).toMatchObject({ grain: 'analytics_day', rows: 2, looked: { refused: 0 } });
  });

  test('a row that is too short is refused', async () => {
    const seen = await look('Query,2026-11-01,2026-11-02\nhive,3\n', { query: 0, date: 1, position: 2 });
    expect(seen.looked).toEqual({ rows: 1, refused: 1 });
    expect(seen.sample[0]!.understood).toMatch(/2 cells under 3 columns/);
  });
});
