import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { buildSync } from 'esbuild';
import type { Site } from '../core/model/site';
import { stateOf } from '../../tests/support/state';
import { day, TempStore } from '../../tests/support/tempDb';
import { clearUnfinished } from '../store/figures/arrival';
import { addImport, findImport, nextQueued } from '../store/figures/imports';
import { importFile } from './importFile';

/*
 * Power cuts: the process that brings a file in is killed (SIGKILL) in every one of its transactions, before and after
 * it is committed, so that nothing it meant to tidy up is tidied up.
 */

// Within the project, so that the packages it needs are found from there.
const built = mkdtempSync(path.join('build', 'test-'));
const program = path.join(built, 'dyingImport.mjs');
beforeAll(() => {
  buildSync({
    entryPoints: ['tests/support/dyingImport.ts'],
    outfile: program,
    ...{ bundle: true, platform: 'node', target: 'node20', format: 'esm', packages: 'external' },
    tsconfig: 'tsconfig.json',
    logLevel: 'error',
  });
});
afterAll(() => rmSync(built, { recursive: true }));

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
});
afterEach(() => store.close());

const line = (n: number, clicks: number) => {
  const date = new Date(Date.UTC(2026, 0, 1 + (n % 70))).toISOString().slice(0, 10);
  return `${date},/p${n % 5}/,query ${n % 40},${clicks},${clicks + 50},4.5`;
};
const HEAD = 'date,page,query,clicks,impressions,position';
const earlier = [HEAD, ...Array.from({ length: 300 }, (_, n) => line(n, 1))].join('\n');
// Half of it replaces rows that are there, half is new, and a row is refused.
const later = [HEAD, ...Array.from({ length: 600 }, (_, n) => line(n, 2)), '2026-02-30,/p1/,q,1,2,3'].join(
  '\n',
);

/** The tables that an import writes to, but for its own record. */
const tables = () =>
  [
    'figures',
    'attribute',
    'address',
    'query',
    'label',
    'page',
    'page_series',
    'import_day',
    'import_problem',
  ].map((table) => JSON.stringify(store.rows(table)));

/** The later file written beside the store and its import queued. */
async function queued(): Promise<{ file: string; id: number }> {
  const file = path.join(store.dir, 'later.csv');
  writeFileSync(file, later);
  const id = await addImport(store.db, {
    siteId: site.id,
    fileName: 'later.csv',
    bytesTotal: later.length,
    takenOn: day('2030-01-01'),
    state: 'queued',
  });
  return { file, id };
}

test('an import that is killed at any point leaves everything as it was, and can be begun again', async () => {
  await store.import(site, earlier);
  const before = { tables: tables(), state: stateOf(store.db, site.id) };
  const { file, id } = await queued();

  let [killed, halfStored] = [0, 0];
  let finished = false;
  for (let transaction = 1; !finished; transaction++) {
    for (const moment of ['before', 'after'] as const) {
      const { signal, status, stderr } = spawnSync(
        process.execPath,
        [program, store.file, String(id), file, String(transaction), moment, '0'],
        { encoding: 'utf8' },
      );
      if (signal !== 'SIGKILL') {
        expect([status, stderr]).toEqual([0, '']);
        finished = true;
        break;
      }
      killed++;
      if (findImport(store.db, id)!.state === 'done') {
        // Killed after the last transaction: all of it is there.
        finished = true;
        break;
      }
      if (store.rows('figures').length > JSON.parse(before.tables[0]!).length) halfStored++;
      // What is half done is seen by nobody, even before it is cleared away.
      expect(stateOf(store.db, site.id)).toEqual(before.state);
      await clearUnfinished(store.db);
      expect(tables()).toEqual(before.tables);
      if (findImport(store.db, id)!.state === 'queued') expect(nextQueued(store.db)?.id).toBe(id);
    }
  }
  // Many points, some of them with part of the rows stored.
  expect(killed).toBeGreaterThan(20);
  expect(halfStored).toBeGreaterThan(5);
  expect(findImport(store.db, id)).toMatchObject({ state: 'done', rowsRead: 601, rowsRefused: 1 });

  const other = new TempStore();
  const its = await other.site();
  await other.import(its, earlier);
  await other.import(its, later);
  expect(stateOf(store.db, site.id)).toEqual(stateOf(other.db, its.id));
  other.close();
}, 120_000);

test('a process killed while threads read for it leaves nothing either', async () => {
  await store.import(site, earlier);
  const before = tables();
  const { file, id } = await queued();
  for (const transaction of [2, 4, 8]) {
    const args = [program, store.file, String(id), file, String(transaction), 'after', '2'];
    expect(spawnSync(process.execPath, args).signal).toBe('SIGKILL');
    await clearUnfinished(store.db);
    expect(tables()).toEqual(before);
  }
  await importFile(store.db, id, file, { threads: 2 });
  expect(findImport(store.db, id)).toMatchObject({
    state: 'done',
    rowsRead: 601,
    rowsStored: expect.any(Number),
  });
  const once = stateOf(store.db, site.id);
  // Threads or none, the result is the same.
  const again = await store.import(site, later);
  expect(again).toMatchObject({ rowsChanged: 0, rowsReplaced: again.rowsStored });
  expect(stateOf(store.db, site.id)).toEqual(once);
}, 60_000);
