/* Changes as they are read. */

import { and, asc, desc, eq, inArray, isNull } from 'drizzle-orm';
import type { Change } from '../../core/model/change';
import { withParts } from './changeParts';
import { prepared, type Db } from '../database';
import { namesOf } from '../addresses/namedPage';
import { change, changePage } from '../schema';

/** The changes of a site that were not deleted, newest first. */
export function listChanges(db: Db, siteId: number): Change[] {
  const rows = db
    .select()
    .from(change)
    .where(and(eq(change.siteId, siteId), isNull(change.deletedAt)))
    .orderBy(desc(change.day), desc(change.id))
    .all();
  return withParts(db, rows);
}

/** The change of the latest day, the one logged last of several; null if there is none. */
export function newestChange(db: Db, siteId: number): Change | null {
  const row = db
    .select()
    .from(change)
    .where(and(eq(change.siteId, siteId), isNull(change.deletedAt)))
    .orderBy(desc(change.day), desc(change.id))
    .limit(1)
    .get();
  return row ? (withParts(db, [row])[0] ?? null) : null;
}

/** One change, also where it was deleted if `deleted` says so; null where there is none. */
export function findChange(db: Db, id: number, deleted = false): Change | null {
  const row = db.select().from(change).where(eq(change.id, id)).get();
  if (!row || (row.deletedAt !== null && !deleted)) return null;
  return withParts(db, [row])[0] ?? null;
}

/** The changes that touched any of these pages, newest first. */
export function changesOnPages(db: Db, pageIds: readonly number[]): Change[] {
  if (pageIds.length === 0) return [];
  const rows = db
    .selectDistinct({ change })
    .from(change)
    .innerJoin(changePage, eq(changePage.changeId, change.id))
    .where(and(inArray(changePage.pageId, namesOf(db, pageIds)), isNull(change.deletedAt)))
    .orderBy(desc(change.day), desc(change.id))
    .all();
  return withParts(
    db,
    rows.map((row) => row.change),
  );
}

/** The chain of changes that a change belongs to, first one first; empty if it stands alone. */
export function chainOf(db: Db, siteId: number, id: number): Change[] {
  // Links lead both ways, and a change may have several that follow it.
  const ids = prepared<[number, number, number], number>(
    db,
    `WITH RECURSIVE chain(id) AS (
       SELECT ?
       UNION SELECT c.id FROM chain JOIN change c ON c.follows_id = chain.id
             WHERE c.deleted_at IS NULL AND c.site_id = ?
       UNION SELECT c.follows_id FROM chain JOIN change c ON c.id = chain.id
             WHERE c.deleted_at IS NULL AND c.site_id = ? AND c.follows_id IS NOT NULL
     ) SELECT id FROM chain`,
  )
    .pluck()
    .all(id, siteId, siteId);
  if (ids.length === 1) return [];
  const rows = db
    .select()
    .from(change)
    .where(and(inArray(change.id, ids), eq(change.siteId, siteId), isNull(change.deletedAt)))
    .orderBy(asc(change.day), asc(change.id))
    .all();
  return withParts(db, rows);
}
