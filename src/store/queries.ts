import type { Day } from '../core/calendar/day';
import type { Span } from '../core/calendar/span';
import type { Series } from '../core/history/history';
import type { Totals } from '../core/measures/totals';
import type { PartShares } from '../core/reading/shares';
import { isBrandQuery } from '../core/reasons/brand';
import type { PositionBin } from '../core/reasons/positionCurve';
import type { QueryTotals } from '../core/reasons/reasons';
import { prepared, type Db } from './database';
import { DIVISION } from './figures';

/** Rows of a page by query within some days, of which the least divided stand for each query and day. */
const LEAST_DIVIDED = `
  SELECT * FROM (
    SELECT f.*, ${DIVISION} AS division, min(${DIVISION}) OVER (PARTITION BY f.query_id, f.day) AS least
    FROM page_query_day f WHERE f.page_id = ? AND f.day BETWEEN ? AND ?
  ) WHERE division = least`;

type QueryRow = [
  query: string,
  after: number,
  days: number,
  clicks: number,
  impressions: number,
  positionSum: number,
  positionWeight: number,
];

/** Sums of every query on the given pages in two spans that do not overlap; null where there are no rows in either. */
export function queryTotalsIn(
  db: Db,
  pageIds: readonly number[],
  before: Span,
  after: Span,
): QueryTotals[] | null {
  const statement = prepared<number[], QueryRow>(
    db,
    `SELECT q.text, x.side, x.days, x.clicks, x.impressions, x.position_sum, x.position_weight
     FROM (
       SELECT query_id, day >= ? AS side, count(DISTINCT day) AS days, sum(clicks) AS clicks,
              sum(impressions) AS impressions, coalesce(sum(position_sum), 0) AS position_sum,
              sum(CASE WHEN position_sum IS NULL THEN 0 ELSE impressions END) AS position_weight
       FROM (${LEAST_DIVIDED}) WHERE day <= ? OR day >= ? GROUP BY query_id, side
     ) x JOIN query q ON q.id = x.query_id`,
  ).raw();
  const found = new Map<string, { before: Totals | null; after: Totals | null }>();
  for (const pageId of pageIds) {
    const rows = statement.all(
      after.firstDay,
      pageId,
      before.firstDay,
      after.lastDay,
      before.lastDay,
      after.firstDay,
    );
    for (const [query, side, days, clicks, impressions, positionSum, positionWeight] of rows) {
      if (impressions === 0) continue;
      const one = found.get(query) ?? { before: null, after: null };
      found.set(query, one);
      const key = side === 1 ? 'after' : 'before';
      const sum = one[key];
      one[key] = {
        days: Math.max(days, sum?.days ?? 0),
        clicks: clicks + (sum?.clicks ?? 0),
        impressions: impressions + (sum?.impressions ?? 0),
        positionSum: positionSum + (sum?.positionSum ?? 0),
        positionWeight: positionWeight + (sum?.positionWeight ?? 0),
      };
    }
  }
  return found.size === 0 ? null : [...found].map(([query, totals]) => ({ query, ...totals }));
}

/** Queries of a page whose past is learned from, besides the one that is asked for. */
const MOST_QUERIES = 60;

/** The id under which a query stands in a history beside pages. */
export function queryRowId(queryId: number): number {
  return -queryId;
}

/** The id of a query of a site, or null where it was never seen. */
export function queryIdOf(db: Db, siteId: number, text: string): number | null {
  const row = prepared<[number, string], { id: number }>(
    db,
    'SELECT id FROM query WHERE site_id = ? AND text = ?',
  ).get(siteId, text);
  return row?.id ?? null;
}

/** Daily series of the queries of some pages, added up over them: the asked one and those seen most. */
export function querySeries(db: Db, siteId: number, pageIds: readonly number[], asked: string): Series[] {
  const askedId = queryIdOf(db, siteId, asked);
  type Row = [query: number, day: number, clicks: number, impressions: number, positionSum: number | null];
  const statement = prepared<number[], Row>(
    db,
    `SELECT query_id, day, sum(clicks), sum(impressions),
            CASE WHEN count(position_sum) = count(*) THEN sum(position_sum) END
     FROM (${LEAST_DIVIDED}) GROUP BY query_id, day`,
  ).raw();
  const byQuery = new Map<number, { rows: Row[]; impressions: number }>();
  for (const pageId of pageIds) {
    for (const row of statement.iterate(pageId, 0, 1e6)) {
      const one = byQuery.get(row[0]) ?? { rows: [], impressions: 0 };
      byQuery.set(row[0], one);
      one.rows.push(row);
      one.impressions += row[3];
    }
  }
  return [...byQuery]
    .sort(([a, x], [b, y]) => Number(b === askedId) - Number(a === askedId) || y.impressions - x.impressions)
    .slice(0, MOST_QUERIES)
    .map(([id, { rows }]) => {
      const first = rows.reduce((least, row) => Math.min(least, row[1]), Infinity);
      const last = rows.reduce((most, row) => Math.max(most, row[1]), -Infinity);
      const days = last - first + 1;
      const [clicks, impressions, positionSum] = [
        new Float64Array(days),
        new Float64Array(days),
        new Float64Array(days),
      ];
      for (const [, day, c, m, p] of rows) {
        clicks[day - first]! += c;
        impressions[day - first]! += m;
        positionSum[day - first]! += p ?? NaN;
      }
      return { id: queryRowId(id), pages: pageIds, firstDay: first as Day, clicks, impressions, positionSum };
    });
}

/** Clicks and impressions by whole position, from the query rows of some pages, without searches for the site itself. */
export function positionBins(
  db: Db,
  pageIds: readonly number[],
  span: Span,
  brand: readonly string[],
): PositionBin[] {
  type Row = [query: string, clicks: number, impressions: number, positionSum: number];
  const statement = prepared<number[], Row>(
    db,
    `SELECT q.text, x.clicks, x.impressions, x.position_sum
     FROM (
       SELECT query_id, sum(clicks) AS clicks, sum(impressions) AS impressions, sum(position_sum) AS position_sum
       FROM page_query_day
       WHERE page_id = ? AND day BETWEEN ? AND ? AND impressions > 0 AND position_sum IS NOT NULL
       GROUP BY query_id, round(position_sum / impressions)
     ) x JOIN query q ON q.id = x.query_id`,
  ).raw();
  const bins: PositionBin[] = [];
  for (const pageId of pageIds) {
    for (const [query, clicks, impressions, positionSum] of statement.iterate(
      pageId,
      span.firstDay,
      span.lastDay,
    )) {
      if (!isBrandQuery(query, brand))
        bins.push({ position: positionSum / impressions, clicks, impressions });
    }
  }
  return bins;
}

/** Impressions of pages by country in two spans, where their rows are divided by it. */
export function countryShares(
  db: Db,
  pageIds: readonly number[],
  before: Span,
  after: Span,
): PartShares['parts'] {
  const statement = prepared<number[], [country: string, before: number, after: number]>(
    db,
    `SELECT country, sum(CASE WHEN day <= ? THEN impressions ELSE 0 END),
            sum(CASE WHEN day >= ? THEN impressions ELSE 0 END)
     FROM page_day WHERE page_id = ? AND day BETWEEN ? AND ? AND country <> '' GROUP BY country`,
  ).raw();
  const sums = new Map<string, { before: number; after: number }>();
  for (const pageId of pageIds) {
    for (const [name, b, a] of statement.all(
      before.lastDay,
      after.firstDay,
      pageId,
      before.firstDay,
      after.lastDay,
    )) {
      const sum = sums.get(name);
      sums.set(name, { before: b + (sum?.before ?? 0), after: a + (sum?.after ?? 0) });
    }
  }
  return [...sums].map(([name, sum]) => ({ name, ...sum }));
}
