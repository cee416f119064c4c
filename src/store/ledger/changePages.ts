import { AddressError, writtenAddress } from '../../core/address/address';
import type { Site } from '../../core/model/site';
import { keyMakerNow, pageWithKey } from '../addresses/pageKeys';
import { prepared, type Db } from '../database';
import { InputError } from '../inputError';

/*
 * A change keeps the URLs that it was logged with. Their pages follow from the site’s rules and
 * from joins, as for figures, so that rules can be edited and restored without a change losing its
 * pages.
 */

/** Gives each written address of a site the key of its page. */
export function keyOfWritten(db: Db, site: Site): (written: string) => string {
  const keyOf = keyMakerNow(db, site.id);
  const joined = prepared<[number, string], string | null>(
    db,
    'SELECT joined_to FROM address WHERE site_id = ? AND text = ?',
  ).pluck();
  return (written) => keyOf(joined.get(site.id, written) ?? written);
}

/** A URL in normal form, from any way of writing it. Throws InputError for a field. */
export function writtenIn(site: Site, text: string, field: string): string {
  try {
    return writtenAddress(text, site.address);
  } catch (error) {
    if (error instanceof AddressError) throw new InputError(field, error.message);
    throw error;
  }
}

/**
 * Stores the pages of a change. A page that it already had keeps the URLs as written then. Must run
 * in a transaction. Throws InputError for the URL at fault.
 */
export function storePages(db: Db, site: Site, changeId: number, addresses: readonly string[]): void {
  const keyOf = keyOfWritten(db, site);
  const had = prepared<[number], string>(db, 'SELECT address FROM change_page WHERE change_id = ?')
    .pluck()
    .all(changeId);
  const given = addresses.map((text, i) => writtenIn(site, text, `pages.${i}`));
  const wanted = new Set(given.map(keyOf));
  const kept = had.filter((written) => wanted.has(keyOf(written)));
  const keptKeys = new Set(kept.map(keyOf));
  const added = given.filter((written) => !keptKeys.has(keyOf(written)));
  replacePages(db, site, changeId, [...new Set([...kept, ...added])]);
}

/** Stores the addresses of a change just as they were written. Must run in a transaction. */
export function replacePages(db: Db, site: Site, changeId: number, written: readonly string[]): void {
  const keyOf = keyOfWritten(db, site);
  prepared(db, 'DELETE FROM change_page WHERE change_id = ?').run(changeId);
  const insert = prepared(db, 'INSERT INTO change_page (change_id, address, page_id) VALUES (?, ?, ?)');
  for (const address of written) insert.run(changeId, address, pageWithKey(db, site.id, keyOf(address)));
}

/**
 * Assigns the URLs of all changes of a site to pages, after rules or joins changed. Must run in a
 * transaction.
 */
export function settleChangePages(db: Db, site: Site): void {
  const keyOf = keyOfWritten(db, site);
  for (const table of ['change_page', 'change_part'] as const) {
    const rows = prepared<[number], string>(
      db,
      `SELECT DISTINCT x.address FROM ${table} x JOIN change c ON c.id = x.change_id
       WHERE c.site_id = ? AND x.address IS NOT NULL`,
    )
      .pluck()
      .all(site.id);
    const set = prepared<[number, string, number], never>(
      db,
      `UPDATE ${table} SET page_id = ? WHERE address = ? AND change_id IN (SELECT id FROM change WHERE site_id = ?)`,
    );
    for (const address of rows) set.run(pageWithKey(db, site.id, keyOf(address)), address, site.id);
  }
}
