import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import Database from 'better-sqlite3';
import { OwnServer } from '../e2e/ownServer';
import { dailyCsv, expect, test } from '../e2e/support';

/*
 * The server is killed at any moment while several log and import, and its folder is lost. What was answered with a number is there
 * afterwards. `TALLY_KILLS=200` kills it so often instead of a few times.
 */

const KILLS = Number(process.env.TALLY_KILLS ?? 3);
const LOST_FOLDERS = Number(process.env.TALLY_LOST_FOLDERS ?? 1);
const server = new OwnServer('3457');
const { home } = server;

/** Removes a folder, also one that something wrote to a moment ago. */
const FOR_GOOD = { recursive: true, force: true, maxRetries: 20, retryDelay: 100 };
/** Kills the copying program of a server that was killed; one left behind writes for a while. */
const killCopying = () => spawnSync('pkill', ['-KILL', '-f', `${server.dir}/replica.json`]);

test.beforeEach(() => server.begin());
test.afterEach(() => server.end());

/** What was answered, with when. */
type Acknowledged = { readonly at: number; readonly id: number };

/** Logs changes and sends files one after the other until it is told to end or the server dies. */
class Load {
  readonly changes: Acknowledged[] = [];
  readonly files: Acknowledged[] = [];
  private going = true;
  private ended: Promise<unknown> = Promise.resolve();
  private files_ = 0;

  private async ask(at: string, body: string, type: string): Promise<number | null> {
    try {
      const answer = await fetch(`${home}/api/v1${at}`, {
        method: 'POST',
        headers: { 'Content-Type': type },
        body,
      });
      return answer.ok ? ((await answer.json()) as { id: number }).id : null;
    } catch {
      return null;
    }
  }

  begin(round: number): void {
    this.going = true;
    const repeat = async (work: (n: number) => Promise<void>) => {
      for (let n = 0; this.going; n++) await work(n);
    };
    const log = (who: number) =>
      repeat(async (n) => {
        const change = {
          title: `${round}/${who}/${n}`,
          kind: 'other',
          day: '2026-09-14',
          pages: [`/p${n % 7}`],
        };
        const id = await this.ask('/sites/1/changes', JSON.stringify(change), 'application/json');
        if (id !== null) this.changes.push({ at: Date.now(), id });
        else await sleep(5);
      });
    const bring = repeat(async (n) => {
      const csv = dailyCsv(`/r${round}-${n}`, '2026-06-01', 30, '2026-06-10', [3, 5]);
      const id = await this.ask(`/sites/1/imports?fileName=${round}-${n}.csv`, csv, 'text/csv');
      if (id !== null) this.files.push({ at: Date.now(), id });
      await sleep(id === null ? 5 : 150);
    });
    this.ended = Promise.all([log(0), log(1), log(2), bring]);
  }

  async end(): Promise<void> {
    this.going = false;
    await this.ended;
  }
}

/** A database read by nobody else now; nothing of it is broken. */
function opened<T>(dir: string, read: (db: Database.Database) => T): T {
  const db = new Database(path.join(dir, 'tally.sqlite'));
  try {
    expect(db.pragma('integrity_check', { simple: true })).toBe('ok');
    return read(db);
  } finally {
    db.close();
  }
}
const idsIn = (db: Database.Database, table: string) =>
  new Set(db.prepare<[], number>(`SELECT id FROM "${table}"`).pluck().all());

async function addSite(): Promise<void> {
  await fetch(`${home}/api/v1/sites`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ name: 'Quillow Bee Yard', address: 'https://www.quillow-bees.example' }),
  });
}

test('killed at any moment under load, it loses nothing that was acknowledged', async () => {
  test.setTimeout(240_000 + KILLS * 20_000);
  await server.run('build/server.mjs', server.answers);
  await addSite();
  const load = new Load();
  // A backup that is made under the same load is whole, and has all that was acknowledged before it began.
  load.begin(-1);
  await expect.poll(() => load.changes.length).toBeGreaterThan(3);
  const before = load.changes.map(({ id }) => id);
  const running = server.running;
  const file = `${server.dir}-under-load.zip`;
  expect((await server.run('build/backup.mjs', undefined, {}, [file])).printed).toContain('checked');
  server.running = running;
  await load.end();
  for (let round = 0; round < KILLS; round++) {
    load.begin(round);
    await sleep(60 + Math.random() * 1200);
    await server.stop('SIGKILL');
    await load.end();
    opened(server.dir, (db) => {
      const there = idsIn(db, 'change');
      expect(load.changes.filter(({ id }) => !there.has(id))).toEqual([]);
    });
    await server.run('build/server.mjs', server.answers);
  }
  // Every file that was taken comes in, once, however often the server died under it.
  await expect
    .poll(
      async () =>
        ((await (await fetch(`${home}/api/v1/health`)).json()) as { queue: { imports: number } }).queue
          .imports,
      {
        timeout: 120_000 + KILLS * 3000,
      },
    )
    .toBe(0);
  await server.stop('SIGTERM');
  opened(server.dir, (db) => {
    const done = new Set(
      db.prepare<[], number>("SELECT id FROM import WHERE state = 'done' AND rows_stored = 30").pluck().all(),
    );
    expect(load.files.filter(({ id }) => !done.has(id))).toEqual([]);
    const there = idsIn(db, 'change');
    expect(load.changes.filter(({ id }) => !there.has(id))).toEqual([]);
  });
  const restored = mkdtempSync(path.join(tmpdir(), 'tally-restored-'));
  try {
    const { printed } = await server.run('build/restore.mjs', undefined, { TALLY_DATA_DIR: restored }, [
      file,
    ]);
    expect(printed).toContain('Restored as of');
    opened(restored, (db) => {
      const there = idsIn(db, 'change');
      expect(before.filter((id) => !there.has(id))).toEqual([]);
    });
  } finally {
    rmSync(restored, { recursive: true, force: true });
    rmSync(file, { force: true });
  }
  console.log(
    `${KILLS} kills; ${load.changes.length} changes and ${load.files.length} files acknowledged, all there.`,
  );
});

test('copied to another folder as it grows: killed, its folder lost, it comes back but for the last two seconds', async () => {
  test.skip(
    process.platform !== 'linux' || process.arch !== 'x64',
    'The copying program comes for Linux on x64.',
  );
  test.setTimeout(240_000 + LOST_FOLDERS * 60_000);
  const replica = mkdtempSync(path.join(tmpdir(), 'tally-replica-'));
  const told = { TALLY_REPLICA: replica };
  const load = new Load();
  try {
    await server.run('build/server.mjs', server.answers, told);
    await addSite();
    for (let round = 0; round < LOST_FOLDERS; round++) {
      load.begin(round);
      // Long enough that changes are due, however slow the machine is.
      const ready = load.changes.length + 12;
      await expect.poll(() => load.changes.length, { timeout: 120_000 }).toBeGreaterThan(ready);
      await sleep(2000 + Math.random() * 3000);
      const killed = Date.now();
      await server.stop('SIGKILL');
      // The copying program dies with it, and the whole folder is gone.
      killCopying();
      rmSync(server.dir, FOR_GOOD);
      await load.end();
      expect(readdirSync(replica).length).toBeGreaterThan(0);
      const { printed } = await server.run('build/server.mjs', server.answers, told);
      expect(printed).toContain('The database was fetched from its replica.');
      const { replica: state } = (await (await fetch(`${home}/api/v1/health`)).json()) as { replica: string };
      expect(state).toBe('running');
      const due = load.changes.filter(({ at }) => at < killed - 2000);
      expect(due.length).toBeGreaterThan(10);
      await server.stop('SIGTERM');
      opened(server.dir, (db) => {
        const there = idsIn(db, 'change');
        expect(due.filter(({ id }) => !there.has(id))).toEqual([]);
      });
      // What was lost of the last two seconds is no longer looked for.
      load.changes.splice(0, load.changes.length, ...due);
      await server.run('build/server.mjs', server.answers, told);
    }
  } finally {
    await server.stop('SIGTERM');
    killCopying();
    rmSync(replica, FOR_GOOD);
  }
  const wrong = await server.run('build/server.mjs', undefined, { TALLY_REPLICA: 'ftp://bees.example/x' });
  expect([wrong.code, wrong.printed]).toEqual([
    1,
    expect.stringContaining('TALLY_REPLICA is a folder or s3://'),
  ]);
});

test('a disk that fills in the middle of everything is said, and it goes on once there is room', async () => {
  test.skip(process.getuid?.() !== 0, 'Only root can make a small disk.');
  const small = mkdtempSync(path.join(tmpdir(), 'tally-small-'));
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=12m', 'tmpfs', small]);
  test.skip(mounted.status !== 0, 'No small disk can be made here.');
  const filler = path.join(small, 'filler');
  const load = new Load();
  const change = JSON.stringify({ title: 'T', kind: 'other', day: '2026-09-14', pages: ['/a'] });
  const log = () =>
    fetch(`${home}/api/v1/sites/1/changes`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: change,
    });
  try {
    await server.run('build/server.mjs', server.answers, { TALLY_DATA_DIR: small });
    await addSite();
    load.begin(0);
    await sleep(800);
    // As large as it gets: the next page that is written has no room.
    spawnSync('dd', ['if=/dev/zero', `of=${filler}`, 'bs=64k']);
    await expect.poll(async () => (await log()).status).toBe(503);
    const refused = await log();
    expect(((await refused.json()) as { detail: string }).detail).toContain('Nothing of this was saved');
    expect((await fetch(`${home}/api/v1/health`)).status).toBe(503);
    expect((await fetch(`${home}/api/v1/sites/1/changes`)).status).toBe(200);
    await sleep(500);
    rmSync(filler);
    await expect.poll(async () => (await log()).status).toBe(201);
    expect((await fetch(`${home}/api/v1/health`)).status).toBe(200);
    await load.end();
    await server.stop('SIGTERM');
    opened(small, (db) => {
      const there = idsIn(db, 'change');
      expect(load.changes.filter(({ id }) => !there.has(id))).toEqual([]);
    });
  } finally {
    await load.end();
    await server.stop('SIGKILL');
    spawnSync('umount', [small]);
    rmSync(small, { recursive: true, force: true });
  }
});
