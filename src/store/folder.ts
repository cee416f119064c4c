import {
  chmodSync,
  closeSync,
  existsSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  readSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import Database from 'better-sqlite3';
import { z } from 'zod';
import { databaseFile } from './paths';
import { asRefusal, damaged, DatabaseRefused } from './refused';

/** Files that SQLite keeps beside a database. */
export const BESIDE_DATABASE = ['-wal', '-shm'] as const;

/** How a folder begins in which a backup is unpacked before it takes the place of the data. */
export const RESTORING = 'restore-';

/** A folder of data that this process has for itself. */
export type TakenFolder = { readonly release: () => void };

const holderSchema = z.object({ pid: z.int(), since: z.string(), use: z.string() });

/**
 * Locks a data folder for this process and restricts it to its owner, creating it if missing. The
 * lock is the operating system’s, so no ending process leaves one behind. Throws DatabaseRefused.
 *
 * @param use what for, shown to whoever is refused ("serving on port 3000")
 */
export function takeFolder(dir: string, use: string): TakenFolder {
  // From here on, all files that this process makes are its owner's alone.
  process.umask(0o077);
  prepareFolder(dir);
  const [lockFile, holderFile] = [path.join(dir, 'lock'), path.join(dir, 'lock.json')];
  let lock: Database.Database | null = null;
  try {
    lock = new Database(lockFile, { timeout: 0 });
    lock.exec('BEGIN EXCLUSIVE');
    const since = new Date().toISOString();
    writeFileSync(holderFile, JSON.stringify({ pid: process.pid, since, use }));
  } catch (error) {
    lock?.close();
    const code = (error as { code?: unknown }).code;
    if (code === 'SQLITE_BUSY') throw new DatabaseRefused(heldBy(dir, holderFile));
    throw asRefusal(error, `The folder ${dir}`);
  }
  const held = lock;
  return {
    release: () => {
      rmSync(holderFile, { force: true });
      held.close();
    },
  };
}

function heldBy(dir: string, holderFile: string): string {
  let holder: z.infer<typeof holderSchema> | null = null;
  try {
    holder = holderSchema.parse(JSON.parse(readFileSync(holderFile, 'utf8')));
  } catch {
    // It is being written just now, or somebody removed it; the lock stands all the same.
  }
  const who = holder
    ? `process ${holder.pid}, ${holder.use}, since ${holder.since.slice(0, 16).replace('T', ' ')} UTC`
    : 'another process';
  return `The folder ${dir} is in use by Modest Tally already (${who}). Stop that one first, or name another folder in TALLY_DATA_DIR.`;
}

function prepareFolder(dir: string): void {
  try {
    mkdirSync(dir, { recursive: true, mode: 0o700 });
    if (!statSync(dir).isDirectory()) throw Object.assign(new Error(), { code: 'ENOTDIR' });
    // A folder of data that an earlier version made for everybody.
    if (looksOwn(dir)) chmodSync(dir, 0o700);
    for (const name of ['tally.sqlite', ...BESIDE_DATABASE.map((end) => `tally.sqlite${end}`)]) {
      const file = path.join(dir, name);
      if (existsSync(file) && statSync(file).isFile()) chmodSync(file, 0o600);
    }
  } catch (error) {
    throw asRefusal(error, `The folder ${dir}`);
  }
}

/**
 * Whether a folder is a data folder, and not one named by mistake, whose permissions must not
 * change.
 */
function looksOwn(dir: string): boolean {
  return existsSync(databaseFile(dir)) || existsSync(path.join(dir, 'lock'));
}

const HEADER_BYTES = 100;
const MAGIC = 'SQLite format 3\0';

/**
 * Checks that a database file is this program’s and undamaged, without writing to it. A missing
 * file is fine: it is created. Throws DatabaseRefused.
 */
export function checkDatabaseFile(file: string): void {
  try {
    if (!existsSync(file)) {
      const folder = path.dirname(file);
      if (existsSync(folder) && readdirSync(folder).some((name) => name.startsWith(RESTORING)))
        throw new DatabaseRefused(
          `A backup was being put back into ${folder} when it was interrupted. Run npm run restore -- FILE once more. Nothing was changed.`,
        );
      if (existsSync(`${file}-wal`)) {
        throw new DatabaseRefused(
          `The database ${file} is gone, but what was written to it last lies beside it (${path.basename(file)}-wal). Put the database back, or take that file away to begin anew. Nothing was changed.`,
        );
      }
      return;
    }
    if (!statSync(file).isFile())
      throw new DatabaseRefused(
        `${file} should be the database, and is a folder. Move it away. Nothing was changed.`,
      );
    checkHeader(file);
    checkContent(file);
  } catch (error) {
    throw asRefusal(error, `The database ${file}`);
  }
}

/**
 * Checks the header (https://sqlite.org/fileformat2.html, part 1.3): the format name, and the file
 * size.
 */
function checkHeader(file: string): void {
  const header = Buffer.alloc(HEADER_BYTES);
  const opened = openSync(file, 'r');
  const read = readSync(opened, header, 0, HEADER_BYTES, 0);
  closeSync(opened);
  const size = statSync(file).size;
  if (size === 0) throw new DatabaseRefused(damaged(file, 'it is empty'));
  if (read < HEADER_BYTES || header.toString('latin1', 0, MAGIC.length) !== MAGIC)
    throw new DatabaseRefused(
      `The file ${file} is no database of SQLite. Move it away, or put a backup back with npm run restore -- FILE. Nothing was changed.`,
    );
  const stated = header.readUInt16BE(16);
  const pageBytes = stated === 1 ? 65_536 : stated;
  // The number of pages holds where it was written with the last change of the file.
  const sizeHolds = header.readUInt32BE(24) === header.readUInt32BE(92);
  if (sizeHolds && size < header.readUInt32BE(28) * pageBytes)
    throw new DatabaseRefused(damaged(file, 'it ends too early, as after a copy that was cut off'));
}

function checkContent(file: string): void {
  const beside = BESIDE_DATABASE.map((end) => file + end).filter(
    (name) => !existsSync(/* turbopackIgnore: true */ name),
  );
  const db = new Database(file, { readonly: true });
  try {
    const tables = db
      .prepare<[], string>(`SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'`)
      .pluck()
      .all();
    if (tables.length > 0 && !tables.includes('__drizzle_migrations'))
      throw new DatabaseRefused(`The file ${file} is a database of another program. Nothing was changed.`);
    const [first] = db.pragma('quick_check(1)') as { quick_check: string }[];
    if (first && first.quick_check !== 'ok')
      throw new DatabaseRefused(damaged(file, first.quick_check.replace(/\s+/g, ' ')));
  } finally {
    db.close();
    // Even to read, SQLite puts them there.
    for (const name of beside) rmSync(name, { force: true });
  }
}
