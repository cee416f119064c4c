import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { clearUnfinished } from '../store/figures/arrival';
import { day, TempStore } from '../../tests/support/tempDb';
import {
  addImport,
  confirmDraft,
  dropDraft,
  dropOldDrafts,
  findImport,
  nextQueued,
  updateImport,
} from '../store/figures/imports';
import { dropHalfReceived, receive, spoolFile } from './spool';

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

test('what a dead process left half received is cleared away, and nothing else', async () => {
  const { file } = await receive(Readable.from([Buffer.from('x')]), dir);
  writeFileSync(spoolFile(7, dir), 'kept');
  await dropHalfReceived(dir);
  expect(existsSync(file)).toBe(false);
  expect(readFileSync(spoolFile(7, dir), 'utf8')).toBe('kept');
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
