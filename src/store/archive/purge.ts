import { setTimeout as pause } from 'node:timers/promises';
import { getTableName } from 'drizzle-orm';
import { prepared, type Db } from '../database';
import { write } from '../write';
import { belongs } from './contents';
import { ARCHIVED, OPENS_A_SITE } from './tables';

/** Rows that go in one transaction. */
const ROWS_AT_ONCE = 5000;
const PAUSE_MS = 5;

/**
 * Removes all of a site, a part at a time so that others get their turn; the site itself goes last. It must be hidden already: one
 * that dies in the middle is gone on with at the next start.
 */
export async function purgeSite(db: Db, siteId: number): Promise<void> {
  const own = (column: string, table: string) => `${column} IN (SELECT id FROM ${table} WHERE site_id = ?)`;
  await purgeRows(db, 'figures', own('t.import_id', '"import"'), siteId);
  await purgeRows(db, 'page_series', own('t.page_id', 'page'), siteId);
  for (const table of OPENS_A_SITE) await purgeRows(db, getTableName(table), 't.site_id = ?', siteId);
  // What names something goes before what it names.
  for (const table of [...ARCHIVED].reverse())
    await purgeRows(db, getTableName(table.table), belongs({ ...table, only: undefined }, true), siteId);
}

async function purgeRows(db: Db, table: string, condition: string, siteId: number): Promise<void> {
  // Tables without numbers of their own rows are small.
  const rowids = hasRowid(db, table);
  const sql = rowids
    ? `DELETE FROM "${table}" WHERE rowid IN (SELECT t.rowid FROM "${table}" t WHERE ${condition} LIMIT ${ROWS_AT_ONCE})`
    : `DELETE FROM "${table}" AS t WHERE ${condition}`;
  for (;;) {
    const { changes } = await write(db, () => prepared<[number], never>(db, sql).run(siteId));
    if (!rowids || changes < ROWS_AT_ONCE) return;
    await pause(PAUSE_MS);
  }
}

function hasRowid(db: Db, table: string): boolean {
  return (
    prepared<[string], number>(db, 'SELECT wr FROM pragma_table_list WHERE name = ?').pluck().get(table) === 0
  );
}
