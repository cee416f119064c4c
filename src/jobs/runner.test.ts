import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { createServer as createHttpServer, type Server as HttpServer } from 'node:http';
import { createServer, type AddressInfo, type Server } from 'node:net';
import path from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { strToU8, zipSync } from 'fflate';
import type { Site } from '../core/model/site';
import { TempStore } from '../../tests/support/tempDb';
import { listPages } from '../store/addresses/pages';
import { newFeedSchema } from '../core/model/feed';
import { addFeed, findFeed, updateFeed } from '../store/figures/feeds';
import { findImport, listImports } from '../store/figures/imports';
import type { ReceivedFile } from '../store/received';
import { FileRefused } from './intake/fileRefused';
import { keepDrafts, queueDraft, queueLedger } from './queueFile';
import { inspectUpload, joinInWorker, undoInWorker } from './inWorker';
import { startFeeds, startRunner } from './runner';
import { spoolFile } from './spool';
import { endThreads } from './thread';

/* The real threads, as the server starts them, on a database of their own. */

let store: TempStore;
let site: Site;
const shared = globalThis as {
  __tallyDb?: unknown;
  __tallyQuestions?: unknown;
  __tallyRunner?: Promise<void> | null;
  __tallySpare?: { terminate(): Promise<number> } | null;
  __tallyEnding?: boolean;
};
const before = process.env.TALLY_DATA_DIR;
beforeEach(async () => {
  store = new TempStore();
  process.env.TALLY_DATA_DIR = store.dir;
  shared.__tallyDb = store.db;
  mkdirSync(path.join(store.dir, 'uploads'));
  site = await store.site();
});
afterEach(async () => {
  await shared.__tallyRunner;
  // It holds on to the folder of this test.
  await endThreads();
  // Whoever waited for one of them hears of its end first.
  await sleep(50);
  shared.__tallyEnding = false;
  shared.__tallySpare = null;
  delete shared.__tallyQuestions;
  delete shared.__tallyDb;
  process.env.TALLY_DATA_DIR = before;
  store.close();
});

let files = 0;
function received(content: string | Uint8Array): ReceivedFile {
  const file = path.join(store.dir, 'uploads', `${++files}.part`);
  writeFileSync(file, content);
  return { file, bytes: content.length };
}
const send = (content: string | Uint8Array, name = 'f.csv') =>
  keepDrafts(store.db, site.id, received(content), name);
const csv = (clicks: number) => `date,page,clicks,impressions\n2026-03-01,/a/,${clicks},10`;

/** Waits until nothing waits or comes in any more. */
async function settled(): Promise<void> {
  for (let i = 0; i < 400; i++) {
    const under = listImports(store.db, site.id).filter(({ state }) => ['queued', 'running'].includes(state));
    if (under.length === 0 && !shared.__tallyRunner) return;
    await sleep(25);
  }
}

test('files are worked off one after the other, a bad one leaves the others as they are, and nothing waits on disk', async () => {
  const ids: number[] = [];
  for (const content of [csv(1), csv(2), csv(3)]) {
    const { ids: made } = await send(content);
    await queueDraft(store.db, site.id, made[0]!, {});
    ids.push(made[0]!);
  }
  // The bytes of the second vanish: a fault of the program, not of the file.
  writeFileSync(spoolFile(ids[1]!), '');
  startRunner();
  await settled();
  const states = ids.map((id) => findImport(store.db, id)!);
  expect(states.map(({ state }) => state)).toEqual(['done', 'failed', 'done']);
  expect(states[1]!.failure).toBe('The file is empty.');
  expect(states[2]!.layer).toBeGreaterThan(states[0]!.layer!);
  for (const id of ids) expect(existsSync(spoolFile(id))).toBe(false);
  expect(await undoInWorker('undo', site.id, ids[2]!)).toBe(true);
  expect(await undoInWorker('undo', site.id, ids[2]!)).toBe(false);
});

test('a file that cannot be taken as it is says what to state, and nothing is kept of it', async () => {
  const refused = async (content: string) => {
    const { ids } = await send(content);
    const error = await queueDraft(store.db, site.id, ids[0]!, {}).catch((reason: unknown) => reason);
    expect(findImport(store.db, ids[0]!)).toBeNull();
    expect(existsSync(spoolFile(ids[0]!))).toBe(false);
    return [error instanceof FileRefused, (error as FileRefused).toState];
  };
  expect(await refused('when,where\n1,2')).toEqual([true, 'mapping']);
  // Open over its whole column: a thread has to look through it.
  expect(await refused('date,page,clicks,impressions\n03/09/2026,/a/,1,2')).toEqual([true, 'dateOrder']);
});

test('the tables of an archive are drafts of their own, looked through like any', async () => {
  const zip = zipSync({ 'a.csv': strToU8(csv(1)), 'sub/b.csv': strToU8(csv(2)), 'notes.txt': strToU8('hi') });
  const { ids, leftOut } = await send(zip, 'figures.zip');
  expect(leftOut.map(({ name }) => name)).toEqual(['notes.txt']);
  expect(ids.map((id) => findImport(store.db, id)!.fileName)).toEqual([
    'figures: a.csv',
    'figures: sub/b.csv',
  ]);
  const seen = await inspectUpload(ids[1]!, site, {});
  expect([seen.grain, seen.rows]).toEqual(['page_day', 1]);
  await expect(send('PK\u0003\u0004 broken')).rejects.toThrow(/ZIP file, broken/);
});

test('a sheet of changes is queued as one, with columns by their names', async () => {
  const body = 'on,where,did\n2026-03-01,/a/,Something';
  const request = () => new Request('http://127.0.0.1/x', { method: 'POST', body });
  await expect(queueLedger(store.db, site, request(), 'l.csv', {})).rejects.toMatchObject({
    toState: 'mapping',
  });
  const wrong = { mapping: { day: 'nowhere' } };
  await expect(queueLedger(store.db, site, request(), 'l.csv', wrong)).rejects.toThrow(/no column “nowhere”/);
  const mapping = { day: 'on', page: 'where', title: 'did' };
  const id = await queueLedger(store.db, site, request(), 'l.csv', { mapping });
  startRunner();
  await settled();
  expect(findImport(store.db, id!)).toMatchObject({ state: 'done', about: 'changes', rowsStored: 1 });
  expect(listImports(store.db, site.id)).toHaveLength(1);
});

test('a thread that did one task does the next as well', async () => {
  await send(csv(1)).then(({ ids }) => queueDraft(store.db, site.id, ids[0]!, {}));
  startRunner();
  await settled();
  const [address] = store.rows('address') as { id: number }[];
  await joinInWorker(site.id, address!.id, 'https://www.quillow-bees.example/b/');
  expect(listPages(store.db, site.id).map((page) => page.address)).toEqual([
    'https://www.quillow-bees.example/b/',
  ]);
  await joinInWorker(site.id, address!.id, null);
  expect(listPages(store.db, site.id)[0]!.address).toMatch(/\/a\/$/);
});

test('a host that does not answer holds up its own feed alone', async () => {
  const dead = createServer((socket) => socket.on('error', () => {}));
  const alive = createHttpServer((_request, response) => response.end(csv(7)));
  const portOf = async (server: Server | HttpServer) => {
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    return (server.address() as AddressInfo).port;
  };
  const set = async (port: number) => {
    const address = `http://127.0.0.1:${port}/`;
    const input = { name: `On ${port}`, address, token: '', daily: false, allowPrivate: true };
    const id = await addFeed(store.db, site.id, newFeedSchema.parse(input));
    await updateFeed(store.db, id, { state: 'asked' });
    return id;
  };
  const [held, served] = [await set(await portOf(dead)), await set(await portOf(alive))];
  startFeeds();
  for (let i = 0; i < 400 && findFeed(store.db, served)!.lastFetchedAt === null; i++) await sleep(25);
  expect(findFeed(store.db, served)).toMatchObject({ state: 'idle', failure: null });
  for (let i = 0; i < 400 && findFeed(store.db, held)!.state === 'asked'; i++) await sleep(25);
  expect(findFeed(store.db, held)).toMatchObject({ state: 'fetching' });
  await settled();
  expect(listImports(store.db, site.id)).toMatchObject([{ state: 'done', rowsStored: 1 }]);
  // As at the end of the server: what is not finished is taken up at the next start.
  await endThreads();
  expect(findFeed(store.db, held)).toMatchObject({ state: 'fetching' });
  shared.__tallyEnding = false;
  dead.close();
  alive.close();
});
