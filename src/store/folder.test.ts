import { fork } from 'node:child_process';
import {
  chmodSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import Database from 'better-sqlite3';
import { bringForward, connect } from './database';
import { checkDatabaseFile, takeFolder } from './folder';
import { databaseFile } from './paths';
import { asRefusal, DatabaseRefused } from './refused';

let dir: string;
beforeEach(() => {
  dir = mkdtempSync(path.join(tmpdir(), 'tally-folder-'));
});
afterEach(() => rmSync(dir, { recursive: true, force: true }));

/** A database of this program with some pages of content. */
function made(): string {
  const file = databaseFile(dir);
  const db = connect(file);
  bringForward(db);
  db.$client.exec(
    "CREATE TABLE filler AS SELECT value, hex(randomblob(400)) AS text FROM json_each('[1,2,3,4,5,6,7,8,9]')",
  );
  db.$client.close();
  return file;
}
const bytesOf = (file: string) => readFileSync(file).toString('base64');

describe('a folder of data', () => {
  test('is the owner’s alone, and so is what is made in it', () => {
    const inner = path.join(dir, 'own');
    const folder = takeFolder(inner, 'a test');
    try {
      connect(databaseFile(inner)).$client.close();
      const modes = [inner, databaseFile(inner), path.join(inner, 'lock.json')].map(
        (one) => statSync(one).mode & 0o777,
      );
      expect(modes).toEqual([0o700, 0o600, 0o600]);
    } finally {
      folder.release();
    }
  });

  test('one made for everybody by an earlier version becomes the owner’s alone', () => {
    const file = made();
    chmodSync(dir, 0o755);
    chmodSync(file, 0o644);
    takeFolder(dir, 'a test').release();
    expect([dir, file].map((one) => statSync(one).mode & 0o777)).toEqual([0o700, 0o600]);
  });

  test('is taken by one process at a time, and the second is told by whom', () => {
    const folder = takeFolder(dir, 'serving on port 3000');
    expect(() => takeFolder(dir, 'another')).toThrow(
      new RegExp(`in use by Modest Tally already \\(process ${process.pid}, serving on port 3000, since 20`),
    );
    folder.release();
    takeFolder(dir, 'another').release();
  });

  test('a killed process leaves no lock behind', async () => {
    const code = `const Database = require('better-sqlite3');
      new Database(process.argv[1], { timeout: 0 }).exec('BEGIN EXCLUSIVE');
      process.send('held'); setInterval(() => {}, 1000);`;
    const file = path.join(dir, 'holder.cjs');
    writeFileSync(
      file,
      code
        .replace('process.argv[1]', 'process.argv[2]')
        .replace("'better-sqlite3'", JSON.stringify(path.resolve('node_modules/better-sqlite3'))),
    );
    const other = fork(file, [path.join(dir, 'lock')]);
    await new Promise((resolve) => other.once('message', resolve));
    expect(() => takeFolder(dir, 'a test')).toThrow(/in use by Modest Tally already/);
    const gone = new Promise((resolve) => other.once('exit', resolve));
    other.kill('SIGKILL');
    await gone;
    takeFolder(dir, 'a test').release();
  });

  test('a file in its place is named, and not touched', () => {
    const file = path.join(dir, 'file');
    writeFileSync(file, 'recipes');
    for (const place of [file, path.join(file, 'deeper')])
      expect(() => takeFolder(place, 'a test')).toThrow(
        /cannot be the folder of the data: a file stands in its place/,
      );
    expect(readFileSync(file, 'utf8')).toBe('recipes');
  });

  test.each([
    ['EACCES', /This user may not read and write The folder \/x/],
    ['EROFS', /The folder \/x can only be read/],
    ['ENOSPC', /The folder \/x: there is no room left/],
  ])('what the system says with %s becomes a sentence', (code, why) => {
    const said = asRefusal(Object.assign(new Error(), { code }), 'The folder /x');
    expect(said).toBeInstanceOf(DatabaseRefused);
    expect((said as Error).message).toMatch(why);
  });
});

describe('a database file', () => {
  test('of this program passes, open or closed, and so does none', () => {
    const file = databaseFile(dir);
    expect(() => checkDatabaseFile(file)).not.toThrow();
    made();
    const before = readdirSync(dir);
    checkDatabaseFile(file);
    expect(readdirSync(dir)).toEqual(before);
    const open = connect(file);
    open.$client.exec("INSERT INTO filler VALUES (10, 'x')");
    checkDatabaseFile(file);
    open.$client.close();
  });

  const breakings: [string, (file: string) => void, RegExp][] = [
    ['empty', (file) => truncateSync(file, 0), /damaged: it is empty/],
    ['something else', (file) => writeFileSync(file, 'date,page\n'.repeat(100)), /is no database of SQLite/],
    ['cut off', (file) => truncateSync(file, statSync(file).size - 4096), /damaged: it ends too early/],
    [
      'overwritten in the middle',
      (file) => {
        const bytes = readFileSync(file);
        bytes.fill(0x5a, 4096, bytes.length - 4096);
        writeFileSync(file, bytes);
      },
      /damaged/,
    ],
    [
      'one of another program',
      (file) => {
        rmSync(file);
        const db = new Database(file);
        db.exec('CREATE TABLE recipes (name TEXT)');
        db.close();
      },
      /database of another program/,
    ],
    [
      'a folder',
      (file) => {
        rmSync(file);
        mkdirSync(file);
      },
      /should be the database, and is a folder/,
    ],
    [
      'gone, with a log beside it',
      (file) => {
        rmSync(file);
        writeFileSync(`${file}-wal`, 'x');
      },
      /is gone, but what was written to it last lies beside it/,
    ],
  ];
  test.each(breakings)('%s is refused in a sentence, and nothing is written', (_name, breakIt, why) => {
    const file = made();
    breakIt(file);
    const isFile = () => readdirSync(dir).includes('tally.sqlite') && statSync(file).isFile();
    const before = [readdirSync(dir), isFile() && bytesOf(file)];
    expect(() => checkDatabaseFile(file)).toThrow(DatabaseRefused);
    expect(() => checkDatabaseFile(file)).toThrow(why);
    expect([readdirSync(dir), isFile() && bytesOf(file)]).toEqual(before);
  });

  test('a disk that is full is said to be so', () => {
    const file = made();
    const db = connect(file);
    // SQLite's own way of meeting a full disk.
    db.$client.pragma(`max_page_count = ${Number(db.$client.pragma('page_count', { simple: true }))}`);
    let thrown: unknown;
    try {
      db.$client.exec('CREATE TABLE more AS SELECT hex(randomblob(90000)) AS text');
    } catch (error) {
      thrown = asRefusal(error, `The database ${file}`);
    }
    db.$client.close();
    expect(thrown).toBeInstanceOf(DatabaseRefused);
    expect((thrown as Error).message).toMatch(/no room left on the disk/);
  });

  test('errors of another kind stay what they are', () => {
    const error = new Error('a slip');
    expect(asRefusal(error, 'x')).toBe(error);
  });
});
