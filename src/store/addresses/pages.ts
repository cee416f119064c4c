import { and, eq, isNull } from 'drizzle-orm';
import { AddressError, writtenAddress } from '../../core/address/address';
import { pageKeyMaker } from '../../core/address/rules';
import type { PageRef } from '../../core/model/change';
import type { Site } from '../../core/model/site';
import { prepared, type Db } from '../database';
import { findSite } from '../sites';
import { InputError } from '../inputError';
import { keyMakerNow, pageWithKey } from './pageKeys';
import { shown } from '../figures/figuresSnapshot';
import { page } from '../schema';

/** All pages of a site by address. */
export function listPages(db: Db, siteId: number): PageRef[] {
  return prepared<[number], PageRef>(
    shown(db),
    'SELECT id, address FROM page WHERE site_id = ? AND into_id IS NULL ORDER BY address',
  ).all(siteId);
}

/** The site that a page belongs to; undefined if there is no such page. */
export function siteOfPage(db: Db, id: number): number | undefined {
  return prepared<[number], number>(db, 'SELECT site_id FROM page WHERE id = ?').pluck().get(id);
}

/** A page of a site by its number; null where there is none, or it has become part of another. */
export function findPage(db: Db, siteId: number, id: number): PageRef | null {
  return (
    db
      .select({ id: page.id, address: page.address })
      .from(page)
      .where(and(eq(page.id, id), eq(page.siteId, siteId), isNull(page.intoId)))
      .get() ?? null
  );
}

/**
 * The pages of written addresses, each once, made where the site did not have them yet. Must run in a
 * transaction. Throws InputError naming the address at fault.
 */
export function pagesForAddresses(db: Db, site: Site, addresses: readonly string[]): PageRef[] {
  const keyOf = keyMakerNow(db, site.id);
  const keys = new Set(
    addresses.map((text, i) => {
      try {
        return keyOf(writtenAddress(text, site.address));
      } catch (error) {
        if (error instanceof AddressError) throw new InputError(`pages.${i}`, error.message);
        throw error;
      }
    }),
  );
  return [...keys].map((address) => ({ id: pageWithKey(db, site.id, address), address }));
}

/** The address under which a page of a site stands, from any way of writing it. Throws AddressError. */
export function pageAddressOf(site: Site, text: string): string {
  return pageKeyMaker(site.address, site.rules)(writtenAddress(text, site.address));
}

/** The page of a written address; null where the site does not have it. Throws AddressError. */
export function pageOf(db: Db, site: Site, text: string): PageRef | null {
  const row = db
    .select({ id: page.id, address: page.address })
    .from(page)
    .where(and(eq(page.siteId, site.id), eq(page.address, pageAddressOf(site, text))))
    .get();
  return row ?? null;
}

/** A written address that has figures, and the page that it is. */
export type WrittenAddress = { readonly id: number; readonly pageId: number };

/** The written addresses with figures whose own key is that of a page, also where they are joined to another by now. */
export function addressesOfPage(db: Db, siteId: number, pageAddress: string): WrittenAddress[] {
  const site = findSite(db, siteId);
  if (!site) return [];
  const keyOf = pageKeyMaker(site.address, site.rules);
  return prepared<[number], WrittenAddress & { text: string }>(
    db,
    "SELECT id, page_id AS pageId, text FROM address WHERE site_id = ? AND page_id IS NOT NULL AND text <> ''",
  )
    .all(siteId)
    .filter(({ text }) => keyOf(text) === pageAddress)
    .map(({ id, pageId }) => ({ id, pageId }));
}

/** Whether a written address is one of a site. */
export function isAddressOf(db: Db, siteId: number, addressId: number): boolean {
  const found = prepared<[number, number], number>(db, 'SELECT 1 FROM address WHERE id = ? AND site_id = ?');
  return found.pluck().get(addressId, siteId) !== undefined;
}
