import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Site } from '@/core/model/site';
import { queueDrafts } from '@/jobs/queueFile';
import { findImport, listImports } from '@/store/figures/imports';
import { TempStore } from '../../../../../../../tests/support/tempDb';
import { keepFormFiles } from './form';

let store: TempStore;
let site: Site;
let dir: string;
const before = process.env.TALLY_DATA_DIR;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
  dir = mkdtempSync(path.join(tmpdir(), 'tally-form-'));
  process.env.TALLY_DATA_DIR = dir;
});
afterEach(() => {
  process.env.TALLY_DATA_DIR = before;
  store.close();
  rmSync(dir, { recursive: true });
});

const CSV = 'date,page,clicks,impressions\n2026-09-01,/a,1,10\n';

function formOf(
  files: readonly [name: string, text: string][],
  fields: Record<string, string> = {},
): Request {
  const form = new FormData();
  for (const [name, text] of files) form.append('file', new File([text], name));
  for (const [name, value] of Object.entries(fields)) form.append(name, value);
  return new Request('http://127.0.0.1/x', { method: 'POST', body: form });
}

test('all files of a form are taken, in their order', async () => {
  const names = Array.from({ length: 25 }, (_, i) => `${i}.csv`);
  const { drafts, fields } = await keepFormFiles(
    store.db,
    site.id,
    formOf(
      names.map((name) => [name, CSV]),
      { constructor: 'x', dateOrder: 'day-first' },
    ),
  );
  expect(drafts.ids.map((id) => findImport(store.db, id)!.fileName)).toEqual(names);
  expect(fields).toEqual({ constructor: 'x', dateOrder: 'day-first' });
});

test('what is beyond the bound is refused by name, and the rest is taken', async () => {
  const names = Array.from({ length: 202 }, (_, i) => `${i}.csv`);
  const { drafts } = await keepFormFiles(store.db, site.id, formOf(names.map((name) => [name, CSV])));
  expect(drafts.ids).toHaveLength(200);
  expect(drafts.leftOut.map(({ name, reason }) => [name, /send this one in another/.test(reason)])).toEqual([
    ['200.csv', true],
    ['201.csv', true],
  ]);
});

test('a bad file among several is named, and the others are queued as they would have been alone', async () => {
  const files: [string, string][] = [
    ['good.csv', CSV],
    ['empty.csv', ''],
    ['rubbish.csv', 'nothing of the kind'],
    ['other.csv', CSV.replace('/a', '/b')],
  ];
  const { drafts } = await keepFormFiles(store.db, site.id, formOf(files));
  const { ids, leftOut } = await queueDrafts(store.db, site.id, drafts, {});
  expect(ids.map((id) => findImport(store.db, id))).toMatchObject([
    { fileName: 'good.csv', state: 'queued' },
    { fileName: 'other.csv', state: 'queued' },
  ]);
  expect(leftOut.map(({ name }) => name)).toEqual(['empty.csv', 'rubbish.csv']);
  expect(listImports(store.db, site.id)).toHaveLength(2);
  expect(readdirSync(path.join(dir, 'uploads')).sort()).toEqual(ids.map((id) => `${id}.csv`));
});

test('a form of which no file can be taken is refused with every reason', async () => {
  const { drafts } = await keepFormFiles(
    store.db,
    site.id,
    formOf([
      ['a.csv', ''],
      ['b.csv', 'x'],
    ]),
  );
  await expect(queueDrafts(store.db, site.id, drafts, {})).rejects.toThrow(/a\.csv: .*b\.csv: /);
  expect(listImports(store.db, site.id)).toEqual([]);
});

test('of a form that breaks off nothing is kept', async () => {
  const whole = formOf([
    ['a.csv', CSV],
    ['b.csv', CSV],
  ]);
  const bytes = Buffer.from(await whole.arrayBuffer());
  const cut = new Request('http://127.0.0.1/x', {
    method: 'POST',
    body: bytes.subarray(0, bytes.length - 120),
    headers: { 'Content-Type': whole.headers.get('content-type')! },
  });
  await expect(keepFormFiles(store.db, site.id, cut)).rejects.toThrow(/broken or cut off/);
  expect(listImports(store.db, site.id)).toEqual([]);
  expect(readdirSync(path.join(dir, 'uploads'))).toEqual([]);
});
