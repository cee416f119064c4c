import { and, asc, eq, lt } from 'drizzle-orm';
import { addDays, mondayOf, asDay, type Day } from '../../core/calendar/day';
import { differencesBetween, isWork } from '../../core/markup/differences';
import type { PageEvidence } from '../../core/model/evidence';
import { differencesKept } from './snapshots';
import { prepared, type Db } from '../database';
import { snapshot } from '../schema';
import { write } from '../write';

/** Snapshots of the last days stay as they are, so that what is offered to be logged can be looked at. */
export const SNAPSHOTS_WHOLE_DAYS = 60;

/**
 * Thins out the older snapshots of a site that differ from the one before in nothing but what a page says anew every day (a date,
 * a number in stock): of those in a row, the first of each week stays, and is said to be seen until the next. What looks like
 * work always stays. Gives how many went.
 */
export async function thinSnapshots(db: Db, siteId: number, today: Day): Promise<number> {
  const before = addDays(today, -SNAPSHOTS_WHOLE_DAYS);
  const pages = prepared<[number, number], number>(
    db,
    'SELECT page_id FROM snapshot WHERE site_id = ? AND last_day < ? GROUP BY page_id HAVING count(*) > 2',
  )
    .pluck()
    .all(siteId, before);
  let gone = 0;
  // A page at a time, so that others get their turn.
  for (const pageId of pages) gone += await write(db, () => thinPage(db, pageId, before));
  return gone;
}

type Row = typeof snapshot.$inferSelect;

function thinPage(db: Db, pageId: number, before: Day): number {
  const rows = db
    .select()
    .from(snapshot)
    .where(and(eq(snapshot.pageId, pageId), lt(snapshot.lastDay, before)))
    .orderBy(asc(snapshot.id))
    .all();
  let gone = 0;
  let kept: Row | undefined;
  for (const row of rows) {
    if (kept && isSameWeek(kept, row) && isIdle(evidenceOf(kept), evidenceOf(row))) {
      db.delete(snapshot).where(eq(snapshot.id, row.id)).run();
      kept = { ...kept, lastDay: row.lastDay, lastSeenAt: row.lastSeenAt };
      const { lastDay, lastSeenAt } = kept;
      db.update(snapshot).set({ lastDay, lastSeenAt }).where(eq(snapshot.id, kept.id)).run();
      gone++;
    } else kept = row;
  }
  if (gone > 0) compareAnew(db, pageId);
  return gone;
}

const evidenceOf = (row: Row) => JSON.parse(row.evidence) as PageEvidence;
const isSameWeek = (a: Row, b: Row) => mondayOf(asDay(a.day)) === mondayOf(asDay(b.day));
const isIdle = (a: PageEvidence, b: PageEvidence) => !differencesBetween(a, b).some(isWork);

/** What each snapshot differs in is told from the one before it: where that went, from the one that is before it now. */
function compareAnew(db: Db, pageId: number): void {
  const rows = db.select().from(snapshot).where(eq(snapshot.pageId, pageId)).orderBy(asc(snapshot.id)).all();
  rows.forEach((row, i) => {
    const previous = rows[i - 1];
    const differences = previous
      ? JSON.stringify(differencesKept(evidenceOf(previous), evidenceOf(row)))
      : null;
    if (differences !== row.differences)
      db.update(snapshot).set({ differences }).where(eq(snapshot.id, row.id)).run();
  });
}
