import { inSpan, type Span } from '../../core/calendar/span';
import type { Day } from '../../core/calendar/day';
import { columnsUsedAgain } from '../../core/facts/pack';
import { standingRows } from '../../core/facts/standing';
import type { Visited } from '../../core/openings/earned';
import type { Db } from '../database';
import { pageFacts } from './layers';

/** What visits of a landing page came to over a span. */
export type LandingTotals = Visited;

/** Landing-page figures of some pages over a span, by page; those without any are left out. */
export function landingTotals(db: Db, pageIds: readonly number[], span: Span): Map<number, LandingTotals> {
  const found = new Map<number, LandingTotals>();
  const columns = columnsUsedAgain();
  for (const pageId of pageIds) {
    const sums = [0, 0, 0, 0, 0];
    const known = [false, false, false, false, false];
    for (const piece of pageFacts(db, pageId, 'analytics_day', span, columns)) {
      const { day, values } = piece.facts;
      for (const row of standingRows(piece)) {
        if (!inSpan(day[row]! as Day, span)) continue;
        values.forEach((column, v) => {
          if (Number.isNaN(column[row]!)) return;
          sums[v]! += column[row]!;
          known[v] = true;
        });
      }
    }
    const [sessions, engaged, bounces, conversions, revenue] = sums as [
      number,
      number,
      number,
      number,
      number,
    ];
    if (!known[0]) continue;
    found.set(pageId, {
      sessions,
      engaged: known[1] ? engaged : known[2] ? sessions - bounces : null,
      conversions: known[3] ? conversions : null,
      revenue: known[4] ? revenue : null,
    });
  }
  return found;
}
