import { and, desc, eq, gte, lte, max } from 'drizzle-orm';
import type { Day } from '../core/calendar/day';
import type { Span } from '../core/calendar/span';
import type { DayFigures, Totals } from '../core/measures/totals';
import type { PageDay } from '../core/reading/input';
import type { Coverage } from '../core/reading/readable';
import { prepared, type Db } from './database';
import { imported, siteDayCovered } from './schema';

/** How far the figures of a site reach and when the newest were brought in; null where there are none. */
export function siteCoverage(db: Db, siteId: number): Coverage | null {
  const newest = db
    .select({ day: siteDayCovered.day })
    .from(siteDayCovered)
    .where(eq(siteDayCovered.siteId, siteId))
    .orderBy(desc(siteDayCovered.day))
    .limit(1)
    .get();
  if (!newest) return null;
  const taken = db
    .select({ on: max(imported.takenOn) })
    .from(imported)
    .where(and(eq(imported.siteId, siteId), eq(imported.state, 'done'), gte(imported.lastDay, newest.day)))
    .get();
  return { lastDay: newest.day as Day, takenOn: (taken?.on ?? newest.day) as Day };
}

/** The first day with figures of a site, or null. */
export function firstCoveredDay(db: Db, siteId: number): Day | null {
  const row = db
    .select({ day: siteDayCovered.day })
    .from(siteDayCovered)
    .where(eq(siteDayCovered.siteId, siteId))
    .orderBy(siteDayCovered.day)
    .limit(1)
    .get();
  return (row?.day as Day | undefined) ?? null;
}

/** The days of a span on which a site has figures of any page, or with `byQuery` those with rows by query. */
export function coveredDaysIn(db: Db, siteId: number, span: Span, byQuery = false): Set<Day> {
  const rows = db
    .select({ day: siteDayCovered.day })
    .from(siteDayCovered)
    .where(
      and(
        eq(siteDayCovered.siteId, siteId),
        gte(siteDayCovered.day, span.firstDay),
        lte(siteDayCovered.day, span.lastDay),
        byQuery ? eq(siteDayCovered.hasQueries, true) : undefined,
      ),
    )
    .all();
  return new Set(rows.map((row) => row.day as Day));
}

/** Daily totals of pages within a span, page by page in the order of their days. */
export function pageDaysIn(db: Db, pageIds: readonly number[], span: Span): PageDay[] {
  type Row = [day: Day, clicks: number, impressions: number, positionSum: number | null, fromQueries: number];
  // As plain arrays, which are a third faster to fetch than objects: the ledger asks for thousands of rows.
  const statement = prepared<[number, number, number], Row>(
    db,
    `SELECT day, clicks, impressions, position_sum, from_queries
     FROM page_total_day WHERE page_id = ? AND day BETWEEN ? AND ?`,
  ).raw();
  return pageIds.flatMap((id) =>
    statement
      .all(id, span.firstDay, span.lastDay)
      .map(([day, clicks, impressions, positionSum, fromQueries]) => ({
        ...{ day, clicks, impressions, positionSum },
        fromQueries: fromQueries === 1,
      })),
  );
}

/*
 * A day's rows may be divided by device, by country, by both or by neither, depending on the files that brought
 * them. They are never mixed: the least divided rows of a page and day stand for it.
 */
export const DIVISION = "((device <> 0) + 2 * (country <> ''))";

/** Daily figures of one exact query on the given pages within a span, added up over its least divided rows. */
export function queryDaysIn(
  db: Db,
  siteId: number,
  query: string,
  pageIds: readonly number[],
  span: Span,
): DayFigures[] {
  const statement = prepared<[number, string, number, number, number], DayFigures>(
    db,
    `SELECT day, sum(clicks) AS clicks, sum(impressions) AS impressions,
            CASE WHEN count(position_sum) = count(*) THEN sum(position_sum) END AS positionSum
     FROM (
       SELECT f.*, ${DIVISION} AS division, min(${DIVISION}) OVER (PARTITION BY f.day) AS least
       FROM page_query_day f
       WHERE f.page_id = ? AND f.query_id = (SELECT id FROM query WHERE text = ? AND site_id = ?)
         AND f.day BETWEEN ? AND ?
     )
     WHERE division = least GROUP BY day`,
  );
  return pageIds.flatMap((id) => statement.all(id, query, siteId, span.firstDay, span.lastDay));
}

/** The totals of every page of a site over a span, by page id. Pages without figures in it are left out. */
export function siteTotals(db: Db, siteId: number, span: Span): Map<number, Totals> {
  const rows = prepared<[number, number, number], Totals & { pageId: number }>(
    db,
    `SELECT t.page_id AS pageId, count(*) AS days, sum(t.clicks) AS clicks, sum(t.impressions) AS impressions,
              coalesce(sum(t.position_sum), 0) AS positionSum,
              sum(CASE WHEN t.position_sum IS NULL THEN 0 ELSE t.impressions END) AS positionWeight
       FROM page p CROSS JOIN page_total_day t ON t.page_id = p.id
       WHERE p.site_id = ? AND t.day BETWEEN ? AND ? GROUP BY t.page_id`,
  ).all(siteId, span.firstDay, span.lastDay);
  return new Map(rows.map(({ pageId, ...totals }) => [pageId, totals]));
}
