import { GRAINS } from '../../core/facts/grains';
import type { Db } from '../database';
import { prepared } from '../database';
import { settlePages } from '../addresses/pageKeys';
import { deriveSeries } from './series';
import { listSites } from '../sites';
import { writeFigures } from '../write';

/*
 * Derived data: the page of each URL, and the totals of each page by day. It can be rebuilt at any
 * time.
 */

/** Pieces of the page facts behind the series, narrowed by a condition on `f` and `a`. */
export function piecesOfPages(db: Db, condition: string, ...values: number[]): Map<number, Set<number>> {
  const rows = prepared<number[], [number, number]>(
    db,
    `SELECT DISTINCT a.page_id, f.piece FROM figures f JOIN address a ON a.id = f.address_id
     WHERE a.page_id IS NOT NULL AND f.grain IN (${GRAINS.page_day.code}, ${GRAINS.page_query_day.code})
       AND ${condition}`,
  )
    .raw()
    .all(...values);
  const pieces = new Map<number, Set<number>>();
  for (const [page, piece] of rows) {
    const known = pieces.get(page);
    if (known) known.add(piece);
    else pieces.set(page, new Set([piece]));
  }
  return pieces;
}

/** Version of the derived data. Databases with another version are rebuilt at the next start. */
const DERIVED_FORM = 2;

/** Rebuilds derived data of an earlier version; calls `begin` before. */
export async function deriveAnewIfOutdated(db: Db, begin: () => void): Promise<void> {
  if (db.$client.pragma('user_version', { simple: true }) === DERIVED_FORM) return;
  if (listSites(db).length > 0) begin();
  await rebuildDerived(db);
}

/** Rebuilds all derived data from the facts in one transaction. Returns the number of pages. */
export async function rebuildDerived(db: Db): Promise<number> {
  return writeFigures(db, () => {
    db.$client.exec('DELETE FROM page_series');
    let pages = 0;
    for (const site of listSites(db)) {
      settlePages(db, site);
      const pieces = piecesOfPages(db, 'a.site_id = ?', site.id);
      deriveSeries(db, pieces);
      pages += pieces.size;
    }
    db.$client.pragma(`user_version = ${DERIVED_FORM}`);
    return pages;
  });
}
