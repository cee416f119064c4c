import { createHash } from 'node:crypto';
import {
  cpSync,
  createReadStream,
  createWriteStream,
  existsSync,
  linkSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs';
import path from 'node:path';
import { finished, pipeline } from 'node:stream/promises';
import Database from 'better-sqlite3';
import yauzl from 'yauzl';
import yazl from 'yazl';
import { z } from 'zod';
import { checkDatabaseFile, BESIDE_DATABASE, RESTORING } from './folder';
import { databaseFile } from './paths';
import { DatabaseRefused } from './refused';

/*
 * A backup is a ZIP file: the database as of one moment, files waiting for import, the demo’s
 * outside world, and a manifest with sizes and checksums.
 */

const FORMAT = 1;
const MANIFEST = 'manifest.json';
const DATABASE = 'tally.sqlite';
/** Folders that belong to the data besides the database. */
const FOLDERS = ['uploads', 'outside'] as const;

const manifestSchema = z.object({
  format: z.int(),
  madeAt: z.string(),
  counts: z.record(z.string(), z.int()),
  files: z.array(z.object({ name: z.string(), bytes: z.int(), sha256: z.string() })),
});
export type BackupManifest = z.infer<typeof manifestSchema>;

/** Tables whose numbers of rows are said, so that a person sees what is in a backup. */
const COUNTED = ['site', 'change', 'event', 'import', 'feed', 'page', 'figures', 'snapshot'] as const;

function countsOf(file: string): Record<string, number> {
  const db = new Database(file, { readonly: true });
  try {
    const [first] = db.pragma('integrity_check(1)') as { integrity_check: string }[];
    if (first?.integrity_check !== 'ok')
      throw new DatabaseRefused(`The copy in the backup is damaged: ${first?.integrity_check}.`);
    const there = new Set(
      db.prepare<[], string>("SELECT name FROM sqlite_master WHERE type = 'table'").pluck().all(),
    );
    return Object.fromEntries(
      COUNTED.filter((table) => there.has(table)).map((table) => [
        table,
        db.prepare<[], number>(`SELECT count(*) FROM ${table}`).pluck().get()!,
      ]),
    );
  } finally {
    db.close();
  }
}

/** The numbers of the imports whose files a database waits for. */
function awaited(file: string): Set<string> {
  const db = new Database(file, { readonly: true });
  try {
    const ids = db
      .prepare<[], number>("SELECT id FROM import WHERE state IN ('draft', 'queued', 'running')")
      .pluck()
      .all();
    return new Set(ids.map(String));
  } finally {
    db.close();
  }
}

/**
 * Links a file under another name, so that its bytes survive; copies it if links aren’t possible.
 */
function hold(from: string, to: string): void {
  if (existsSync(to)) return;
  mkdirSync(path.dirname(to), { recursive: true });
  try {
    linkSync(from, to);
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code === 'ENOENT') return;
    cpSync(from, to);
  }
}

function filesBelow(dir: string, base = dir): string[] {
  if (!existsSync(dir)) return [];
  return readdirSync(dir, { withFileTypes: true }).flatMap((entry) => {
    const full = path.join(dir, entry.name);
    if (entry.isDirectory()) return filesBelow(full, base);
    return entry.isFile() ? [path.relative(base, full)] : [];
  });
}

/**
 * Writes a backup of a data folder, which may be in use. The file is written beside its target and
 * moved there when complete. Throws DatabaseRefused if there is nothing to back up, or the copy is
 * damaged.
 */
export async function makeBackup(dir: string, target: string): Promise<BackupManifest> {
  const source = databaseFile(dir);
  if (!existsSync(source))
    throw new DatabaseRefused(
      `There is no database in ${dir}. Name the folder of the data in TALLY_DATA_DIR.`,
    );
  mkdirSync(path.dirname(target), { recursive: true });
  dropStale(dir, 'backup-');
  // Beside the data, since files can be linked only within one file system.
  const staging = mkdtempSync(path.join(dir, 'backup-'));
  const unfinished = `${target}.part`;
  try {
    await copyDatabase(dir, staging);
    const names = filesBelow(staging).sort();
    const files = await Promise.all(
      names.map(async (name) => ({
        name: name.split(path.sep).join('/'),
        ...(await sealOf(path.join(staging, name))),
      })),
    );
    const counts = countsOf(path.join(staging, DATABASE));
    const manifest: BackupManifest = { format: FORMAT, madeAt: new Date().toISOString(), counts, files };
    const zip = new yazl.ZipFile();
    for (const { name } of files) zip.addFile(path.join(staging, name), name);
    zip.addBuffer(Buffer.from(JSON.stringify(manifest, null, 1)), MANIFEST);
    const out = createWriteStream(unfinished, { mode: 0o600, flush: true });
    zip.outputStream.pipe(out);
    zip.end();
    await finished(out);
    renameSync(unfinished, target);
    return manifest;
  } finally {
    rmSync(staging, { recursive: true, force: true });
    rmSync(unfinished, { force: true });
  }
}

const STALE_MS = 24 * 3600 * 1000;

/** Drops what a backup that was killed has left behind. */
function dropStale(dir: string, prefix: string): void {
  for (const name of readdirSync(dir).filter((one) => one.startsWith(prefix)))
    if (Date.now() - statSync(path.join(dir, name)).mtimeMs > STALE_MS)
      rmSync(path.join(dir, name), { recursive: true, force: true });
}

/** Copies the database by SQLite’s online backup, with the files it waits for at that moment. */
async function copyDatabase(dir: string, staging: string): Promise<void> {
  const copy = path.join(staging, DATABASE);
  const holdFolders = () => {
    for (const folder of FOLDERS)
      for (const name of filesBelow(path.join(/* turbopackIgnore: true */ dir, folder)))
        if (!name.endsWith('.part')) {
          const from = path.join(/* turbopackIgnore: true */ dir, folder, name);
          hold(from, path.join(/* turbopackIgnore: true */ staging, folder, name));
        }
  };
  // Before and after: whatever was there when the database was copied existed before, or exists
  // after.
  holdFolders();
  const db = new Database(databaseFile(dir), { fileMustExist: true });
  try {
    // All pages in one step, so that writers meanwhile do not make it begin again.
    await db.backup(copy, { progress: () => 0x7fff_ffff });
  } finally {
    db.close();
  }
  holdFolders();
  // A single file: with a write-ahead log, opening it would create others beside it.
  const single = new Database(copy);
  single.pragma('journal_mode = DELETE');
  single.close();
  const wanted = awaited(copy);
  for (const name of filesBelow(path.join(staging, 'uploads')))
    if (!/^(?:feed|site)-/.test(name) && !wanted.has(name.split('.', 1)[0]!))
      rmSync(path.join(staging, 'uploads', name));
}

async function sealOf(file: string): Promise<{ bytes: number; sha256: string }> {
  const hash = createHash('sha256');
  let bytes = 0;
  for await (const piece of createReadStream(file) as AsyncIterable<Buffer>) {
    hash.update(piece);
    bytes += piece.length;
  }
  return { bytes, sha256: hash.digest('hex') };
}

/**
 * Replaces a folder’s data with a backup. The old data is kept beside it, in a named folder. The
 * whole backup is checked before anything changes. Needs the folder for itself. Throws
 * DatabaseRefused.
 */
export async function restoreBackup(
  file: string,
  dir: string,
  newestKnown: number,
): Promise<{ readonly manifest: BackupManifest; readonly keptIn: string | null }> {
  if (!existsSync(file)) throw new DatabaseRefused(`There is no file ${file}.`);
  const staging = mkdtempSync(path.join(dir, RESTORING));
  try {
    const manifest = await unpacked(file, staging);
    const copy = path.join(staging, DATABASE);
    checkDatabaseFile(copy);
    refuseNewer(copy, newestKnown, file);
    countsOf(copy);
    const keptIn = setAside(dir);
    for (const name of [DATABASE, ...FOLDERS])
      if (existsSync(path.join(staging, name))) renameSync(path.join(staging, name), path.join(dir, name));
    for (const name of readdirSync(dir))
      if (name.startsWith(RESTORING)) rmSync(path.join(dir, name), { recursive: true, force: true });
    return { manifest, keptIn };
  } finally {
    rmSync(staging, { recursive: true, force: true });
  }
}

function refuseNewer(copy: string, newestKnown: number, file: string): void {
  const db = new Database(copy, { readonly: true });
  try {
    const newest = db
      .prepare<[], number | null>('SELECT max(created_at) FROM __drizzle_migrations')
      .pluck()
      .get();
    if (Number(newest ?? 0) > newestKnown)
      throw new DatabaseRefused(
        `The backup ${file} was made by a newer version of Modest Tally. Update the program first. Nothing was changed.`,
      );
  } finally {
    db.close();
  }
}

/** Moves what is there into a folder of its own; gives that, or null where nothing was there. */
function setAside(dir: string): string | null {
  const database = BESIDE_DATABASE.map((end) => DATABASE + end);
  const there = [DATABASE, ...database, ...FOLDERS].filter((name) => existsSync(path.join(dir, name)));
  if (there.length === 0) return null;
  const aside = path.join(dir, `replaced-${new Date().toISOString().replace(/\D/g, '').slice(0, 14)}`);
  mkdirSync(aside);
  for (const name of there) renameSync(path.join(dir, name), path.join(aside, name));
  return aside;
}

/** Unpacks a backup and holds every file against the manifest. Throws DatabaseRefused. */
async function unpacked(file: string, into: string): Promise<BackupManifest> {
  const broken = (why: string) =>
    new DatabaseRefused(`${file} is no whole backup: ${why}. Nothing was changed.`);
  let manifest: BackupManifest;
  try {
    await unzip(file, into);
    manifest = manifestSchema.parse(JSON.parse(readFileSync(path.join(into, MANIFEST), 'utf8')));
  } catch (error) {
    if (error instanceof DatabaseRefused) throw error;
    throw broken(
      error instanceof Error && !(error instanceof z.ZodError)
        ? error.message
        : 'its manifest cannot be read',
    );
  }
  if (manifest.format > FORMAT)
    throw new DatabaseRefused(
      `The backup ${file} was made by a newer version of Modest Tally. Update the program first. Nothing was changed.`,
    );
  for (const { name, bytes, sha256 } of manifest.files) {
    const at = path.join(into, name);
    const seal = existsSync(at) ? await sealOf(at) : null;
    if (!seal || seal.bytes !== bytes || seal.sha256 !== sha256)
      throw broken(`${name} in it is not what it was`);
  }
  if (!manifest.files.some(({ name }) => name === DATABASE)) throw broken('it holds no database');
  rmSync(path.join(into, MANIFEST));
  return manifest;
}

/** Names that a backup may hold; yauzl itself refuses those that lead out of the folder. */
const ALLOWED = new RegExp(`^(?:${MANIFEST}|${DATABASE}|(?:${FOLDERS.join('|')})/.+)$`);

async function unzip(file: string, into: string): Promise<void> {
  const zip = await yauzl.openPromise(file);
  for await (const entry of zip.eachEntry()) {
    if (!ALLOWED.test(entry.fileName)) throw new Error(`${entry.fileName} does not belong in it`);
    const target = path.join(into, entry.fileName);
    mkdirSync(path.dirname(target), { recursive: true });
    await pipeline(
      await zip.openReadStreamPromise(entry),
      createWriteStream(target, { mode: 0o600, flush: true }),
    );
  }
}
