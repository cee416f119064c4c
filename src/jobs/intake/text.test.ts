import { isAscii, isUtf8 } from 'node:buffer';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import fc from 'fast-check';
import Papa from 'papaparse';
import { day, HOME } from '../../../tests/support/tempDb';
import { inspectFile } from '../inspectFile';
import { FileRefused } from './fileRefused';
import { blocksOf, dialectOf, forEachRecord, readHead } from './text';

let dir: string;
beforeEach(() => {
  dir = mkdtempSync(path.join(tmpdir(), 'tally-csv-'));
});
afterEach(() => rmSync(dir, { recursive: true }));

function file(content: string | Uint8Array): string {
  const name = path.join(dir, 'file.csv');
  writeFileSync(name, content);
  return name;
}

async function records(name: string): Promise<{ cells: string[]; line: number }[]> {
  const found: { cells: string[]; line: number }[] = [];
  await forEachRecord(name, await readHead(name), (cells, line) => found.push({ cells, line }));
  return found;
}

// RFC 4180: quoted fields (2.5), line breaks, delimiters and doubled quotes inside them (2.6, 2.7).
test('the rules of RFC 4180', async () => {
  const name = file('aaa,bbb,ccc\r\n"1","b\r\nb","c,c"\r\nzzz,"y""y",\r\n');
  expect(await records(name)).toEqual([
    { cells: ['1', 'b\r\nb', 'c,c'], line: 2 },
    { cells: ['zzz', 'y"y', ''], line: 4 },
  ]);
});

// RFC 4180, section 2: the examples of rules 1 (line break), 2 (no line break at the end), 5 (quotes), 6 and 7.
test.each([
  ['aaa,bbb,ccc\r\nzzz,yyy,xxx\r\n', [['zzz', 'yyy', 'xxx']]],
  ['aaa,bbb,ccc\r\nzzz,yyy,xxx', [['zzz', 'yyy', 'xxx']]],
  [
    'field_name,field_name,field_name\r\naaa,bbb,ccc\r\nzzz,yyy,xxx\r\n',
    [
      ['aaa', 'bbb', 'ccc'],
      ['zzz', 'yyy', 'xxx'],
    ],
  ],
  ['"aaa","bbb","ccc"\r\nzzz,yyy,xxx', [['zzz', 'yyy', 'xxx']]],
  [
    'h,h,h\r\n"aaa","b \r\nbb","ccc"\r\nzzz,yyy,xxx',
    [
      ['aaa', 'b \r\nbb', 'ccc'],
      ['zzz', 'yyy', 'xxx'],
    ],
  ],
  ['h,h,h\r\n"aaa","b""bb","ccc"', [['aaa', 'b"bb', 'ccc']]],
])('the example %p of RFC 4180', async (text, rows) => {
  expect((await records(file(text))).map(({ cells }) => cells)).toEqual(rows);
});

const WESTERN = ['a', 'é', 'ß', '€', ' ', ',', ';', '"', '\n', '0', '-', "'"];
const ANY = [...WESTERN, '漢', '😀', '\u00a0'];

type Dialect = {
  delimiter: string;
  newline: string;
  quotes: boolean;
  encoding: 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';
  mark: boolean;
  gzip: boolean;
};

function encoded(text: string, dialect: Dialect): Buffer {
  const bytes = unpacked(text, dialect);
  return dialect.gzip ? gzipSync(bytes) : bytes;
}

function unpacked(text: string, { encoding, mark }: Dialect): Buffer {
  const whole = (mark && encoding !== 'windows-1252' ? '\ufeff' : '') + text;
  if (encoding === 'utf-16le') return Buffer.from(whole, 'utf16le');
  if (encoding === 'utf-16be') return Buffer.from(whole, 'utf16le').swap16();
  // The letters used here stand in Windows-1252 where they stand in Latin-1, but for the euro sign.
  if (encoding === 'windows-1252') return Buffer.from(whole.replaceAll('€', '\x80'), 'latin1');
  return Buffer.from(whole);
}

test('any table in any dialect reads back equal, each record with the line on which it begins', async () => {
  const dialects: fc.Arbitrary<Dialect> = fc.record({
    delimiter: fc.constantFrom(',', ';', '\t'),
    newline: fc.constantFrom('\n', '\r\n'),
    quotes: fc.boolean(),
    encoding: fc.constantFrom('utf-8', 'utf-16le', 'utf-16be', 'windows-1252'),
    mark: fc.boolean(),
    gzip: fc.boolean(),
  });
  const table = (letters: string[]) =>
    fc.integer({ min: 2, max: 5 }).chain((width) =>
      fc.array(
        fc.array(fc.string({ unit: fc.constantFrom(...letters), maxLength: 8 }), {
          minLength: width,
          maxLength: width,
        }),
        { minLength: 1, maxLength: 12 },
      ),
    );
  const both = dialects.chain((dialect) =>
    fc.tuple(fc.constant(dialect), table(dialect.encoding === 'windows-1252' ? WESTERN : ANY)),
  );
  await fc.assert(
    fc.asyncProperty(both, async ([dialect, rows]) => {
      // Line breaks within cells are as those between lines.
      const cells = rows.map((row) => row.map((cell) => cell.replaceAll('\n', dialect.newline)));
      // A row of which all cells are blank cannot be told from a blank line where quotes are left out.
      const told = cells.filter((row) => row.some((cell) => cell.trim() !== ''));
      const head = rows[0]!.map((_, i) => `column number ${i}`);
      const { delimiter, newline, quotes } = dialect;
      const text = Papa.unparse([head, ...told], { delimiter, newline, quotes });
      // "ß€" in Windows-1252 is also one letter in UTF-8: no reader of bytes alone can tell which was meant.
      const bytes = unpacked(text, dialect);
      fc.pre(dialect.encoding !== 'windows-1252' || isAscii(bytes) || !isUtf8(bytes));
      const name = file(encoded(text, dialect));
      expect((await readHead(name)).head).toEqual(head);
      const found = await records(name);
      expect(found.map((record) => record.cells)).toEqual(told);
      let line = 2;
      for (const [i, row] of told.entries()) {
        expect(found[i]?.line).toBe(line);
        line += 1 + row.join('').split('\n').length - 1;
      }
    }),
    { numRuns: 150 },
  );
});

test('blocks of a large file join without loss, also inside a character and a quoted cell', async () => {
  const rows = Array.from({ length: 90_000 }, (_, i) => [
    `päge ${i}`,
    i % 1000 === 0 ? 'two\nlines, "quoted"' : '漢字'.repeat(i % 5),
  ]);
  const name = file(Papa.unparse([['a', 'b'], ...rows], { newline: '\n' }));
  let blocks = 0;
  for await (const { garbled } of blocksOf(name, await readHead(name))) {
    blocks++;
    expect(garbled).toBe(false);
  }
  expect(blocks).toBeGreaterThan(2);
  const found = await records(name);
  expect(found).toHaveLength(rows.length);
  let line = 2;
  const wrong = found.filter(({ cells, line: at }, i) => {
    const right = at === line && cells[0] === rows[i]![0] && cells[1] === rows[i]![1];
    line += rows[i]![1]!.includes('\n') ? 2 : 1;
    return !right;
  });
  expect(wrong).toEqual([]);
});

test('old line ends, and lines that end now so, now so', async () => {
  expect(await records(file('a,b\r1,2\r3,4\r'))).toEqual([
    { cells: ['1', '2'], line: 2 },
    { cells: ['3', '4'], line: 3 },
  ]);
  expect((await records(file('a,b\r\n1,"2"\r\n3,4\n5,"6"\n'))).map(({ cells }) => cells)).toEqual([
    ['1', '2'],
    ['3', '4'],
    ['5', '6'],
  ]);
});

test('a file that shows itself as Windows-1252 far down is read as that', async () => {
  const lines = ['a,b', ...Array.from({ length: 60_000 }, (_, i) => `plain ${i},x`), 'caf\xe9,\x80 5'];
  const found = await records(file(Buffer.from(lines.join('\n'), 'latin1')));
  expect(found.at(-1)?.cells).toEqual(['café', '€ 5']);
});

test('how a file is written is said in a few words', async () => {
  const dialect = { encoding: 'utf-16le', mark: true, gzip: true } as Dialect;
  expect(dialectOf(await readHead(file(encoded('a;b;c\n1;2;3\n', dialect))))).toBe(
    'semicolons, UTF-16, gzip',
  );
});

test('what the reader of records throws ends the reading', async () => {
  const name = file('a,b\n1,2\n3,4');
  const reading = forEachRecord(name, await readHead(name), () => {
    throw new Error('enough');
  });
  await expect(reading).rejects.toThrow('enough');
});

test.each<[string, string | Uint8Array, RegExp]>([
  ['nothing', '', /empty/],
  ['too many columns', Array.from({ length: 300 }, (_, i) => `c${i}`).join(','), /more than 200 columns/],
  ['one column', 'date\n2026-09-14', /not divided by commas/],
  ['a million columns', 'x,'.repeat(1_000_000), /no table/],
  ['a ZIP', Uint8Array.of(0x50, 0x4b, 3, 4, 0, 0), /ZIP file/],
  ['NUL bytes', 'date,pa\0ge\n1,2', /NUL/],
  ['a gzip that is cut off', gzipSync('a,b\n'.repeat(10_000)).subarray(0, 60), /cut off/],
  ['a gzip of a gzip', gzipSync(gzipSync('a,b\n1,2\n')), /twice/],
])('%s: no CSV', async (_name, content, why) => {
  await expect(readHead(file(content))).rejects.toThrow(why);
  await expect(readHead(file(content))).rejects.toBeInstanceOf(FileRefused);
});

test('a gzip that swells without end is refused before it is unpacked', async () => {
  const name = file(gzipSync(`a,b\n${`${' '.repeat(5000)}\n`.repeat(20_000)}`));
  const csv = await readHead(name);
  await expect(forEachRecord(name, csv, () => {})).rejects.toThrow(/swells to hundreds of times/);
});

describe('looking through a file', () => {
  const site = { address: HOME };
  const newest = day('2030-01-01');

  test('says how it would be understood, and how many rows there are', async () => {
    const lines = [
      'Day;URL;Clicks;Impr.;Avg. position',
      ...Array.from({ length: 20 }, (_, i) => `${i + 1}.09.2026;/g/;1;20;4,5`),
    ];
    const seen = await inspectFile(file(lines.join('\n')), site, newest);
    expect(seen).toMatchObject({ dateOrder: 'day-first', rows: 20, mappingProblems: [], grain: 'page_day' });
    expect(seen.mapping).toEqual({ date: 0, page: 1, clicks: 2, impressions: 3, position: 4 });
    expect(seen.sample).toHaveLength(20);
    expect(seen.looked).toEqual({ rows: 20, refused: 0 });
    expect(seen.sample[2]).toMatchObject({
      line: 4,
      understood: {
        day: day('2026-09-03'),
        address: `${HOME}/g/`,
        values: { clicks: 1, impressions: 20, positionSum: 90 },
      },
    });
  });

  test('refused rows come first, and how many there are is told', async () => {
    const lines = [
      'date,page,clicks,impressions',
      ...Array.from({ length: 60 }, (_, i) => `2026-09-01,/g${i}/,${i === 40 ? 9 : 1},5`),
      '2026-09-01,(all pages),60,300',
    ];
    const seen = await inspectFile(file(lines.join('\n')), site, newest);
    expect(seen.looked).toEqual({ rows: 61, refused: 2 });
    expect(seen.sample.slice(0, 3).map(({ line, understood }) => [line, typeof understood])).toEqual([
      [42, 'string'],
      [62, 'string'],
      [2, 'object'],
    ]);
    expect(seen.sample[1]!.understood).toMatch(/A total row/);
  });

  test('lines above the head are passed over, and its line can be stated', async () => {
    const name = file(
      [
        '# exported by hand',
        'Site: quillow, all devices',
        '',
        'Date,Top pages,Clicks,Impressions',
        '2026-09-01,/g/,1,5',
      ].join('\n'),
    );
    const seen = await inspectFile(name, site, newest);
    expect([seen.headLine, seen.grain, seen.rows]).toEqual([4, 'page_day', 1]);
    expect(seen.sample[0]).toMatchObject({ line: 5, understood: { address: `${HOME}/g/` } });
    const two = file('date,page,clicks,impressions\nday,url,clicks,impr\n2026-09-01,/g/,1,5');
    expect((await inspectFile(two, site, newest)).headLine).toBe(1);
    const stated = await inspectFile(two, site, newest, { headLine: 2 });
    expect([stated.headLine, stated.head, stated.rows]).toEqual([2, ['day', 'url', 'clicks', 'impr'], 1]);
  });

  test('a column that may be the page is asked about, not dropped', async () => {
    const seen = await inspectFile(
      file('date,page or screen,clicks,impressions\n2026-09-01,/g/,1,5'),
      site,
      newest,
    );
    expect(seen.grain).toBeNull();
    expect(seen.mappingProblems[0]).toMatch(/“page or screen” may be the page or the query/);
  });

  test('the order of dates is settled by the whole column, not by the first rows', async () => {
    const lines = [
      'date,page,clicks,impressions',
      ...Array.from({ length: 500 }, () => '03/09/2026,/g/,1,2'),
      '03/31/2026,/g/,1,2',
    ];
    const seen = await inspectFile(file(lines.join('\n')), site, newest);
    expect(seen.dateOrder).toBe('month-first');
    expect(seen.sample[0]?.understood).toMatchObject({ day: day('2026-03-09') });
  });

  test('what is stated wins, then what was confirmed before, and what stays open is reported', async () => {
    const name = file('date,page,clicks,impressions\n03/09/2026,/g/,1,2');
    expect((await inspectFile(name, site, newest)).dateOrder).toBe('ambiguous');
    const stated = await inspectFile(name, site, newest, { dateOrder: 'month-first' });
    expect(stated.sample[0]?.understood).toMatchObject({ day: day('2026-03-09') });
    const before = () => ({ dateOrder: 'day-first' as const });
    expect((await inspectFile(name, site, newest, {}, before)).dateOrder).toBe('day-first');
    expect((await inspectFile(name, site, newest, { dateOrder: 'month-first' }, before)).dateOrder).toBe(
      'month-first',
    );
    const mapped = await inspectFile(name, site, newest, { mapping: { date: 0, page: 1, clicks: 2 } });
    expect(mapped.mappingProblems).toEqual(['There is no impressions column.']);
  });

  test('rows without dates ask for their period', async () => {
    const name = file('page,clicks,impressions\n/g/,1,2');
    const seen = await inspectFile(name, site, newest);
    expect([seen.grain, seen.mappingProblems, seen.questions]).toEqual(['page_period', [], ['period']]);
    const period = { firstDay: day('2026-09-01'), lastDay: day('2026-09-28') };
    const stated = await inspectFile(name, site, newest, { period });
    expect([stated.mappingProblems, stated.questions, stated.period]).toEqual([[], [], period]);
    const turned = { firstDay: period.lastDay, lastDay: period.firstDay };
    expect((await inspectFile(name, site, newest, { period: turned })).mappingProblems).toEqual([
      expect.stringMatching(/before its first/),
    ]);
  });
});
