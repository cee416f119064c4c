import type { Day } from '../core/calendar/day';
import type { Change } from '../core/model/change';
import { NOT_NARROWED } from '../core/reading/input';
import type { Reading } from '../core/reading/model';
import { pageDaysIn } from '../store/figures/days';
import type { Engines } from './engines';
import { coveredDaysOf, readFrom } from './readChange';
import { keepWhatIsSaid } from './said';
import type { SiteContext } from './siteContext';
import { spansOf, wholeSpan, type SpanWish } from './spans';

/**
 * The readings of all changes of a site, newest change first, without what only a single reading has: its queries,
 * why clicks moved, the year before, how long to wait.
 */
export function readChanges(context: SiteContext, engines: Engines, wish: SpanWish = {}): readonly Reading[] {
  const { db, site, changes, made, events, today, lastReadable } = context;
  if (changes.length === 0) return [];
  const known = JSON.stringify([site, wish, changes, events, today, lastReadable]);
  return engines.list(site, known, () => {
    const wanted = changes.map((change) => ({ change, spans: spansOf(site, change, wish) }));
    const covered = coveredDaysOf(context, {
      firstDay: Math.min(...wanted.map(({ spans }) => spans.before.firstDay)) as Day,
      lastDay: Math.max(...wanted.map(({ spans }) => spans.after.lastDay)) as Day,
    });
    const engine = lastReadable === null ? null : engines.engine(site, { changes: made, lastReadable });
    const onPage = changesByPage(made);
    const readings = wanted.map(({ change, spans }) => {
      const rows = change.pages.map((page) => page.id);
      const others = new Set(rows.flatMap((id) => onPage.get(id) ?? []));
      const pageDays = pageDaysIn(db, rows, wholeSpan(spans));
      return readFrom(context, engines, {
        // Of pages without figures only a reading looked at by itself says where they may be.
        ...{ change, spans, covered, otherChanges: [...others], wrongTwins: [] },
        source: { narrowed: NOT_NARROWED, pageDays, queryDays: [], engine, rows, detail: null },
      });
    });
    if (wish.windowDays == null && wish.settlingDays == null) keepWhatIsSaid(context, readings);
    return readings;
  });
}

function changesByPage(changes: readonly Change[]): Map<number, Change[]> {
  const byPage = new Map<number, Change[]>();
  for (const change of changes) {
    for (const { id } of change.pages) {
      const known = byPage.get(id);
      if (known) known.push(change);
      else byPage.set(id, [change]);
    }
  }
  return byPage;
}
