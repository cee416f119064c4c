import { getTableConfig, type SQLiteColumn } from 'drizzle-orm/sqlite-core';
import { getTableName } from 'drizzle-orm';
import type { Numbered } from '../../core/archive/numbering';
import { prepared, type Db } from '../database';
import { DELETED_KEPT_DAYS } from '../keptDays';
import { write } from '../write';
import { ARCHIVED, type ArchivedTable } from './tables';

/*
 * Permanently removes what was deleted more than 30 days ago. Dependent rows and references follow
 * from the description of the archive.
 */

const columnOf = ({ table }: ArchivedTable, key: string) =>
  (table as unknown as Record<string, SQLiteColumn>)[key]!;
const deletedAtOf = ({ table }: ArchivedTable) =>
  getTableConfig(table).columns.find(({ name }) => name === 'deleted_at');

/** The tables of things that can be deleted one by one. */
const TABLES = ARCHIVED.filter((one) => deletedAtOf(one) && one.numbers !== 'site');

/**
 * Keeps imported changes: importing the sheet again must not bring back deleted ones, and undoing
 * an import can itself be undone.
 */
const onlyOf = ({ numbers }: ArchivedTable) => (numbers === 'change' ? ' AND import_id IS NULL' : '');

/** Rows deleted too long ago to be restored. */
export function expiredDeletions(db: Db, now = Date.now()): { table: ArchivedTable; id: number }[] {
  const until = new Date(now - DELETED_KEPT_DAYS * 86_400_000).toISOString();
  return TABLES.flatMap((table) => {
    const sql = `SELECT rowid FROM "${getTableName(table.table)}" WHERE deleted_at <= ?${onlyOf(table)}`;
    return prepared<[string], number>(db, sql)
      .pluck()
      .all(until)
      .map((id) => ({ table, id }));
  });
}

/** Removes the expired deletions, one transaction each. */
export async function purgeDeleted(db: Db, now = Date.now()): Promise<void> {
  for (const { table, id } of expiredDeletions(db, now))
    await write(db, () => {
      if (table.numbers) removeDependents(db, table.numbers, id);
      prepared(db, `DELETE FROM "${getTableName(table.table)}" WHERE rowid = ?`).run(id);
    });
}

/** Removes the rows that belong to a thing, and the references to it. */
function removeDependents(db: Db, kind: Numbered, id: number): void {
  for (const other of [...ARCHIVED].reverse()) {
    const name = getTableName(other.table);
    const [key, of] = other.of;
    if (of === kind && other.numbers !== kind)
      prepared(db, `DELETE FROM "${name}" WHERE "${columnOf(other, key).name}" = ?`).run(id);
    for (const [field, names] of Object.entries(other.names ?? {})) {
      if (names !== kind) continue;
      const column = columnOf(other, field);
      const sql = column.notNull
        ? `DELETE FROM "${name}" WHERE "${column.name}" = ?`
        : `UPDATE "${name}" SET "${column.name}" = NULL WHERE "${column.name}" = ?`;
      prepared(db, sql).run(id);
    }
  }
}
