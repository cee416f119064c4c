import { prepared, type Db } from './database';

/** The id of a query of a site, or null where it was never seen. */
export function queryIdOf(db: Db, siteId: number, text: string): number | null {
  const row = prepared<[number, string], { id: number }>(
    db,
    'SELECT id FROM query WHERE site_id = ? AND text = ?',
  ).get(siteId, text);
  return row?.id ?? null;
}

/** The text of a query. */
export function queryText(db: Db, id: number): string {
  return prepared<[number], string>(db, 'SELECT text FROM query WHERE id = ?').pluck().get(id) ?? '';
}

/** The text of a label, such as a country's name. */
export function labelText(db: Db, id: number): string {
  return prepared<[number], string>(db, 'SELECT text FROM label WHERE id = ?').pluck().get(id) ?? '';
}
