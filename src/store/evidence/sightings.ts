import { desc, inArray } from 'drizzle-orm';
import { asDay, type Day } from '../../core/calendar/day';
import type { Db } from '../database';
import { namesOf } from '../addresses/namedPage';
import { sighting } from '../schema';
import { timestamp, write } from '../write';

/** A title that the results showed for a page: on which day it was seen there, and since when, where that is known. */
export type Sighting = { readonly title: string; readonly day: Day; readonly since: Day | null };

/** The last title that was seen in the results for a page; null where nobody looked. */
export function lastSighting(db: Db, pageId: number): Sighting | null {
  const row = db
    .select({ title: sighting.title, day: sighting.day, since: sighting.since })
    .from(sighting)
    .where(inArray(sighting.pageId, namesOf(db, [pageId])))
    .orderBy(desc(sighting.id))
    .get();
  return row
    ? { title: row.title, day: asDay(row.day), since: row.since === null ? null : asDay(row.since) }
    : null;
}

/** All titles that were seen in the results for a page, the newest first. */
export function sightingsOf(db: Db, pageId: number): Sighting[] {
  return db
    .select({ title: sighting.title, day: sighting.day, since: sighting.since })
    .from(sighting)
    .where(inArray(sighting.pageId, namesOf(db, [pageId])))
    .orderBy(desc(sighting.id))
    .limit(200)
    .all()
    .map(({ title, day, since }) => ({
      title,
      day: asDay(day),
      since: since === null ? null : asDay(since),
    }));
}

export async function addSighting(db: Db, pageId: number, { title, day, since }: Sighting): Promise<void> {
  await write(db, () => db.insert(sighting).values({ pageId, title, day, since, at: timestamp() }).run());
}
