import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import fc from 'fast-check';
import Papa from 'papaparse';
import { FileRefused, forEachRecord, readHead } from './csvFile';
import { addressReader, inspectFile } from './inspectFile';
import { day, HOME } from '../../tests/support/tempDb';

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

test('any table is read back as it was written, each record with the line on which it begins', async () => {
  const cell = fc.string({ unit: fc.constantFrom('a', 'é', '漢', '😀', ' ', ',', ';', '"', '\n', '0', '-') });
  const table = fc
    .integer({ min: 2, max: 5 })
    .chain((width) =>
      fc.array(fc.array(cell, { minLength: width, maxLength: width }), { minLength: 1, maxLength: 12 }),
    );
  await fc.assert(
    fc.asyncProperty(table, fc.constantFrom(',', ';', '\t'), fc.boolean(), async (rows, delimiter, bom) => {
      const head = rows[0]!.map((_, i) => `column ${i}`);
      // A row of which all cells are blank cannot be told from a blank line where quotes are left out.
      const text = Papa.unparse([head, ...rows], { delimiter, newline: '\n', quotes: true });
      const name = file((bom ? '\ufeff' : '') + text);
      expect((await readHead(name)).head).toEqual(head);
      const found = await records(name);
      expect(found.map((record) => record.cells)).toEqual(rows);
      let line = 2;
      for (const [i, row] of rows.entries()) {
        expect(found[i]?.line).toBe(line);
        line += 1 + row.join('').split('\n').length - 1;
      }
    }),
    { numRuns: 40 },
  );
});

test('pieces of a large file join without loss, also inside a character', async () => {
  const rows = Array.from({ length: 40_000 }, (_, i) => [`päge ${i}`, '漢字'.repeat(i % 5)]);
  const name = file(Papa.unparse([['a', 'b'], ...rows], { newline: '\n' }));
  const found = await records(name);
  expect(found).toHaveLength(rows.length);
  expect(
    found.every(
      ({ cells, line }, i) => line === i + 2 && cells[0] === rows[i]![0] && cells[1] === rows[i]![1],
    ),
  ).toBe(true);
});

test('reading can be stopped between pieces', async () => {
  const name = file(['a,b', ...Array.from({ length: 100_000 }, (_, i) => `${i},x`)].join('\n'));
  let [seen, bytes] = [0, 0];
  await forEachRecord(name, await readHead(name), () => seen++, {
    inPiece: (work, bytesRead) => {
      bytes = bytesRead;
      work();
    },
    stop: () => true,
  });
  expect(seen).toBeGreaterThan(0);
  expect(seen).toBeLessThan(100_000);
  expect(bytes).toBeGreaterThan(0);
});

test('what the reader of records throws ends the reading', async () => {
  const name = file('a,b\n1,2\n3,4');
  const reading = forEachRecord(name, await readHead(name), () => {
    throw new Error('enough');
  });
  await expect(reading).rejects.toThrow('enough');
});

test.each<[string, string | Uint8Array, RegExp]>([
  ['too many columns', Array.from({ length: 300 }, (_, i) => `c${i}`).join(','), /more than 200 columns/],
  ['one column', 'date\n2026-09-14', /not divided by commas/],
  ['bytes of an old code page', Uint8Array.from([0x61, 0x2c, 0xe4, 0x0a]), /not in UTF-8/],
])('%s: no CSV', async (_name, content, why) => {
  await expect(readHead(file(content))).rejects.toThrow(why);
  await expect(readHead(file(content))).rejects.toBeInstanceOf(FileRefused);
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
    expect(seen).toMatchObject({ dateOrder: 'day-first', rows: 20, mappingProblems: [] });
    expect(seen.mapping).toEqual({ date: 0, page: 1, clicks: 2, impressions: 3, position: 4 });
    expect(seen.sample).toHaveLength(8);
    expect(seen.sample[2]).toMatchObject({
      line: 4,
      understood: {
        day: day('2026-09-03'),
        address: `${HOME}/g/`,
        clicks: 1,
        impressions: 20,
        positionSum: 90,
      },
    });
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

  test('what is stated wins, and what stays open is reported', async () => {
    const name = file('date,page,clicks,impressions\n03/09/2026,/g/,1,2');
    expect((await inspectFile(name, site, newest)).dateOrder).toBe('ambiguous');
    const stated = await inspectFile(name, site, newest, { dateOrder: 'month-first' });
    expect(stated.sample[0]?.understood).toMatchObject({ day: day('2026-03-09') });
    const mapped = await inspectFile(name, site, newest, { mapping: { date: 0, page: 1, clicks: 2 } });
    expect(mapped.mappingProblems).toEqual(['There is no impressions column.']);
  });
});

test('addresses are normalised once and remembered, complaints too', () => {
  const read = addressReader(HOME);
  expect(read('/a/../b')).toEqual({ key: `${HOME}/b` });
  expect(read('/a/../b')).toBe(read('/a/../b'));
  expect(read('https://www.other-yard.example/')).toEqual({ problem: expect.stringMatching(/another site/) });
});
