import { inArray, or } from 'drizzle-orm';
import type { Db } from '../database';
import { page } from '../schema';

/**
 * The numbers under which something written down may name pages: their own, and those of pages that have become part of them
 * since (see the schema). For use in `inArray`.
 */
export function namesOf(db: Db, pageIds: readonly number[]) {
  const ids = [...pageIds];
  return db
    .select({ id: page.id })
    .from(page)
    .where(or(inArray(page.id, ids), inArray(page.intoId, ids)));
}
