import { pagePath } from '../core/address/address';
import { addDays, type Day } from '../core/calendar/day';
import { deskLines, type DeskLine, type PageWeeks } from '../core/desk/desk';
import type { LedgerEntry } from '../core/reading/ledgerEntry';
import { finalOn } from '../core/reading/readable';
import type { Db } from '../store/database';
import { siteTotals } from '../store/figures/days';
import { listPages } from '../store/addresses/pages';
import type { SiteContext } from './siteContext';
import { spansOf } from './spans';
import { unloggedOn } from '../store/evidence/snapshots';
import { seenOldOn } from './titleChecks';
import { putOffUntil } from '../store/ledger/putOff';

/** What is due today on a site, in the order in which to do it. `entries` are the lines of its ledger. */
export function desk(
  { db, site, today, changes, lastReadable }: SiteContext,
  entries: readonly LedgerEntry[],
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
    plainDrops: plainDropsOf(entries),
  });
}

/** The changes that daily looks call a drop before their days are over, and since when. */
export function plainDropsOf(entries: readonly LedgerEntry[]): Map<number, Day> {
  return new Map(
    entries.flatMap(({ id, early }) => (early?.called === 'dropped' ? [[id, early.day] as const] : [])),
  );
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
