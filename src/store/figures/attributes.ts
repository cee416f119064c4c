import { prepared, type Db } from '../database';
import { shown } from './figuresSnapshot';

/** Attributes that files state for pages, by page id; the newer file wins. */
export function pageAttribute(db: Db, siteId: number, name: 'group' | 'worth'): Map<number, string> {
  const rows = prepared<[number, string], [number, string]>(
    shown(db),
    `SELECT a.page_id, t.value FROM attribute t JOIN import i ON i.id = t.import_id
     JOIN address a ON a.id = t.subject_id
     WHERE t.subject = 'page' AND a.site_id = ? AND t.name = ? AND i.state = 'done' AND a.page_id IS NOT NULL
     ORDER BY i.layer`,
  )
    .raw()
    .all(siteId, name);
  return new Map(rows);
}

/** What files state of queries under a name, by query id. */
export function queryAttribute(db: Db, siteId: number, name: 'searches'): Map<number, string> {
  const rows = prepared<[number, string], [number, string]>(
    shown(db),
    `SELECT q.id, t.value FROM attribute t JOIN import i ON i.id = t.import_id
     JOIN query q ON q.id = t.subject_id
     WHERE t.subject = 'query' AND q.site_id = ? AND t.name = ? AND i.state = 'done' ORDER BY i.layer`,
  )
    .raw()
    .all(siteId, name);
  return new Map(rows);
}
