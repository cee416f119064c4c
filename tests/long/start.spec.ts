import type { ChildProcess } from 'node:child_process';
import { chmodSync, copyFileSync, existsSync, mkdirSync, readdirSync, rmSync, truncateSync } from 'node:fs';
import path from 'node:path';
import Database from 'better-sqlite3';
import type { APIRequestContext } from '@playwright/test';
import { OwnServer, ownPort } from '../e2e/ownServer';
import { expect, importDone, test } from '../e2e/support';

// Each of these tests has a folder and servers of its own.
test.describe.configure({ mode: 'parallel' });

const PORT = ownPort(3415);
const HOME = `http://127.0.0.1:${PORT}`;

const own = new OwnServer(PORT);
const { run, stop } = own;

let dir: string;
test.beforeEach(() => {
  own.begin();
  dir = own.dir;
});
test.afterEach(() => own.end());

const ANSWERS = own.answers;

test('prints its address when it answers, listens on loopback, and ends when told to', async ({
  request,
}) => {
  expect((await run('build/server.mjs', ANSWERS)).printed).toMatch(ANSWERS);
  expect(await (await request.get(`${HOME}/api/v1/sites`)).json()).toEqual([]);
  const child = own.running!;
  await stop('SIGTERM');
  expect(child.exitCode).toBe(0);
});

test('a database of a newer version is refused before anything is served', async () => {
  await run('build/server.mjs', ANSWERS);
  await stop('SIGTERM');
  const db = new Database(path.join(dir, 'tally.sqlite'));
  db.prepare("INSERT INTO __drizzle_migrations (hash, created_at) VALUES ('later', ?)").run(
    Date.UTC(2100, 0, 1),
  );
  db.close();
  const { printed, code } = await run('build/server.mjs', ANSWERS);
  expect(code).toBe(1);
  expect(printed).toMatch(/newer version of Modest Tally.*Nothing was changed/);
  expect(printed).not.toMatch(/at .*\.mjs/);
});

test('a port in use is named in a sentence', async () => {
  await run('build/server.mjs', ANSWERS);
  const first = own.running;
  const elsewhere = path.join(dir, 'elsewhere');
  const { printed, code } = await run('build/server.mjs', ANSWERS, { TALLY_DATA_DIR: elsewhere });
  expect(code).toBe(1);
  expect(printed).toContain(`Port ${PORT} is in use already`);
  own.running = first;
});

test('two servers on one folder are kept apart, and a killed one leaves no lock', async () => {
  await run('build/server.mjs', ANSWERS);
  const first = own.running!;
  const { printed, code } = await run('build/server.mjs', ANSWERS, { PORT: '3416' });
  expect([code, printed]).toEqual([
    1,
    expect.stringMatching(
      new RegExp(`in use by Modest Tally already \\(process ${first.pid}, serving on port ${PORT}`),
    ),
  ]);
  own.running = first;
  await stop('SIGKILL');
  expect((await run('build/server.mjs', ANSWERS)).printed).toMatch(ANSWERS);
});

/** Logs changes until it is told to end, and gives how many were acknowledged. */
async function logChanges(request: APIRequestContext, n: number): Promise<number> {
  const site = await request.post(`${HOME}/api/v1/sites`, {
    data: { name: 'Copied', address: 'copied.quillow-bees.example' },
  });
  const { id } = (await site.json()) as { id: number };
  for (let i = 0; i < n; i++) {
    const data = { title: `Change ${i}`, kind: 'other', day: '2026-09-14', pages: [`/p${i}`] };
    expect((await request.post(`${HOME}/api/v1/sites/${id}/changes`, { data })).status()).toBe(201);
  }
  return n;
}

/** The changes in the database file alone, as somebody would copy it. */
function inCopyOf(file: string): number {
  const copy = path.join(dir, 'copy.sqlite');
  copyFileSync(file, copy);
  const db = new Database(copy);
  const n = db.prepare('SELECT count(*) FROM change').pluck().get() as number;
  db.close();
  return n;
}

const ENDINGS: [string, string, (child: ChildProcess) => void][] = [
  ['told to end', 'build/server.mjs', (child) => child.kill('SIGTERM')],
  ['interrupted', 'build/server.mjs', (child) => child.kill('SIGINT')],
  ['told by its parent alone', 'scripts/start.mjs', (child) => child.kill('SIGTERM')],
  ['left by a parent that was killed', 'scripts/start.mjs', (child) => child.kill('SIGKILL')],
];
for (const [how, program, end] of ENDINGS) {
  test(`a server that is ${how} leaves all of its data in the one file`, async ({ request }) => {
    await run(program, ANSWERS);
    const logged = await logChanges(request, 40);
    end(own.running!);
    const beside = ['tally.sqlite-wal', 'tally.sqlite-shm', 'lock.json'].map((name) => path.join(dir, name));
    await expect.poll(() => beside.filter((file) => existsSync(file))).toEqual([]);
    expect(inCopyOf(path.join(dir, 'tally.sqlite'))).toBe(logged);
    own.running = null;
  });
}

test('a backup taken while it runs is put back where the data was lost', async ({ request }) => {
  await run('build/server.mjs', ANSWERS);
  const logged = await logChanges(request, 20);
  const file = path.join(`${dir}-backup`, 'backup.zip');
  mkdirSync(path.dirname(file));
  const first = own.running;
  const database = path.join(dir, 'tally.sqlite');
  expect(await run('build/backup.mjs', undefined, {}, [database, '--replace'])).toMatchObject({
    code: 1,
    printed: expect.stringMatching(/is in the data folder/),
  });
  expect((await run('build/backup.mjs', undefined, {}, [file])).printed).toMatch(
    /backup\.zip holds 1 site, 20 changes,.* checked\./,
  );
  // While it runs, nothing is put back over it.
  expect(await run('build/restore.mjs', undefined, {}, [file])).toMatchObject({
    code: 1,
    printed: expect.stringMatching(/in use by Modest Tally already/),
  });
  own.running = first;
  await stop('SIGTERM');
  truncateSync(path.join(dir, 'tally.sqlite'), 5000);
  const broken = await run('build/server.mjs', ANSWERS);
  expect(broken).toMatchObject({
    code: 1,
    printed: expect.stringMatching(/is damaged: .*npm run restore/),
  });
  expect(broken.printed).not.toMatch(/at .*\.mjs/);
  expect(await run('build/restore.mjs', undefined, {}, [file])).toMatchObject({
    code: 0,
    printed: expect.stringMatching(/Restored as of .*20 changes.*\n.*is kept in .*replaced-/),
  });
  rmSync(path.dirname(file), { recursive: true });
  expect(inCopyOf(path.join(dir, 'tally.sqlite'))).toBe(logged);
  expect((await run('build/server.mjs', ANSWERS)).printed).toMatch(ANSWERS);
});

test('a folder that cannot be written to, and a day that is none, are said in a sentence', async () => {
  const closed = path.join(dir, 'closed');
  mkdirSync(closed);
  chmodSync(closed, 0o555);
  chmodSync(dir, 0o755);
  // Root may write everywhere; then another user tries.
  const user = process.getuid?.() === 0 ? { uid: 65_534, gid: 65_534 } : {};
  const own = { TALLY_DATA_DIR: path.join(closed, 'own') };
  const { printed, code } = await run('build/server.mjs', ANSWERS, own, [], user);
  expect([code, printed]).toEqual([1, expect.stringMatching(/^This user may not read and write The folder/)]);
  expect(readdirSync(closed)).toEqual([]);
  expect(await run('build/server.mjs', ANSWERS, { TALLY_TODAY: '24.11.2026' })).toMatchObject({
    code: 1,
    printed: expect.stringMatching(/TALLY_TODAY must be a day written YYYY-MM-DD, and is “24\.11\.2026”/),
  });
});

test('an import that a killed process left behind is taken up by the next', async ({ request }) => {
  await run('build/server.mjs', ANSWERS);
  const { id } = (await (
    await request.post(`${HOME}/api/v1/sites`, {
      data: { name: 'Killed', address: 'killed.quillow-bees.example' },
    })
  ).json()) as { id: number };
  const lines = ['date,page,query,clicks,impressions'];
  for (let i = 0; i < 500_000; i++)
    lines.push(`2026-01-${String(1 + (i % 28)).padStart(2, '0')},/p${i % 50}/,query ${i},1,20`);
  const sent = await request.post(`${HOME}/api/v1/sites/${id}/imports`, {
    data: lines.join('\n'),
    headers: { 'Content-Type': 'text/csv' },
  });
  const importUrl = `${HOME}/api/v1/imports/${((await sent.json()) as { id: number }).id}`;
  await expect
    .poll(async () => ((await (await request.get(importUrl)).json()) as { rowsRead: number }).rowsRead)
    .toBeGreaterThan(0);
  await stop('SIGKILL');

  // Nothing half-done counts.
  const db = new Database(path.join(dir, 'tally.sqlite'), { readonly: true });
  const done = "SELECT count(*) AS n FROM import WHERE state = 'done'";
  expect(db.prepare(done).get()).toEqual({ n: 0 });
  expect(db.prepare('SELECT count(*) AS n FROM page').get()).toEqual({ n: 0 });
  db.close();
  await run('build/server.mjs', ANSWERS);
  expect(await importDone(request, importUrl)).toMatchObject({
    state: 'done',
    rowsRead: 500_000,
    rowsStored: 500_000,
  });
});

test('the demo is made once, and never anew over entries of one’s own', async () => {
  expect((await run('build/demo.mjs')).printed).toMatch(/Making the made-up site/);
  expect(await run('build/demo.mjs')).toEqual({ printed: '', code: 0 });
  const db = new Database(path.join(dir, 'tally.sqlite'));
  db.exec(
    "UPDATE import_day SET day = day - 1000; INSERT INTO event (id, site_id, name, kind, first_day, last_day, created_at) VALUES (99, 1, 'Mine', 'other', 1, 1, 'now')",
  );
  db.close();
  expect((await run('build/demo.mjs')).printed).toMatch(/entries of your own, so it stays as it is/);
  expect(existsSync(path.join(dir, 'tally.sqlite'))).toBe(true);
});

test('a backup is made by itself every day, its health is told, and a broken database leads to the newest', async ({
  request,
}) => {
  const kept = path.join(dir, 'kept');
  const over = { TALLY_BACKUPS: kept };
  await run('build/server.mjs', ANSWERS, over);
  const site = { name: 'Quillow Bee Yard', address: 'https://www.quillow-bees.example' };
  expect((await request.post(`${HOME}/api/v1/sites`, { data: site })).status()).toBe(201);
  const health = async () => (await request.get(`${HOME}/api/v1/health`)).json();
  await expect.poll(async () => (await health()).lastBackup.day).not.toBeNull();
  const told = await health();
  expect(told).toMatchObject({
    ...{ status: 'ok', database: 'writable', lastFeed: { fetchedAt: null, failing: 0 } },
    ...{ queue: { imports: 0, sites: 0 }, lastBackup: { failure: null, off: false } },
  });
  const [name] = readdirSync(kept);
  expect(name).toBe(`tally-${told.lastBackup.day}.zip`);
  await stop('SIGTERM');
  truncateSync(path.join(dir, 'tally.sqlite'), 5000);
  const broken = await run('build/server.mjs', ANSWERS, over);
  expect(broken.code).toBe(1);
  expect(broken.printed).toContain(`The newest backup is ${path.join(kept, name!)}.`);
  expect((await run('build/server.mjs', ANSWERS, { TALLY_BACKUPS_KEPT: 'many' })).printed).toContain(
    'TALLY_BACKUPS_KEPT says how many days',
  );
  const back = await run('build/restore.mjs', undefined, {}, [path.join(kept, name!)]);
  expect(back.code).toBe(0);
  await run('build/server.mjs', ANSWERS);
  expect(await health()).toMatchObject({ lastBackup: { day: null, off: true } });
});
