import { pageKeyMaker } from '../../core/address/rules';
import type { Site } from '../../core/model/site';
import { prepared, type Db } from '../database';
import { findSite } from '../sites';

/*
 * Which page a written address is. A page exists as long as figures of one of its addresses count, or something written down names it.
 * All of these must run in a transaction.
 */

type AddressRow = { readonly id: number; readonly text: string; readonly joinedTo: string | null };

const HAS_FIGURES = `(
  EXISTS (SELECT 1 FROM figures f JOIN import i ON i.id = f.import_id WHERE f.address_id = a.id AND i.state = 'done')
  OR EXISTS (SELECT 1 FROM attribute t JOIN import i ON i.id = t.import_id
             WHERE t.subject = 'page' AND t.subject_id = a.id AND i.state = 'done'))`;

/**
 * Makes the keys of a site's pages by the rules that hold in this very transaction: a site that was read before it began may have got
 * others since, from somebody else.
 */
export function keyMakerNow(db: Db, siteId: number): (written: string) => string {
  const { address, rules } = findSite(db, siteId)!;
  return pageKeyMaker(address, rules);
}

/** The page with a key, made where the site does not have it yet. */
export function pageWithKey(db: Db, siteId: number, key: string): number {
  const known = prepared<[number, string], number>(
    db,
    'SELECT id FROM page WHERE site_id = ? AND address = ?',
  )
    .pluck()
    .get(siteId, key);
  return (
    known ??
    Number(
      prepared<[number, string], never>(db, 'INSERT INTO page (site_id, address) VALUES (?, ?)').run(
        siteId,
        key,
      ).lastInsertRowid,
    )
  );
}

/**
 * Gives addresses of a site their pages by its rules, those whose figures no longer count lose theirs, and pages that
 * nothing is left of are dropped. Gives the pages whose figures have to be derived again. `ids` narrows it to some
 * addresses; without, all of the site are looked at, as after an edit of the rules.
 */
export function settlePages(db: Db, site: Site, ids?: Iterable<number>): Set<number> {
  const keyOf = keyMakerNow(db, site.id);
  const columns = 'SELECT a.id, a.text, a.joined_to AS joinedTo, a.page_id AS pageId';
  type Row = AddressRow & { pageId: number | null; counts: number };
  const one = prepared<[number], Row>(
    db,
    `${columns}, ${HAS_FIGURES} AS counts FROM address a WHERE a.id = ?`,
  );
  const rows = ids
    ? [...ids].flatMap((id) => one.get(id) ?? [])
    : prepared<[number], Row>(
        db,
        `${columns}, ${HAS_FIGURES} AS counts FROM address a WHERE a.site_id = ?`,
      ).all(site.id);
  const set = prepared<[number | null, number], never>(db, 'UPDATE address SET page_id = ? WHERE id = ?');
  const touched = new Set<number>();
  for (const { id, text, joinedTo, pageId, counts } of rows) {
    if (text === '') continue;
    const key = keyOf(joinedTo ?? text);
    const page = counts === 1 ? pageWithKey(db, site.id, key) : null;
    if (page !== null) touched.add(page);
    if (page === pageId) continue;
    set.run(page, id);
    if (pageId !== null) touched.add(pageId);
  }
  for (const page of dropEmptyPages(db, site.id)) touched.delete(page);
  return touched;
}

/** Pages that something written down names: a change, a round, a draft, a snapshot, a sighting, what was said of them, a wish to watch. */
const NAMED = [...['change_page', 'round_page', 'draft', 'snapshot', 'sighting', 'page_trait', 'page_look']]
  .map((table) => `SELECT page_id FROM ${table}`)
  .join(' UNION ');

/** Drops pages that have no address and that nothing names. Gives their ids. */
function dropEmptyPages(db: Db, siteId: number): number[] {
  const empty = prepared<[number], number>(
    db,
    `SELECT p.id FROM page p WHERE p.site_id = ?
       AND NOT EXISTS (SELECT 1 FROM address a WHERE a.page_id = p.id)
       AND p.id NOT IN (${NAMED})
       AND NOT EXISTS (SELECT 1 FROM page q WHERE q.into_id = p.id AND q.id IN (${NAMED}))`,
  )
    .pluck()
    .all(siteId);
  const series = prepared<[number], never>(db, 'DELETE FROM page_series WHERE page_id = ?');
  const unname = prepared<[number], never>(db, 'UPDATE page SET into_id = NULL WHERE into_id = ?');
  const drop = prepared<[number], never>(db, 'DELETE FROM page WHERE id = ?');
  for (const id of empty) {
    series.run(id);
    unname.run(id);
    drop.run(id);
  }
  return empty;
}

/** Lets pages that something names become part of the pages that the rules make of them. */
export function settleNamedPages(db: Db, site: Site): void {
  const keyOf = keyMakerNow(db, site.id);
  const named = prepared<[number], { id: number; address: string }>(
    db,
    `SELECT p.id, p.address FROM page p WHERE p.site_id = ? AND p.id IN (${NAMED})`,
  ).all(site.id);
  const set = prepared<[number | null, number], never>(db, 'UPDATE page SET into_id = ? WHERE id = ?');
  for (const { id, address } of named) {
    const into = pageWithKey(db, site.id, keyOf(address));
    set.run(into === id ? null : into, id);
  }
}
