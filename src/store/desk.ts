import { pagePath } from '../core/address/address';
import { addDays, type Day } from '../core/calendar/day';
import { deskLines, type DeskLine, type PageWeeks } from '../core/desk/desk';
import type { Site } from '../core/model/site';
import { finalOn, lastReadableDay } from '../core/reading/readable';
import { listChanges } from './changes';
import { today } from './clock';
import { prepared, type Db } from './database';
import { siteCoverage, siteTotals } from './figures';
import { listPages } from './pages';
import { spansOf } from './readings';
import { unloggedOn } from './snapshots';
import { seenOldOn } from './titleChecks';
import { write } from './write';

/** What is due today on a site, in the order in which to do it. */
export function desk(db: Db, site: Site): DeskLine[] {
  const coverage = siteCoverage(db, site.id);
  const lastReadable = coverage && lastReadableDay(coverage, site.provisionalDays);
  const changes = listChanges(db, site.id);
  const completeSince = new Map<number, Day>();
  for (const change of changes) {
    const { lastDay } = spansOf(site, change).after;
    if (lastReadable !== null && lastReadable >= lastDay)
      completeSince.set(change.id, finalOn(lastDay, site.provisionalDays));
  }
  return deskLines({
    today: today(),
    changes,
    completeSince,
    seenOld: new Map(
      changes.flatMap((change) => {
        const day = seenOldOn(db, change);
        return day === null ? [] : [[change.id, day] as const];
      }),
    ),
    weeks: lastReadable === null ? [] : pageWeeks(db, site.id, lastReadable),
    unlogged: unloggedOn(db, site, changes).map(({ snapshotId, page, to }) => ({
      ...{ snapshotId, pageId: page.id, path: pagePath(page.address), foundOn: to },
    })),
    putOff: putOffUntil(db, site.id),
  });
}

function pageWeeks(db: Db, siteId: number, lastDay: Day): PageWeeks[] {
  const week = (last: Day) => ({ firstDay: addDays(last, -6), lastDay: last });
  const [before, after] = siteTotals(db, siteId, [week(addDays(lastDay, -7)), week(lastDay)]);
  return listPages(db, siteId).map(({ id, address }) => ({
    pageId: id,
    path: pagePath(address),
    before: before?.get(id)?.clicks ?? 0,
    after: after?.get(id)?.clicks ?? 0,
  }));
}

function putOffUntil(db: Db, siteId: number): Map<string, Day> {
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
