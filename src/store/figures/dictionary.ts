import { prepared, type Db } from '../database';

/*
 * Texts that figures name by number. All of these must run in a transaction.
 */

function idsOf(
  texts: readonly string[],
  find: (text: string) => number | undefined,
  add: (text: string) => number,
): Int32Array {
  return Int32Array.from(texts, (text) => find(text) ?? add(text));
}

const lastId = (result: { lastInsertRowid: number | bigint }): number => Number(result.lastInsertRowid);

/** Ids of written URLs of a site, in normal form; the empty one is the whole site. */
export function addressIds(db: Db, siteId: number, texts: readonly string[]): Int32Array {
  const find = prepared<[number, string], number>(
    db,
    'SELECT id FROM address WHERE site_id = ? AND text = ?',
  ).pluck();
  const add = prepared<[number, string], never>(db, 'INSERT INTO address (site_id, text) VALUES (?, ?)');
  return idsOf(
    texts,
    (text) => find.get(siteId, text),
    (text) => lastId(add.run(siteId, text)),
  );
}

/** The ids of queries of a site. */
export function queryIds(db: Db, siteId: number, texts: readonly string[]): Int32Array {
  const find = prepared<[number, string], number>(
    db,
    'SELECT id FROM query WHERE site_id = ? AND text = ?',
  ).pluck();
  const add = prepared<[number, string], never>(db, 'INSERT INTO query (site_id, text) VALUES (?, ?)');
  return idsOf(
    texts,
    (text) => find.get(siteId, text),
    (text) => lastId(add.run(siteId, text)),
  );
}

/** The ids of labels. */
export function labelIds(db: Db, texts: readonly string[]): Int32Array {
  const find = prepared<[string], number>(db, 'SELECT id FROM label WHERE text = ?').pluck();
  const add = prepared<[string], never>(db, 'INSERT INTO label (text) VALUES (?)');
  return idsOf(
    texts,
    (text) => find.get(text),
    (text) => lastId(add.run(text)),
  );
}
