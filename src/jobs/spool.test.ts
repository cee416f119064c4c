import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { clearUnfinished } from '../store/figures/arrival';
import { day, TempStore } from '../../tests/support/tempDb';
import { addFeed, updateFeed } from '../store/figures/feeds';
import {
  addImport,
  confirmDraft,
  dropDraft,
  dropOldDrafts,
  findImport,
  nextQueued,
  updateImport,
} from '../store/figures/imports';
import { dropLeftovers, receive, spoolFile } from './spool';

let dir: string;
beforeEach(() => {
  dir = mkdtempSync(path.join(tmpdir(), 'tally-spool-'));
});
afterEach(() => rmSync(dir, { recursive: true }));

test('a file is received whole', async () => {
  const { file, bytes } = await receive(Readable.from([Buffer.from('date,'), Buffer.from('page')]), dir);
  expect(bytes).toBe(9);
  expect(readFileSync(file, 'utf8')).toBe('date,page');
  expect(path.dirname(file)).toBe(path.dirname(spoolFile(1, dir)));
});

test('a file whose sender breaks off leaves nothing behind', async () => {
  async function* broken() {
    yield Buffer.from('date,');
    throw new Error('gone');
  }
  await expect(receive(Readable.from(broken()), dir)).rejects.toThrow('gone');
  expect(readdirSync(path.join(dir, 'uploads'))).toEqual([]);
});

test('what a dead process left behind is cleared away, and nothing that is waited for', async () => {
  const store = new TempStore();
  const site = await store.site();
  const values = { siteId: site.id, fileName: 'a.csv', bytesTotal: 1, takenOn: day('2026-11-24') };
  const waiting = await addImport(store.db, { ...values, state: 'queued' });
  const done = await addImport(store.db, { ...values, state: 'queued' });
  await updateImport(store.db, done, { state: 'done' });
  const feed = { name: 'Daily', address: 'https://figures.quillow-bees.example/', token: null };
  const fetched = await addFeed(store.db, site.id, { ...feed, daily: false, allowPrivate: false });
  await updateFeed(store.db, fetched, { state: 'fetching' });
  await receive(Readable.from([Buffer.from('x')]), dir);
  const kept = [`${waiting}.csv`, `${waiting}.csv.sheet`, `feed-${fetched}`];
  const left = [
    `${done}.csv`,
    `${waiting}.csv.sheet.part`,
    `${waiting}.rows`,
    '4711.csv',
    'feed-99',
    'feed-1.part',
  ];
  for (const name of [...kept, ...left]) {
    const at = path.join(dir, 'uploads', name);
    if (name.startsWith('feed-') && !name.includes('.')) mkdirSync(at);
    else writeFileSync(at, name);
  }
  await dropLeftovers(store.db, dir);
  expect(readdirSync(path.join(dir, 'uploads')).sort()).toEqual([...kept].sort());
  store.close();
});

test('an import that a dead process left running waits again, drafts wait for nobody', async () => {
  const store = new TempStore();
  const site = await store.site();
  const values = { siteId: site.id, fileName: 'a.csv', bytesTotal: 1, takenOn: day('2026-11-24') };
  const draft = await addImport(store.db, { ...values, state: 'draft' });
  const running = await addImport(store.db, { ...values, state: 'queued' });
  await updateImport(store.db, running, { state: 'running' });
  expect(nextQueued(store.db)).toBeNull();
  await clearUnfinished(store.db);
  expect(nextQueued(store.db)?.id).toBe(running);
  await updateImport(store.db, running, { state: 'done' });

  expect(await confirmDraft(store.db, draft, { dateOrder: 'day-first' })).toBe(true);
  expect(await confirmDraft(store.db, draft, {})).toBe(false);
  expect(nextQueued(store.db)).toMatchObject({ id: draft, settings: '{"dateOrder":"day-first"}' });

  expect(await dropDraft(store.db, draft)).toBe(false);
  const unwanted = await addImport(store.db, { ...values, state: 'draft' });
  expect(await dropDraft(store.db, unwanted)).toBe(true);
  expect(findImport(store.db, unwanted)).toBeNull();

  const old = await addImport(store.db, { ...values, state: 'draft' });
  expect(await dropOldDrafts(store.db, '2999-01-01')).toEqual([old]);
  expect(findImport(store.db, draft)).not.toBeNull();
  store.close();
});
