import type { Site } from '../core/model/site';
import { deriveAround } from './arrival';
import { prepared, type Db } from './database';
import { timestamp, write } from './write';

/*
 * Files lie over each other like layers, so undoing one is not to count it any more: what it had replaced stands again.
 */

/** Undoes an import that is done. Tells whether there was such a one. */
export function undoImport(db: Db, site: Site, importId: number): Promise<boolean> {
  return count(db, site, importId, 'done', 'undone');
}

/** Lets an import count again that was undone. Tells whether there was such a one. */
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
    const { changes } = prepared(
      db,
      'UPDATE import SET state = ?, finished_at = ? WHERE id = ? AND site_id = ? AND state = ?',
    ).run(to, timestamp(), importId, site.id, from);
    if (changes === 1) deriveAround(db, site, importId);
    return changes === 1;
  });
}
