import { getTableConfig, type SQLiteColumn } from 'drizzle-orm/sqlite-core';
import { getTableName } from 'drizzle-orm';
import type { Numbered } from '../../core/archive/numbering';
import { prepared, type Db } from '../database';
import { DELETED_KEPT_DAYS } from '../keptDays';
import { write } from '../write';
import { ARCHIVED, type ArchivedTable } from './tables';

/*
 * What was deleted goes for good once it cannot be put back any more. What belongs to a thing, and
 * what names it, follows from the description of the archive.
 */

const columnOf = ({ table }: ArchivedTable, key: string) =>
  (table as unknown as Record<string, SQLiteColumn>)[key]!;
const deletedAtOf = ({ table }: ArchivedTable) =>
  getTableConfig(table).columns.find(({ name }) => name === 'deleted_at');

/** The tables of things that can be deleted one by one. */
const TABLES = ARCHIVED.filter((one) => deletedAtOf(one) && one.numbers !== 'site');

/**
 * Changes that a sheet brought stay known: the sheet that is brought in again must not bring back
 * what was deleted, and undoing is undone with all of its changes.
 */
const onlyOf = ({ numbers }: ArchivedTable) => (numbers === 'change' ? ' AND import_id IS NULL' : '');

/** What was deleted longer ago than it can be put back: the table, and the number of the row. */
export function deletedForGood(db: Db, now = Date.now()): { table: ArchivedTable; id: number }[] {
  const until = new Date(now - DELETED_KEPT_DAYS * 86_400_000).toISOString();
  return TABLES.flatMap((table) => {
    const sql = `SELECT rowid FROM "${getTableName(table.table)}" WHERE deleted_at <= ?${onlyOf(table)}`;
    return prepared<[string], number>(db, sql)
      .pluck()
      .all(until)
      .map((id) => ({ table, id }));
  });
}

/** Removes it, a thing in a transaction. */
export async function purgeDeleted(db: Db, now = Date.now()): Promise<void> {
  for (const { table, id } of deletedForGood(db, now))
    await write(db, () => {
      if (table.numbers) removeAround(db, table.numbers, id);
      prepared(db, `DELETE FROM "${getTableName(table.table)}" WHERE rowid = ?`).run(id);
    });
}

/** Removes what belongs to a thing, and takes its number out of what names it. */
function removeAround(db: Db, kind: Numbered, id: number): void {
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
