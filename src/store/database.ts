import { existsSync, mkdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import Database from 'better-sqlite3';
import { drizzle, type BetterSQLite3Database } from 'drizzle-orm/better-sqlite3';
import { migrate } from 'drizzle-orm/better-sqlite3/migrator';
import { plural } from '../core/words/format';
import { databaseFile } from './paths';
import { asRefusal, DatabaseRefused } from './refused';
import * as schema from './schema';

/** A connection with the query builder on top; `$client` is the plain connection. */
export type Db = BetterSQLite3Database<typeof schema> & { $client: Database.Database };

/** Folder of migrations, in the project's root, from which the program is always started. */
const MIGRATIONS = path.resolve('drizzle');

/**
 * Opens a connection without touching the schema, creating folder and file if missing. Commits are
 * flushed to disk, unless `canBeRepeated` says that the work can be redone, like an import.
 */
export function connect(file: string, { canBeRepeated = false } = {}): Db {
  mkdirSync(path.dirname(file), { recursive: true, mode: 0o700 });
  const client = new Database(file);
  // Of an empty file only: what folding sets free is given back in small parts.
  client.pragma('auto_vacuum = INCREMENTAL');
  client.pragma('journal_mode = WAL');
  client.pragma(`synchronous = ${canBeRepeated ? 'NORMAL' : 'FULL'}`);
  client.pragma('foreign_keys = ON');
  // Writers wait in `write` without blocking the thread; this covers only the short locks of WAL.
  client.pragma('busy_timeout = 200');
  // Who writes little reads through the cache of the system, which all connections share.
  client.pragma(`cache_size = -${canBeRepeated ? 65536 : 8192}`);
  return drizzle(client, { schema }) as Db;
}

/**
 * Migrates a database to this version of the program; one of a newer version is refused. Throws
 * DatabaseRefused; the file is then unchanged.
 */
export function bringForward(db: Db, migrations = MIGRATIONS): void {
  const known = newestKnownMigration(migrations);
  const has = newestAppliedMigration(db);
  if (has > known) {
    throw new DatabaseRefused(
      `The database ${db.$client.name} was written by a newer version of Modest Tally. Update the program, or name another folder in TALLY_DATA_DIR. Nothing was changed.`,
    );
  }
  refuseFirstFigures(db);
  try {
    migrate(db, { migrationsFolder: migrations });
  } catch (error) {
    throw asRefusal(error, `The database ${db.$client.name}`);
  }
}

/** Tables in which the first versions kept figures, a row a day; a later migration drops them. */
const FIRST_FIGURES = ['page_day', 'page_query_day'];

/**
 * Throws DatabaseRefused where a database of one of the first versions holds figures, which would
 * be lost.
 */
function refuseFirstFigures(db: Db): void {
  const tables = db.$client
    .prepare<[string], string>(
      `SELECT name FROM sqlite_master WHERE type = 'table' AND name IN (SELECT value FROM json_each(?))`,
    )
    .pluck()
    .all(JSON.stringify(FIRST_FIGURES));
  const rows = tables.reduce(
    (sum, name) => sum + db.$client.prepare<[], number>(`SELECT count(*) FROM "${name}"`).pluck().get()!,
    0,
  );
  if (rows > 0)
    throw new DatabaseRefused(
      `The database ${db.$client.name} was made by an early version and holds ${plural(rows, 'row')} of figures that this version cannot convert. Keep the file, set TALLY_DATA_DIR to another folder, and import the figures again there. Nothing was changed.`,
    );
}

/** Time of the newest migration this version knows. Throws DatabaseRefused if there are none. */
export function newestKnownMigration(folder = MIGRATIONS): number {
  const journal = path.join(folder, 'meta', '_journal.json');
  if (!existsSync(journal)) throw new DatabaseRefused(`The folder of migrations is missing: ${folder}.`);
  const { entries } = JSON.parse(readFileSync(journal, 'utf8')) as { entries: { when: number }[] };
  return Math.max(0, ...entries.map((entry) => entry.when));
}

/** Time of the newest migration in this database, 0 for an empty one. Refuses other files. */
function newestAppliedMigration(db: Db): number {
  const tables = db.$client
    .prepare<[], { name: string }>(
      `SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'`,
    )
    .all();
  if (tables.length === 0) return 0;
  if (!tables.some((t) => t.name === '__drizzle_migrations')) {
    throw new DatabaseRefused(
      `The file ${db.$client.name} is a database of another program. Nothing was changed.`,
    );
  }
  const row = db.$client
    .prepare<[], { newest: number | null }>('SELECT max(created_at) AS newest FROM __drizzle_migrations')
    .get();
  return Number(row?.newest ?? 0);
}

const statements = new WeakMap<Database.Database, Map<string, Database.Statement>>();

/** The compiled form of a statement that is asked often, compiled once a connection. */
export function prepared<Parameters extends unknown[], Row>(
  db: Db,
  sql: string,
): Database.Statement<Parameters, Row> {
  const known = statements.get(db.$client) ?? new Map<string, Database.Statement>();
  statements.set(db.$client, known);
  const statement = known.get(sql) ?? db.$client.prepare(sql);
  known.set(sql, statement);
  return statement as unknown as Database.Statement<Parameters, Row>;
}

// Bundles and reloads may load this module several times in a process; the connection is global.
const shared = globalThis as { __tallyDb?: Db };

/** The connection of this process, opened on first call. The schema was migrated at start. */
export function database(): Db {
  shared.__tallyDb ??= connect(databaseFile());
  return shared.__tallyDb;
}

/**
 * Closes the connection of this process. If no other connection is open, the write-ahead log is
 * copied into the database file and removed.
 */
export function closeDatabase(): void {
  const db = shared.__tallyDb?.$client;
  shared.__tallyDb = undefined;
  if (!db?.open) return;
  db.pragma('wal_checkpoint(TRUNCATE)');
  db.close();
}

/** Begins one long read: what others write from here on is not seen over this connection. */
export function beginReading(db: Db): void {
  db.$client.exec('BEGIN');
}

/** Copies the write-ahead log into the database as far as no reader still needs it. */
export function checkpoint(db: Db, mode: 'PASSIVE' | 'TRUNCATE' = 'PASSIVE'): void {
  db.$client.pragma(`wal_checkpoint(${mode})`);
}

/** How many pages of its log make a connection checkpoint by itself; 0 for never. */
export function checkpointEvery(db: Db, pages: number): void {
  db.$client.pragma(`wal_autocheckpoint = ${pages}`);
}

/** The database file of a connection. */
export const fileOf = (db: Db): string => db.$client.name;

/** An object that stands for a connection, the same for every wrapper around it. */
export const connectionKey = (db: Db): object => db.$client;

/** Closes a connection. */
export function disconnect(db: Db): void {
  db.$client.close();
}
