import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import Database from 'better-sqlite3';
import { TempStore } from '../../tests/support/tempDb';
import { bringForward, connect } from './database';
import { DatabaseRefused } from './refused';
import { listSites } from './sites';
import { write } from './write';

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
});
afterEach(() => store.close());

/** The project's migrations with one more, as a later version of the program would have them. */
function laterMigrations(): string {
  const folder = mkdtempSync(path.join(tmpdir(), 'tally-migrations-'));
  cpSync('drizzle', folder, { recursive: true });
  const journalFile = path.join(folder, 'meta', '_journal.json');
  const journal = JSON.parse(readFileSync(journalFile, 'utf8')) as { entries: object[] };
  const when = Date.UTC(2100, 0, 1);
  journal.entries.push({ idx: 99, version: '6', when, tag: '0099_later', breakpoints: true });
  writeFileSync(journalFile, JSON.stringify(journal));
  writeFileSync(path.join(folder, '0099_later.sql'), 'ALTER TABLE site ADD COLUMN later text;');
  return folder;
}

test('a database of an older version is carried forward and keeps what it holds', async () => {
  await store.site();
  const migrations = laterMigrations();
  bringForward(store.db, migrations);
  expect(listSites(store.db)).toHaveLength(1);
  expect(store.rows('site')).toEqual([expect.objectContaining({ later: null })]);
  rmSync(migrations, { recursive: true });
});

test('a database of a newer version is refused in a sentence and left as it was', async () => {
  await store.site();
  const migrations = laterMigrations();
  bringForward(store.db, migrations);
  const before = JSON.stringify([store.rows('site'), store.rows('__drizzle_migrations')]);
  expect(() => bringForward(store.db)).toThrow(DatabaseRefused);
  expect(() => bringForward(store.db)).toThrow(/newer version of Modest Tally.*Nothing was changed/);
  expect(JSON.stringify([store.rows('site'), store.rows('__drizzle_migrations')])).toBe(before);
  rmSync(migrations, { recursive: true });
});

/** The migrations of the first versions alone. */
function firstMigrations(most: number): string {
  const folder = mkdtempSync(path.join(tmpdir(), 'tally-migrations-'));
  cpSync('drizzle', folder, { recursive: true });
  const journalFile = path.join(folder, 'meta', '_journal.json');
  const journal = JSON.parse(readFileSync(journalFile, 'utf8')) as { entries: object[] };
  writeFileSync(journalFile, JSON.stringify({ ...journal, entries: journal.entries.slice(0, most) }));
  return folder;
}

test.each([1, 2])('figures of the first %p migrations are not lost in silence', (most) => {
  const file = path.join(store.dir, 'first.sqlite');
  const migrations = firstMigrations(most);
  const first = connect(file);
  bringForward(first, migrations);
  first.$client.pragma('foreign_keys = OFF');
  const columns = first.$client.pragma('table_info(page_day)') as { name: string }[];
  const row = columns.map(() => 1);
  first.$client.prepare(`INSERT INTO page_day VALUES (${row.map(() => '?').join(', ')})`).run(row);
  const state = () => first.$client.prepare('SELECT * FROM page_day').all();
  const before = JSON.stringify(state());
  expect(() => bringForward(first)).toThrow(
    /holds 1 row of figures that this version cannot convert.*Nothing was changed/,
  );
  expect(JSON.stringify(state())).toBe(before);
  // Without any, it is carried forward like every other.
  first.$client.exec('DELETE FROM page_day');
  bringForward(first);
  expect(listSites(first)).toEqual([]);
  first.$client.close();
  rmSync(migrations, { recursive: true });
});

test('a database of another program is refused', () => {
  const file = path.join(store.dir, 'other.sqlite');
  const other = new Database(file);
  other.exec('CREATE TABLE recipes (name TEXT)');
  other.close();
  const db = connect(file);
  expect(() => bringForward(db)).toThrow(/another program/);
  db.$client.close();
});

test('bringing forward twice changes nothing', () => {
  const before = JSON.stringify(store.rows('sqlite_master'));
  bringForward(store.db);
  expect(JSON.stringify(store.rows('sqlite_master'))).toBe(before);
});

test('tables of pairs are clustered by their key', () => {
  const tables = store.db.$client
    .prepare<[], { name: string; wr: number }>('PRAGMA table_list')
    .all()
    .filter((table) => table.wr === 1)
    .map((table) => table.name);
  expect(tables).toEqual(expect.arrayContaining(['change_page', 'import_day', 'attribute']));
});

test('a folder that is missing is made', () => {
  const file = path.join(store.dir, 'deep', 'er', 'tally.sqlite');
  mkdirSync(path.join(store.dir, 'deep'));
  const db = connect(file);
  bringForward(db);
  expect(listSites(db)).toEqual([]);
  db.$client.close();
});

describe('write', () => {
  test('stores all or nothing', async () => {
    const failing = write(store.db, (db) => {
      db.$client.exec(
        "INSERT INTO site (name, address, window_days, settling_days, provisional_days, created_at) VALUES ('a', 'b', 28, 3, 3, 'now')",
      );
      throw new Error('no');
    });
    await expect(failing).rejects.toThrow('no');
    expect(store.rows('site')).toEqual([]);
  });

  test('waits for another writer without holding up the thread', async () => {
    const other = connect(store.file);
    let ticks = 0;
    const clock = setInterval(() => ticks++, 10);
    try {
      other.$client.exec('BEGIN IMMEDIATE');
      const writing = store.site();
      await new Promise((resolve) => setTimeout(resolve, 900));
      expect(ticks).toBeGreaterThan(2);
      other.$client.exec('COMMIT');
      await writing;
      expect(listSites(store.db)).toHaveLength(1);
    } finally {
      clearInterval(clock);
      other.$client.close();
    }
  });
});
