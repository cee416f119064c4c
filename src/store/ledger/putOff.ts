import type { Day } from '../../core/calendar/day';
import { prepared, type Db } from '../database';
import { write } from '../write';

/** What is put off on the desk of a site, and until when. */
export function putOffUntil(db: Db, siteId: number): Map<string, Day> {
  const rows = prepared<[number], [string, Day]>(db, 'SELECT key, until FROM put_off WHERE site_id = ?');
  return new Map(rows.raw().all(siteId) as [string, Day][]);
}

/** Puts something on the desk off to a day; null brings it back at once. */
export async function putOff(db: Db, siteId: number, key: string, until: Day | null): Promise<void> {
  await write(db, () => {
    if (until === null) prepared(db, 'DELETE FROM put_off WHERE site_id = ? AND key = ?').run(siteId, key);
    else
      prepared(db, 'INSERT OR REPLACE INTO put_off (site_id, key, until) VALUES (?, ?, ?)').run(
        siteId,
        key,
        until,
      );
  });
}
