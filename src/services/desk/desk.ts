import { pagePath } from '../../core/address/address';
import { addDays, type Day } from '../../core/calendar/day';
import { deskLines, type DeskInput, type DeskLine, type PageWeeks } from '../../core/desk/desk';
import { finalOn } from '../../core/reading/readable';
import type { Round } from '../../core/model/round';
import { roundState, turnReadOn } from '../../core/rounds/state';
import type { Totals } from '../../core/measures/totals';
import { dueNow } from '../../core/routines/routine';
import { doneOf, listRoutines } from '../../store/routines/routines';
import { listRounds } from '../../store/rounds/rounds';
import { siteTotals } from '../../store/figures/days';
import { listPages } from '../../store/addresses/pages';
import { memoizeByFigures } from '../site/memoizeByFigures';
import type { SiteContext } from '../site/siteContext';
import { spansOf } from '../reading/readingSpans';
import { unloggedOn } from '../../store/evidence/snapshots';
import { seenOldOn } from '../pages/titleChecks';
import { putOffUntil } from '../../store/ledger/putOff';

/** What is due today on a site, in the order in which to do it. What plainly drops is known to the readings. */
export function desk(context: SiteContext, plainDrops: DeskInput['plainDrops']): DeskLine[] {
  const { db, site, today, changes, lastReadable } = context;
  const rounds = listRounds(db, site.id);
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
    weeks: lastReadable === null ? [] : pageWeeks(context, lastReadable),
    fallLimits: { share: site.fallShare, beyond: site.fallBeyond },
    unlogged: unloggedOn(db, site, changes).map(({ snapshotId, page, to }) => ({
      ...{ snapshotId, pageId: page.id, path: pagePath(page.address), foundOn: to },
    })),
    putOff: putOffUntil(db, site.id),
    plainDrops,
    rounds: rounds.flatMap((round) => roundDue(round, today, site.provisionalDays)),
    routines: listRoutines(db, site.id).flatMap((routine) => {
      const since = dueNow(routine, doneOf(db, routine.id), today);
      return since === null ? [] : [{ id: routine.id, name: routine.name, since }];
    }),
    ofRounds: new Set(rounds.flatMap(({ changes: halves }) => Object.values(halves))),
  });
}

/** What of a round waits for somebody; nothing while one of its halves is being read. */
function roundDue(round: Round, today: Day, provisionalDays: number): DeskInput['rounds'][number][] {
  const { id, name, day, decision } = round;
  const due = (what: string, since: Day) => [{ id, name, what, since }];
  const state = roundState(round, today, provisionalDays);
  if (state === 'drawn') return due('to be made', day);
  if (state === 'to-decide') return due('to be decided', turnReadOn(round, 'first', provisionalDays)!);
  return state === 'to-go-on' ? due('the second half to be made', decision?.day ?? day) : [];
}

/** Sites whose last two weeks are kept. */
const MOST_KEPT = 8;
const weeksKept = memoizeByFigures<readonly ReadonlyMap<number, Totals>[]>(MOST_KEPT);

/** Past weeks from which the ordinary movement of a page is known. */
const PAST_WEEKS = 26;

function pageWeeks(context: SiteContext, lastDay: Day): PageWeeks[] {
  const { db, site } = context;
  const weeks = Array.from({ length: PAST_WEEKS + 2 }, (_, i) => {
    const last = addDays(lastDay, -7 * (PAST_WEEKS + 1 - i));
    return { firstDay: addDays(last, -6), lastDay: last };
  });
  const totals = weeksKept(context, String(lastDay), () => siteTotals(db, site.id, weeks));
  return listPages(db, site.id).map(({ id, address }) => {
    const clicks = totals.map((week) => week.get(id)?.clicks ?? 0);
    // Weeks before a page was first seen are no movement.
    const past = clicks.slice(0, -2);
    const seen = past.findIndex((n) => n > 0);
    return {
      ...{ pageId: id, path: pagePath(address), before: clicks.at(-2)!, after: clicks.at(-1)! },
      past: seen === -1 ? [] : past.slice(seen),
    };
  });
}
