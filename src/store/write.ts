import { setTimeout as pause } from 'node:timers/promises';
import { recordAudit } from './access/auditEntries';
import { auditContext } from './acting';
import { prepared, type Db } from './database';
import { onDisk } from './onDisk';

const GIVE_UP_AFTER_MS = 30_000;

/** By its code alone: the native module may throw errors of another realm than this one. */
export function isBusy(error: unknown): boolean {
  const code: unknown = typeof error === 'object' && error !== null && 'code' in error ? error.code : null;
  return typeof code === 'string' && code.startsWith('SQLITE_BUSY');
}

/**
 * Runs `work` as one transaction: all of it is stored or nothing.
 *
 * While another connection writes, the call waits without blocking the thread, and likewise for the
 * disk, so the server keeps answering. If a principal is acting, the same transaction records who it
 * was. What was computed from entries is discarded afterwards (see `entriesVersion`).
 */
export function write<T>(db: Db, work: (db: Db) => T): Promise<T> {
  return transact(db, () => countedUp(db, work));
}

/**
 * The same for figures and the records of imports, of which `figuresStamp` tells: what was computed
 * from entries stands.
 */
export function writeFigures<T>(db: Db, work: (db: Db) => T): Promise<T> {
  return transact(db, work);
}

/** Another number as soon as anything was written by `write`, over whichever connection. */
export function entriesVersion(db: Db): number {
  return prepared<[], number>(db, 'SELECT version FROM entries').pluck().get()!;
}

async function transact<T>(db: Db, work: (db: Db) => T): Promise<T> {
  const giveUp = Date.now() + GIVE_UP_AFTER_MS;
  for (;;) {
    try {
      const { result, flushed } = commit(db, () => noted(db, work));
      await flushed;
      return result;
    } catch (error) {
      if (!isBusy(error) || Date.now() > giveUp) throw error;
    }
    await pause(25);
  }
}

/** What `PRAGMA synchronous` says of a connection that waits for the disk at each commit. */
const FULL = 2;

/** Commits; where the connection would wait for the disk, that goes on beside and is still to be waited for. */
function commit<T>(db: Db, work: () => T): { result: T; flushed: Promise<void> | null } {
  const { $client } = db;
  const waits = !$client.inTransaction && $client.pragma('synchronous', { simple: true }) === FULL;
  if (!waits) return { result: $client.transaction(work).immediate(), flushed: null };
  $client.pragma('synchronous = NORMAL');
  try {
    const result = $client.transaction(work).immediate();
    return { result, flushed: onDisk(db) };
  } finally {
    $client.pragma('synchronous = FULL');
  }
}

/** Called first in a transaction that edits something; throws where the edit began from what does not hold any more. */
export type Guard = () => void;

/** The present instant as it is stored. */
export function timestamp(): string {
  return new Date().toISOString();
}

/** Runs the work, and counts the version of the entries up if it changed anything. */
function countedUp<T>(db: Db, work: (db: Db) => T): T {
  const before = changed(db);
  const result = work(db);
  if (changed(db) !== before) prepared(db, 'UPDATE entries SET version = version + 1').run();
  return result;
}

/** Runs the work, and notes once in a doing that something was changed by it. */
function noted<T>(db: Db, work: (db: Db) => T): T {
  const doing = auditContext();
  if (!doing || doing.noted) return work(db);
  const before = changed(db);
  const result = work(db);
  if (changed(db) === before) return result;
  recordAudit(db, doing);
  doing.noted = true;
  return result;
}

const changed = (db: Db) => prepared<[], number>(db, 'SELECT total_changes()').pluck().get()!;
