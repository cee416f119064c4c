import { prepared, type Db } from '../database';
import { shown } from './figuresSnapshot';

/** The id of a query of a site, or null where it was never seen. */
export function queryIdOf(db: Db, siteId: number, text: string): number | null {
  const row = prepared<[number, string], { id: number }>(
    shown(db),
    'SELECT id FROM query WHERE site_id = ? AND text = ?',
  ).get(siteId, text);
  return row?.id ?? null;
}

/** A query that a site was shown for. */
export type AskedQuery = { readonly id: number; readonly siteId: number; readonly text: string };

/** A query by its number; null where there is none. */
export function findQuery(db: Db, id: number): AskedQuery | null {
  return (
    prepared<[number], AskedQuery>(
      shown(db),
      'SELECT id, site_id AS siteId, text FROM query WHERE id = ?',
    ).get(id) ?? null
  );
}

/** The text of a query. */
export function queryText(db: Db, id: number): string {
  return prepared<[number], string>(shown(db), 'SELECT text FROM query WHERE id = ?').pluck().get(id) ?? '';
}

/** The texts of all queries of a site, by id. */
export function queryTexts(db: Db, siteId: number): Map<number, string> {
  const rows = prepared<[number], [number, string]>(
    shown(db),
    'SELECT id, text FROM query WHERE site_id = ?',
  );
  return new Map(rows.raw().all(siteId));
}

/** The text of a label, such as a country's name. */
export function labelText(db: Db, id: number): string {
  return prepared<[number], string>(shown(db), 'SELECT text FROM label WHERE id = ?').pluck().get(id) ?? '';
}

/** The id of a label, such as a country's name, however it is written, or null. */
export function labelIdOf(db: Db, text: string): number | null {
  return (
    prepared<[string], number>(shown(db), 'SELECT id FROM label WHERE lower(text) = lower(?)')
      .pluck()
      .get(text) ?? null
  );
}

/** Queries of a site in which every word of a text begins a word, the shortest first. */
export function queriesLike(
  db: Db,
  siteId: number,
  text: string,
  limit: number,
): { readonly id: number; readonly text: string }[] {
  const words = text.split(' ').filter(Boolean).slice(0, 8);
  if (words.length === 0) return [];
  // Where a word is not at the beginning, a space stands before it.
  const like = words.map(() => "(' ' || text) LIKE ? ESCAPE '\\'").join(' AND ');
  return prepared<(number | string)[], { id: number; text: string }>(
    db,
    `SELECT id, text FROM query WHERE site_id = ? AND ${like} ORDER BY length(text), text LIMIT ?`,
  ).all(siteId, ...words.map((word) => `% ${word.replace(/[\\%_]/g, '\\$&')}%`), limit);
}
