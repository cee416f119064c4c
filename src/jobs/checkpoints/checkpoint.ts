import { statSync } from 'node:fs';
import { checkpoint as copyLog, fileOf, type Db } from '../../store/database';

/** A log of so many bytes is copied into the database. */
const LONG_BYTES = 4 * 1024 * 1024;

/** Copies a write-ahead log that has become long into the database, as far as nobody reads what it had before. Says whether it was long. */
export function checkpoint(db: Db): boolean {
  const { size } = statSync(`${fileOf(db)}-wal`, { throwIfNoEntry: false }) ?? { size: 0 };
  if (size < LONG_BYTES) return false;
  copyLog(db);
  return true;
}
