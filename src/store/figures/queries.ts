import type { Day } from '../../core/calendar/day';
import { inSpan, type Span } from '../../core/calendar/span';
import { standingRows } from '../../core/facts/standing';
import type { Series } from '../../core/history/history';
import { Accumulator, addToColumns } from '../../core/measures/accumulator';
import type { Totals } from '../../core/measures/totals';
import type { PartShares } from '../../core/reading/shares';
import { isBrandQuery } from '../../core/reasons/brand';
import type { PositionBin, PositionCurve } from '../../core/appeal/positionCurve';
import { RowsSeen, ShowingsSum, type Showings } from '../../core/appeal/showings';
import type { QueryTotals } from '../../core/reasons/reasons';
import type { Db } from '../database';
import { ALWAYS, pageFacts } from './layers';
import { rowsNarrowedTo } from './narrowed';
import { labelText, queryIdOf, queryText } from './queryIds';

/** The totals of a query in a span. */
class QuerySum extends Accumulator implements Totals {
  days = 0;
}

/** Totals of every query on pages in two disjoint spans; null without rows in either. */
export function queryTotalsIn(
  db: Db,
  pageIds: readonly number[],
  before: Span,
  after: Span,
): QueryTotals[] | null {
  const found = new Map<number, { before: QuerySum | null; after: QuerySum | null }>();
  for (const pageId of pageIds) {
    // The days of a query are counted once a page, whatever its rows are divided by.
    const days = new Map<QuerySum, Set<number>>();
    for (const piece of pageFacts(db, pageId, 'page_query_day', { ...before, lastDay: after.lastDay })) {
      const { day, query, values } = piece.facts;
      for (const row of standingRows(piece)) {
        const at = day[row]! as Day;
        const side = inSpan(at, before) ? 'before' : inSpan(at, after) ? 'after' : null;
        if (side === null || values[1]![row] === 0) continue;
        let one = found.get(query[row]!);
        if (!one) found.set(query[row]!, (one = { before: null, after: null }));
        const sum = (one[side] ??= new QuerySum());
        sum.add(values[0]![row]!, values[1]![row]!, values[2]![row]!);
        const seen = days.get(sum);
        if (seen) seen.add(at);
        else days.set(sum, new Set([at]));
      }
    }
    for (const [sum, seen] of days) sum.days = Math.max(sum.days, seen.size);
  }
  if (found.size === 0) return null;
  return [...found].map(([id, { before: was, after: is }]) => ({
    ...{ query: queryText(db, id), before: was && { ...was }, after: is && { ...is } },
  }));
}

/** Queries of a page whose past is learned from, besides the one that is asked for. */
const MOST_QUERIES = 60;

/** The id under which a query stands in a history beside pages. */
export function queryRowId(queryId: number): number {
  return -queryId;
}

/**
 * Daily series of the queries of pages, summed over the pages: the given query and the most seen
 * ones.
 */
export function querySeries(db: Db, siteId: number, pageIds: readonly number[], asked: string): Series[] {
  const askedId = queryIdOf(db, siteId, asked);
  type Row = { day: number; clicks: number; impressions: number; positionSum: number };
  const byQuery = new Map<number, { rows: Row[]; impressions: number }>();
  for (const pageId of pageIds) {
    for (const piece of pageFacts(db, pageId, 'page_query_day', ALWAYS)) {
      const { day, query, values } = piece.facts;
      for (const row of standingRows(piece)) {
        let one = byQuery.get(query[row]!);
        if (!one) byQuery.set(query[row]!, (one = { rows: [], impressions: 0 }));
        const [clicks, impressions, positionSum] = values.map((column) => column[row]!) as [
          number,
          number,
          number,
        ];
        one.rows.push({ day: day[row]!, clicks, impressions, positionSum });
        one.impressions += impressions;
      }
    }
  }
  return [...byQuery]
    .sort(([a, x], [b, y]) => Number(b === askedId) - Number(a === askedId) || y.impressions - x.impressions)
    .slice(0, MOST_QUERIES)
    .map(([id, { rows }]) => {
      const first = rows.reduce((least, row) => Math.min(least, row.day), Infinity);
      const last = rows.reduce((most, row) => Math.max(most, row.day), -Infinity);
      const days = last - first + 1;
      const columns = {
        clicks: new Float64Array(days),
        impressions: new Float64Array(days),
        positionSum: new Float64Array(days),
        positionWeight: new Float64Array(days),
      };
      for (const row of rows)
        addToColumns(columns, row.day - first, row.clicks, row.impressions, row.positionSum);
      return { id: queryRowId(id), pages: pageIds, firstDay: first as Day, ...columns };
    });
}

/**
 * Clicks and impressions of each page by whole position, from its rows by query without brand
 * queries.
 */
export function positionBins(
  db: Db,
  pageIds: readonly number[],
  span: Span,
  brand: readonly string[],
): PositionBin[] {
  const brands = new Map<number, boolean>();
  const isBrand = (id: number): boolean => {
    let known = brands.get(id);
    if (known === undefined) brands.set(id, (known = isBrandQuery(queryText(db, id), brand)));
    return known;
  };
  return pageIds.flatMap((page) => {
    const bins = new Map<number, Accumulator>();
    for (const piece of pageFacts(db, page, 'page_query_day', span)) {
      const { day, query, values } = piece.facts;
      const [clicks, impressions, positionSum] = values as [Float64Array, Float64Array, Float64Array];
      for (const row of standingRows(piece)) {
        const position = Math.round(positionSum[row]! / impressions[row]!);
        if (!Number.isFinite(position) || !inSpan(day[row]! as Day, span) || isBrand(query[row]!)) continue;
        const bin = bins.get(position) ?? new Accumulator();
        bins.set(position, bin.add(clicks[row]!, impressions[row]!, positionSum[row]!));
      }
    }
    return [...bins.values()].map(({ clicks, impressions, positionSum }) => ({
      ...{ page, clicks, impressions },
      position: positionSum / impressions,
    }));
  });
}

const SEEN = new RowsSeen();

/** All devices and countries. */
const ALL = { device: 0, country: 0 };

/**
 * What the impressions of a page come to day by day, from its rows by query.
 *
 * @param page the daily figures of the page, or of the part of them that is asked for
 * @param within a span where no other days are asked for
 * @param part codes of a device and a country, whose rows by query must be there; 0 for all
 */
export function pageShowings(
  db: Db,
  page: Series,
  curve: PositionCurve,
  within = ALWAYS,
  part: { readonly device: number; readonly country: number } = ALL,
): Showings {
  const sum = new ShowingsSum(page, curve, SEEN);
  const whole = part.device === 0 && part.country === 0;
  for (const piece of pageFacts(db, page.id, 'page_query_day', within)) {
    const { day, query, values } = piece.facts;
    for (const row of whole ? standingRows(piece) : rowsNarrowedTo(piece, { query: 0, ...part }))
      sum.add(day[row]! as Day, query[row]!, values[1]![row]!, values[2]![row]!);
  }
  return sum.total();
}

/** Impressions of pages by country in two spans, where their rows are divided by it. */
export function countryShares(
  db: Db,
  pageIds: readonly number[],
  before: Span,
  after: Span,
): PartShares['parts'] {
  const sums = new Map<number, { before: number; after: number }>();
  for (const pageId of pageIds) {
    for (const { facts } of pageFacts(db, pageId, 'page_day', { ...before, lastDay: after.lastDay })) {
      for (let row = 0; row < facts.rows; row++) {
        const country = facts.country[row]!;
        const day = facts.day[row]! as Day;
        if (country === 0) continue;
        const sum = sums.get(country) ?? { before: 0, after: 0 };
        sums.set(country, sum);
        const impressions = facts.values[1]![row]!;
        if (inSpan(day, before)) sum.before += impressions;
        if (inSpan(day, after)) sum.after += impressions;
      }
    }
  }
  return [...sums]
    .map(([country, sum]) => ({ name: labelText(db, country), ...sum }))
    .sort((a, b) => (a.name < b.name ? -1 : 1));
}
