import { and, asc, eq } from 'drizzle-orm';
import { AddressError, pageAddress } from '../core/address/address';
import type { PageRef } from '../core/model/change';
import type { Site } from '../core/model/site';
import type { Db } from './database';
import { InputError } from './inputError';
import { page } from './schema';

/** All pages of a site by address. */
export function listPages(db: Db, siteId: number): PageRef[] {
  return db
    .select({ id: page.id, address: page.address })
    .from(page)
    .where(eq(page.siteId, siteId))
    .orderBy(asc(page.address))
    .all();
}

/**
 * The pages of written addresses, each once, made where the site did not have them yet. Must run in a
 * transaction. Throws InputError naming the address at fault.
 */
export function pagesForAddresses(db: Db, site: Site, addresses: readonly string[]): PageRef[] {
  const keys = new Set(
    addresses.map((text, i) => {
      try {
        return pageAddress(text, site.address);
      } catch (error) {
        if (error instanceof AddressError) throw new InputError(`pages.${i}`, error.message);
        throw error;
      }
    }),
  );
  return [...keys].map((address) => {
    const found = db
      .select({ id: page.id, address: page.address })
      .from(page)
      .where(and(eq(page.siteId, site.id), eq(page.address, address)))
      .get();
    return (
      found ??
      db
        .insert(page)
        .values({ siteId: site.id, address })
        .returning({ id: page.id, address: page.address })
        .get()
    );
  });
}
