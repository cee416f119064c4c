import type { Site } from '../../core/model/site';
import { deriveAround } from './arrival';
import { countChanges, instantOfUndo } from '../ledger/sheetImport';
import { prepared, type Db } from '../database';
import { timestamp, write } from '../write';

/* Files are layers, so undoing one means no longer counting it: what it replaced is valid again. */

/** Undoes a finished import that isn’t merged with others. Resolves to whether it was undone. */
export function undoImport(db: Db, site: Site, importId: number): Promise<boolean> {
  return count(db, site, importId, 'done', 'undone');
}

/** Lets an import count again that was undone. Resolves to whether it did. */
export function redoImport(db: Db, site: Site, importId: number): Promise<boolean> {
  return count(db, site, importId, 'undone', 'done');
}

function count(
  db: Db,
  site: Site,
  importId: number,
  from: 'done' | 'undone',
  to: 'done' | 'undone',
): Promise<boolean> {
  return write(db, () => {
    const about = prepared<[number], { about: string; at: string | null }>(
      db,
      'SELECT about, finished_at AS at FROM import WHERE id = ?',
    ).get(importId);
    const now = to === 'undone' ? instantOfUndo(db, importId) : timestamp();
    const { changes } = prepared(
      db,
      'UPDATE import SET state = ?, finished_at = ? WHERE id = ? AND site_id = ? AND state = ? AND folded_at IS NULL',
    ).run(to, now, importId, site.id, from);
    if (changes === 1 && about?.about === 'changes') countChanges(db, importId, to, now, about.at);
    else if (changes === 1) deriveAround(db, site, importId);
    return changes === 1;
  });
}
