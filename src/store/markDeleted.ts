import { getTableName } from 'drizzle-orm';
import type { SQLiteColumn, SQLiteTable } from 'drizzle-orm/sqlite-core';
import { prepared, type Db } from './database';
import { timestamp } from './write';

/** A table of things that can be deleted and put back; those of sites have a `site_id`. */
type Deletable = SQLiteTable & {
  readonly id: SQLiteColumn;
  readonly deletedAt: SQLiteColumn;
};

/**
 * Marks a thing as deleted, or as there again; of one site only where `siteId` says so. To be
 * called in a transaction.
 *
 * @returns whether this call did: deleting twice does not begin the days anew for which it can be
 *   put back
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
