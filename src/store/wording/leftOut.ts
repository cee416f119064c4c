import { and, asc, eq } from 'drizzle-orm';
import type { Db } from '../database';
import { leftOutTerm } from '../schema';
import { write } from '../write';

/** A term that does not count: its stems, and how it was written. */
export type LeftOut = { readonly term: string; readonly written: string };

/** The terms that do not count on a site, by how they are written. */
export function leftOutTerms(db: Db, siteId: number): LeftOut[] {
  return db
    .select({ term: leftOutTerm.term, written: leftOutTerm.written })
    .from(leftOutTerm)
    .where(eq(leftOutTerm.siteId, siteId))
    .orderBy(asc(leftOutTerm.written))
    .all();
}

/** Has a term of a site count no longer, or again. */
export async function setLeftOut(
  db: Db,
  siteId: number,
  { term, written }: LeftOut,
  out: boolean,
): Promise<void> {
  await write(db, () => {
    if (out) db.insert(leftOutTerm).values({ siteId, term, written }).onConflictDoNothing().run();
    else
      db.delete(leftOutTerm)
        .where(and(eq(leftOutTerm.siteId, siteId), eq(leftOutTerm.term, term)))
        .run();
  });
}
