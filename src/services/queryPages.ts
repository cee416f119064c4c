import type { Span } from '../core/calendar/span';
import { ledDays, type Led, type ShownOnDay } from '../core/history/led';
import { queryDaysIn } from '../store/figures/days';
import type { SiteContext } from './siteContext';

/** Which of some pages led for a query within a span. */
export function ledFor(
  { db, site }: SiteContext,
  query: string,
  pageIds: readonly number[],
  span: Span,
): Led[] {
  return ledDays(
    pageIds.flatMap((pageId) =>
      queryDaysIn(db, site.id, query, [pageId], span).map(
        ({ day, impressions, positionSum, positionWeight }): ShownOnDay => ({
          ...{ pageId, day, impressions },
          position: positionWeight > 0 ? positionSum / positionWeight : null,
        }),
      ),
    ),
  );
}
