import { pagePath } from '../core/address/address';
import { addDays, type Day } from '../core/calendar/day';
import { deskLines, type DeskInput, type DeskLine, type PageWeeks } from '../core/desk/desk';
import { finalOn } from '../core/reading/readable';
import type { Db } from '../store/database';
import { siteTotals } from '../store/figures/days';
import { listPages } from '../store/addresses/pages';
import type { SiteContext } from './siteContext';
import { spansOf } from './spans';
import { unloggedOn } from '../store/evidence/snapshots';
import { seenOldOn } from './titleChecks';
import { putOffUntil } from '../store/ledger/putOff';

/** What is due today on a site, in the order in which to do it. What plainly drops is known to the readings. */
export function desk(
  { db, site, today, changes, lastReadable }: SiteContext,
  plainDrops: DeskInput['plainDrops'],
): DeskLine[] {
  const completeSince = new Map<number, Day>();
  for (const change of changes) {
    const { lastDay } = spansOf(site, change).after;
    if (lastReadable !== null && lastReadable >= lastDay)
      completeSince.set(change.id, finalOn(lastDay, site.provisionalDays));
  }
  return deskLines({
    today,
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
    plainDrops,
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
