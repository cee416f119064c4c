import { getTableName } from 'drizzle-orm';
import type { SQLiteColumn, SQLiteTable } from 'drizzle-orm/sqlite-core';
import { prepared, type Db } from './database';
import { timestamp } from './write';

/** A table whose rows can be deleted and restored. */
type Deletable = SQLiteTable & {
  readonly id: SQLiteColumn;
  readonly deletedAt: SQLiteColumn;
};

/**
 * Marks a row as deleted, or restores it. Call it in a transaction.
 *
 * @param siteId the site the row must belong to; null for any
 * @returns whether the row changed. Deleting twice keeps the first deletion date.
 */
export function markDeleted(
  db: Db,
  table: Deletable,
  id: number,
  deleted: boolean,
  siteId: number | null = null,
): boolean {
  const ofSite = siteId === null ? '' : 'AND site_id = $siteId';
  const sql = `UPDATE "${getTableName(table)}" SET deleted_at = $at
    WHERE id = $id ${ofSite} AND deleted_at IS ${deleted ? '' : 'NOT'} NULL`;
  const at = deleted ? timestamp() : null;
  return prepared<[object], never>(db, sql).run({ id, at, ...(siteId !== null && { siteId }) }).changes > 0;
}
