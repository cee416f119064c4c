import { prepared, type Db } from '../database';
import { shown } from './figuresSnapshot';

/**
 * A text that changes when figures of a site are imported, undone, or assigned to other pages.
 *
 * @param over the connection to ask; by default the one that figures are shown from
 */
export function figuresStamp(db: Db, siteId: number, over = shown(db)): string {
  const row = prepared<[number], { n: number; last: string | null }>(
    over,
    `SELECT count(*) AS n, max(finished_at) AS last FROM import WHERE site_id = ? AND state = 'done'`,
  ).get(siteId);
  const rules = prepared<[number], string | null>(over, 'SELECT keyed_at FROM site WHERE id = ?')
    .pluck()
    .get(siteId);
  return `${row?.n}@${row?.last}@${rules ?? ''}`;
}
