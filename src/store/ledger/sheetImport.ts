import type { SheetChange } from '../../core/intake/ledgerRows';
import type { Site } from '../../core/model/site';
import { prepared, type Db } from '../database';
import { timestamp, write } from '../write';
import { insertChange } from './changes';

/** Rows of a sheet that could not be read, as of figures. */
type Refused = { readonly line: number; readonly message: string; readonly cells: readonly string[] };

/** Keys of all rows that counting files brought as changes. Deleted changes don’t come back. */
export function knownRowKeys(db: Db, siteId: number): Set<string> {
  const rows = prepared<[number], string>(
    db,
    `SELECT c.import_key FROM change c JOIN import i ON i.id = c.import_id
     WHERE c.site_id = ? AND c.import_key IS NOT NULL AND i.state = 'done'`,
  )
    .pluck()
    .all(siteId);
  return new Set(rows.flatMap((keys) => keys.split(' ')));
}

/**
 * Stores the changes of a sheet and marks its import done, in one transaction. Throws InputError.
 */
export async function storeSheet(
  db: Db,
  site: Site,
  importId: number,
  changes: readonly SheetChange[],
  counts: { readonly read: number; readonly repeated: number },
  refused: readonly Refused[],
): Promise<void> {
  await write(db, () => {
    for (const { change, keys } of changes)
      insertChange(db, site, change, { importId, importKey: keys.join(' ') });
    const keep = prepared(
      db,
      'INSERT INTO import_problem (import_id, line, message, cells) VALUES (?, ?, ?, ?)',
    );
    for (const { line, message, cells } of refused) keep.run(importId, line, message, JSON.stringify(cells));
    prepared(
      db,
      `UPDATE import SET state = 'done', bytes_read = bytes_total, rows_read = ?, rows_stored = ?, rows_repeated = ?,
         rows_refused = ?, finished_at = ?, layer = (SELECT coalesce(max(layer), 0) + 1 FROM import)
       WHERE id = ?`,
    ).run(
      counts.read,
      counts.read - counts.repeated - refused.length,
      counts.repeated,
      refused.length,
      timestamp(),
      importId,
    );
  });
}

/**
 * Removes the changes of a sheet from the ledger, or restores those removed with it (at `before`);
 * changes deleted by hand stay deleted. Must run in a transaction.
 */
export function countChanges(
  db: Db,
  importId: number,
  to: 'done' | 'undone',
  now: string,
  before: string | null,
): void {
  if (to === 'undone')
    prepared(db, 'UPDATE change SET deleted_at = ? WHERE import_id = ? AND deleted_at IS NULL').run(
      now,
      importId,
    );
  else
    prepared(db, 'UPDATE change SET deleted_at = NULL WHERE import_id = ? AND deleted_at = ?').run(
      importId,
      before,
    );
}

/**
 * The instant of undoing a sheet: now, or just after the last deletion by hand, since instants tell
 * them apart.
 */
export function instantOfUndo(db: Db, importId: number): string {
  const last = prepared<[number], string | null>(db, 'SELECT max(deleted_at) FROM change WHERE import_id = ?')
    .pluck()
    .get(importId);
  const now = timestamp();
  return last && last >= now ? new Date(Date.parse(last) + 1).toISOString() : now;
}

/** How many changes of a sheet stand in the ledger. */
export function changesOfSheet(db: Db, importId: number): number {
  return prepared<[number], number>(
    db,
    'SELECT count(*) FROM change WHERE import_id = ? AND deleted_at IS NULL',
  )
    .pluck()
    .get(importId)!;
}
