import {
  appendFileSync,
  openSync,
  closeSync,
  ftruncateSync,
  readdirSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import type { Site } from '../core/model/site';
import { stateOf } from '../../tests/support/state';
import { day, TempStore } from '../../tests/support/tempDb';
import { addImport, findImport, listProblems, refusedRows } from '../store/figures/imports';
import { importFile } from './importFile';

/*
 * Files meant to harm, or that look so: each gets a clear answer, in bounded memory, and leaves what is stored alone.
 */

let store: TempStore;
let site: Site;
let before: string[];
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
  await store.import(site, 'date,page,clicks,impressions\n2026-01-01,/a/,1,2');
  before = stateOf(store.db, site.id);
});
afterEach(() => store.close());

const HEAD = 'date,page,clicks,impressions\n';

async function bringIn(write: (file: string) => void) {
  const file = path.join(store.dir, 'hostile.csv');
  write(file);
  const values = {
    siteId: site.id,
    fileName: 'h.csv',
    bytesTotal: statSync(file).size,
    takenOn: day('2030-01-01'),
  };
  const id = await addImport(store.db, { ...values, state: 'queued' });
  const heapBefore = process.memoryUsage().rss;
  await importFile(store.db, id, file);
  const grown = (process.memoryUsage().rss - heapBefore) / 1e6;
  // Nothing of a file waits beside it once it is over.
  expect(readdirSync(store.dir).filter((name) => name.endsWith('.rows'))).toEqual([]);
  return { row: findImport(store.db, id)!, grown };
}

/** A file of so many bytes after its beginning, which take no room on disk. */
function huge(start: string, bytes: number) {
  return (file: string) => {
    writeFileSync(file, start);
    const fd = openSync(file, 'r+');
    ftruncateSync(fd, start.length + bytes);
    closeSync(fd);
  };
}

test.each<[string, (file: string) => void, RegExp]>([
  ['a line of 1 GB', huge(`${HEAD}2026-01-02,/`, 1024 ** 3), /Line 2 has more than a million characters|NUL/],
  [
    'a quoted cell of 100 MB',
    (file) => {
      writeFileSync(file, `${HEAD}2026-01-02,"`);
      for (let i = 0; i < 100; i++) appendFileSync(file, Buffer.alloc(1_000_000, 'x\n'));
    },
    /quotation mark that opens on line 2 or later is never closed/,
  ],
  [
    'a gzip that swells without end',
    (file) => writeFileSync(file, gzipSync(`${HEAD}${`${' '.repeat(1000)}\n`.repeat(100_000)}`)),
    /swells to hundreds of times its size/,
  ],
  [
    'a million columns in the head',
    (file) => writeFileSync(file, `${'date,'.repeat(1_000_000)}\n1`),
    /no table/,
  ],
  [
    'a million columns in a row',
    (file) => writeFileSync(file, `${HEAD}${','.repeat(1_000_000)}\n`),
    /None of the rows could be read/,
  ],
  [
    'nothing but quotation marks',
    (file) => writeFileSync(file, '"'.repeat(2_000_000)),
    /no table|never closed|not look like/,
  ],
  ['NUL bytes in the head', (file) => writeFileSync(file, 'date,pa\0ge,clicks\n'), /NUL/],
])(
  '%s',
  async (_name, write, why) => {
    const { row, grown } = await bringIn(write);
    expect(row.state).toBe('failed');
    expect(row.failure).toMatch(why);
    expect(grown).toBeLessThan(300);
    expect(stateOf(store.db, site.id)).toEqual(before);
  },
  30_000,
);

test('rows with NUL bytes, formulas and endless cells are refused or kept as the text they are', async () => {
  const { row } = await bringIn((file) =>
    writeFileSync(
      file,
      [
        HEAD.trim(),
        '2026-01-02,/a\0b/,1,2',
        '=HYPERLINK("https://other-yard.example"),/x/,1,2',
        `2026-01-02,/${'x'.repeat(100_000)}/,1,2`,
        `2026-01-03,/ok/,1,2${','.repeat(5000)}x`,
        '2026-01-04,/fine/,1,2',
      ].join('\n'),
    ),
  );
  expect(row).toMatchObject({ state: 'done', rowsStored: 1, rowsRefused: 4 });
  expect(listProblems(store.db, row.id, 9).map(({ line, message }) => `${line}: ${message}`)).toEqual([
    '2: The row holds a NUL byte.',
    expect.stringMatching(/^3: The row has|^3: “=HYPERLINK/),
    '4: The address is longer than 2048 characters.',
    expect.stringMatching(/^5: The row has 5004 cells where the head has 4/),
  ]);
  // Of what was refused no more is kept than a person would look at.
  const kept = refusedRows(store.db, row.id);
  expect(Math.max(...kept.flatMap(({ cells }) => cells.map((cell) => cell.length)))).toBe(2000);
  expect(Math.max(...kept.map(({ cells }) => cells.length))).toBe(200);
});
