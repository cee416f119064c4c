import { createHash } from 'node:crypto';
import { createWriteStream, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { is } from 'drizzle-orm';
import { getTableConfig, SQLiteTable } from 'drizzle-orm/sqlite-core';
import fc from 'fast-check';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { fillSite } from '../../../tests/support/fullSite';
import { TempStore } from '../../../tests/support/tempDb';
import type { Db } from '../database';
import * as schema from '../schema';
import { findSite, listSites } from '../sites';
import { arriveSite } from './arrive';
import { archiveFiles, archiveRows } from './contents';
import { clearUnfinishedSites } from './siteImports';
import { ARCHIVED, NOT_ARCHIVED } from './tables';
import { ArchiveReader, ArchiveRefused, archiveZip } from './zip';

let from: TempStore;
let to: TempStore;
let whole: string;
let files: Record<string, Uint8Array>;

async function save(db: Db, siteId: number, file: string): Promise<string> {
  db.$client.exec('BEGIN');
  try {
    const zip = archiveZip(archiveFiles(db, siteId), '2026-11-27T00:00:00.000Z');
    await pipeline(zip, createWriteStream(file));
  } finally {
    db.$client.exec('COMMIT');
  }
  return file;
}

async function bringIn(db: Db, file: string): Promise<number> {
  const archive = await ArchiveReader.open(file);
  try {
    return await arriveSite(db, archive);
  } finally {
    archive.close();
  }
}

/** An archive of files, with a manifest that fits them unless another is given. */
function written(contents: Record<string, Uint8Array | string | null>, manifest?: object): string {
  const bytes = Object.fromEntries(
    Object.entries({ ...files, ...contents }).flatMap(([name, content]) =>
      content === null ? [] : [[name, typeof content === 'string' ? strToU8(content) : content] as const],
    ),
  );
  const was = JSON.parse(strFromU8(files['manifest.json']!)) as { files: { name: string; rows: number }[] };
  const fitting = {
    ...was,
    files: was.files
      .filter(({ name }) => bytes[name])
      .map((one) => ({
        ...one,
        bytes: bytes[one.name]!.length,
        sha256: createHash('sha256').update(bytes[one.name]!).digest('hex'),
      })),
    ...manifest,
  };
  const file = path.join(to.dir, `made-${Math.random()}.zip`);
  writeFileSync(file, zipSync({ ...bytes, 'manifest.json': strToU8(JSON.stringify(fitting)) }));
  return file;
}

const state = (db: Db) =>
  Object.fromEntries(
    db.$client
      .prepare<[], string>("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%'")
      .pluck()
      .all()
      // Names of countries stay; nothing names them then. The version of the entries goes on.
      .filter((name) => name !== 'label' && name !== 'entries')
      .map((name) => [name, db.$client.prepare(`SELECT * FROM "${name}"`).all()]),
  );

const refusalOf = async (file: string): Promise<string> => {
  const before = state(to.db);
  const said = await bringIn(to.db, file).then(
    () => 'taken',
    (error: unknown) => {
      if (!(error instanceof ArchiveRefused)) throw error;
      return error.message;
    },
  );
  expect(state(to.db)).toEqual(before);
  return said;
};

beforeAll(async () => {
  from = new TempStore();
  await from.site('https://other.example');
  const site = await from.site();
  await fillSite(from, site);
  whole = await save(from.db, site.id, path.join(from.dir, 'whole.zip'));
  files = unzipSync(readFileSync(whole));
});
afterAll(() => from.close());

beforeEach(async () => {
  to = new TempStore();
  // Numbers and countries are taken here already, in another order.
  const other = await to.site('https://third.example');
  await to.import(
    other,
    'date,page,query,clicks,impressions,position,country\n2026-09-01,https://third.example/a,x,1,2,3,zoland\n2026-09-01,https://third.example/a,x,1,2,3,arland\n',
  );
});
afterEach(() => to.close());

test('every table goes out, or is said not to and why', () => {
  const tables = Object.values(schema).filter((one) => is(one, SQLiteTable));
  const named = new Set([...ARCHIVED.map(({ table }) => table), ...NOT_ARCHIVED.keys()]);
  expect(tables.filter((table) => !named.has(table)).map((table) => getTableConfig(table).name)).toEqual([]);
});

test('the site in the test has something in every file, so that none goes untested', () => {
  const empty = Object.entries(files).filter(([, bytes]) => bytes.length <= 3);
  expect(empty.map(([name]) => name)).toEqual([]);
  expect(Object.keys(files).filter((name) => name.endsWith('.csv'))).toHaveLength(5);
});

test('out, in and out again gives the same bytes, whatever was there before', async () => {
  const id = await bringIn(to.db, whole);
  expect(id).not.toBe(1);
  const again = await save(to.db, id, path.join(to.dir, 'again.zip'));
  const other = unzipSync(readFileSync(again));
  expect(Object.keys(other)).toEqual(Object.keys(files));
  for (const [name, bytes] of Object.entries(files))
    expect([name, strFromU8(other[name]!)]).toEqual([name, strFromU8(bytes)]);
  expect(readFileSync(again).equals(readFileSync(whole))).toBe(true);
  const seals = (JSON.parse(strFromU8(files['manifest.json']!)) as { files: { rows: number }[] }).files;
  expect(archiveRows(to.db, id)).toBe(seals.reduce((sum, { rows }) => sum + rows, 0));
});

test('what is derived is made again, and the other site is as it was', async () => {
  const before = to.rows('page_series');
  const id = await bringIn(to.db, whole);
  const series = (db: Db, siteId: number) =>
    db.$client
      .prepare(
        `SELECT p.address, s.device, s.first_day, s.days, hex(s.figures) FROM page_series s JOIN page p ON p.id = s.page_id
         WHERE p.site_id = ? ORDER BY p.address, s.device`,
      )
      .all(siteId);
  expect(series(to.db, id).length).toBeGreaterThan(3);
  expect(series(to.db, id)).toEqual(series(from.db, 2));
  expect(series(to.db, 1)).toHaveLength(before.length);
});

test('what belongs to an installation stays there', async () => {
  from.db.$client.exec(
    "UPDATE site SET results_token = 'secret-too', private_hosts = 'inside:80' WHERE id = 2",
  );
  const file = await save(from.db, 2, path.join(from.dir, 'tokens.zip'));
  const all = Object.values(unzipSync(readFileSync(file))).map((bytes) => strFromU8(bytes));
  expect(all.filter((text) => /secret|inside:80/.test(text))).toEqual([]);
  const id = await bringIn(to.db, file);
  expect(
    to.db.$client.prepare('SELECT token, daily, allow_private FROM feed WHERE site_id = ?').get(id),
  ).toEqual({
    ...{ token: null, daily: 0, allow_private: 0 },
  });
  from.db.$client.exec("UPDATE site SET results_token = '', private_hosts = '' WHERE id = 2");
});

test('a site that is here already is not brought in twice', async () => {
  await bringIn(to.db, whole);
  expect(await refusalOf(whole)).toBe(
    'There is a site at https://www.quillow-bees.example already. Nothing was changed.',
  );
});

test('archives that are broken are refused as a whole', async () => {
  const bytes = readFileSync(whole);
  const at = (name: string, content: Uint8Array) => {
    writeFileSync(path.join(to.dir, name), content);
    return path.join(to.dir, name);
  };
  expect(await refusalOf(at('text.zip', strToU8('not a zip')))).toContain('no archive of a site');
  expect(await refusalOf(at('cut.zip', bytes.subarray(0, bytes.length - 100)))).toContain(
    'no archive of a site',
  );
  expect(await refusalOf(written({ 'extra.txt': 'x' }))).toContain('which its manifest does not name');
  expect(await refusalOf(written({ 'ledger/changes.json': null }))).toBe(
    'The archive lacks ledger/changes.json.',
  );
  expect(await refusalOf(written({}, { format: 2 }))).toContain('newer version');
  expect(await refusalOf(written({}, { about: 'Something else' }))).toContain('manifest');
  const changed = files['ledger/tags.json']!.slice();
  changed[20]! ^= 1;
  const manifest = JSON.parse(strFromU8(files['manifest.json']!)) as object;
  expect(await refusalOf(written({ 'ledger/tags.json': changed }, manifest))).toContain(
    'ledger/tags.json in the archive is not what it was',
  );
  // A bit anywhere within what is packed.
  await fc.assert(
    fc.asyncProperty(fc.nat({ max: bytes.length - 1 }), fc.nat({ max: 7 }), async (place, bit) => {
      const turned = Buffer.from(bytes);
      turned[place]! ^= 1 << bit;
      const archive = await ArchiveReader.open(at('turned.zip', turned)).catch((error: unknown) => {
        if (!(error instanceof ArchiveRefused)) throw error;
        return null;
      });
      if (!archive) return;
      try {
        await archive.check();
        // Dates and attributes of entries say nothing of the site: all files are what they were.
        for (const seal of archive.manifest.files) {
          const chunks: Buffer[] = [];
          for await (const chunk of archive.bytesOf(seal)) chunks.push(chunk);
          expect(Buffer.concat(chunks).equals(Buffer.from(files[seal.name]!))).toBe(true);
        }
      } catch (error) {
        if (!(error instanceof ArchiveRefused)) throw error;
      } finally {
        archive.close();
      }
    }),
    { numRuns: 60 },
  );
});

const text = (name: string) => strFromU8(files[name]!);

test.each([
  ['ledger/changes.json', (was: string) => was.replace('"kind":"title-rewrite"', '"kind":5'), 'line 2: kind'],
  [
    'ledger/changes.json',
    (was: string) => was.replace('https://t.quillow', 'javascript:t.quillow'),
    'line 2: link',
  ],
  [
    'ledger/changes.json',
    (was: string) => was.replace('"id":1', '"id":7'),
    'line 2: it is numbered otherwise than 1',
  ],
  ['ledger/changes.json', (was: string) => was.replace('"title"', '"__proto__"'), 'line 2'],
  ['ledger/pages.json', (was: string) => was.replace('"pageId":1', '"pageId":9999'), 'line 2: pageId'],
  ['ledger/tags.json', (was: string) => was.replace('{', '{"more":1,'), 'line 2'],
  [
    'addresses/pages.json',
    (was: string) => was.replace('https://www', 'data:text/html,www'),
    'line 2: address',
  ],
  [
    'intake/imports.json',
    (was: string) => was.replace('"state":"done"', '"state":"queued"'),
    'line 2: state',
  ],
  [
    'evidence/snapshots.json',
    (was: string) => was.replace('"headings":[', '"headings":[null,'),
    'line 2: evidence',
  ],
  [
    'reports/issues.json',
    (was: string) => was.replace('"logo":null', '"logo":"https://a.example/x.png"'),
    'line 2: shown',
  ],
  ['routines/routines.json', (was: string) => was.replace('"/openings"', '"//a.example"'), 'line 2: steps'],
  ['routines/routines.json', (was: string) => was.replace('FREQ=', 'OFTEN='), 'line 2: rule'],
  ['routines/done.json', (was: string) => was.replace(/"at":"[^"]*"/, '"at":"lately"'), 'line 2: at'],
  ['site.json', (was: string) => was.replace(/"windowDays":\d+/, '"windowDays":0'), 'windowDays'],
  ['site.json', (was: string) => was.replace(/"settlingDays":\d+/, '"settlingDays":-3'), 'settlingDays'],
  ['site.json', (was: string) => was.replace(/"fallShare":[\d.]+/, '"fallShare":7'), 'fallShare'],
  [
    'site.json',
    (was: string) => was.replace(/"timeZone":(null|"[^"]*")/, '"timeZone":"Mars/One"'),
    'timeZone',
  ],
  ['site.json', (was: string) => was.replace(/"createdAt":"[^"]*"/, '"createdAt":"x"'), 'createdAt'],
  ['reports/reports.json', (was: string) => was.replace(/"ink":"\w+"/, '"ink":"gold"'), 'line 2: ink'],
  [
    'reports/reports.json',
    (was: string) => was.replace(/"scope":\{[^}]*\}/, '"scope":{"kind":"round","roundId":-1}'),
    'line 2: scope',
  ],
  [
    'reports/issues.json',
    (was: string) => was.replace(/"sentences":\[/, '"sentences":[{},'),
    'line 2: shown',
  ],
  ['ledger/history.json', (was: string) => was.replace('"parts":[', '"parts":[null,'), 'line 2: was.parts'],
  [
    'ledger/history.json',
    (was: string) => was.replace(/"steps":\{[^}]*\}/, '"steps":{"sold":1}'),
    'line 2: was.steps',
  ],
  ['wording/result-pages.json', (was: string) => was.replace(/"device":\d/, '"device":99'), 'line 2: device'],
  [
    'evidence/snapshots.json',
    (was: string) => was.replace(/"words":\d+/, '"words":"many"'),
    'line 2: evidence',
  ],
  [
    'intake/imports.json',
    (was: string) => was.replace(/"rowsRead":\d+/, '"rowsRead":-5'),
    'line 2: rowsRead',
  ],
  ['site.json', (was: string) => was.replace('bees.example', 'bees.example/x/'), 'does not say which site'],
  ['site.json', () => '[\nnull\n]\n', 'line 2: it is numbered otherwise'],
  ['queries/queries.json', (was: string) => was.slice(0, -3), 'cut off'],
  ['queries/queries.json', () => '[\n{]\n', 'no JSON'],
  ['ledger/said.json', () => '[]\n', 'another number of rows'],
  ['figures/00001-page_query_day.csv', (was: string) => was.replace('position_sum', 'sum'), 'other columns'],
  [
    'figures/00001-page_query_day.csv',
    (was: string) => was.replace(/,mobile,/, ',fridge,'),
    'line 2: Its device',
  ],
  ['figures/00001-page_query_day.csv', (was: string) => was.replace(/2026-09-05/, '2026-09-95'), 'is no day'],
  [
    'figures/00001-page_query_day.csv',
    (was: string) => `${was}${was.split('\r\n').slice(-2).join('\r\n')}`,
    'twice',
  ],
  [
    'figures/00001-page_query_day.csv',
    (was: string) => was.replace(/^.*2026-09-05.*\r\n/m, ''),
    'number of rows',
  ],
] as const)('%s with something wrong in it is refused with where', async (name, change, said) => {
  const now = change(text(name));
  expect(now).not.toBe(text(name));
  const refusal = await refusalOf(written({ [name]: now }));
  expect(refusal).toContain(said);
});

test('one that swells when it is unpacked is refused before that', async () => {
  const big = new Uint8Array(80 * 1024 * 1024).fill(32);
  expect(await refusalOf(written({ 'queries/queries.json': big }))).toContain('swells');
});

test('a site that is half there is nobody’s, and is gone at the next start', async () => {
  const before = state(to.db);
  const archive = await ArchiveReader.open(whole);
  let seen: number | null = null;
  const rowsOf = (one: { files: readonly { rows: number }[] }) =>
    one.files.reduce((sum, { rows }) => sum + rows, 0);
  // As if the process ended with the last of the figures.
  const stop = arriveSite(to.db, archive, (rows) => {
    if (rows < rowsOf(archive.manifest)) return;
    seen = listSites(to.db).length;
    const [hidden] = to.db.$client
      .prepare<[], number>('SELECT id FROM site WHERE arriving = 1')
      .pluck()
      .all();
    expect(findSite(to.db, hidden!)).toBeNull();
    to.db.$client.exec(
      "CREATE TEMP TRIGGER no_more BEFORE DELETE ON figures BEGIN SELECT raise(ABORT, 'gone'); END",
    );
    throw new Error('killed');
  });
  // SQLite's errors may be of another realm than this test's.
  expect(
    await stop.then(
      () => 'taken',
      () => 'ended',
    ),
  ).toBe('ended');
  archive.close();
  expect(seen).toBe(1);
  expect(to.rows('figures').length).toBeGreaterThan(before.figures!.length);
  to.db.$client.exec('DROP TRIGGER no_more');
  await clearUnfinishedSites(to.db);
  expect(state(to.db)).toEqual(before);
});
