import type { Day } from '../../core/calendar/day';
import type { Span } from '../../core/calendar/span';
import { standingRows } from '../../core/facts/standing';
import { Accumulator } from '../../core/measures/accumulator';
import type { DayFigures, Totals } from '../../core/measures/totals';
import type { PageDay } from '../../core/reading/input';
import type { Db } from '../database';
import { pageFacts } from './layers';
import { queryIdOf } from './queryIds';
import { seriesDays, siteSeries, type SiteSeries } from './series';

/** Daily totals of pages within a span, page by page in the order of their days. */
export function pageDaysIn(db: Db, pageIds: readonly number[], span: Span): PageDay[] {
  return pageIds.flatMap((id) => seriesDays(db, id, span));
}

/** Daily figures of one exact query on the given pages within a span, page by page. */
export function queryDaysIn(
  db: Db,
  siteId: number,
  query: string,
  pageIds: readonly number[],
  span: Span,
): DayFigures[] {
  const id = queryIdOf(db, siteId, query);
  if (id === null) return [];
  return pageIds.flatMap((page) => {
    const days = new Map<number, Accumulator>();
    for (const piece of pageFacts(db, page, 'page_query_day', span)) {
      const { day, query: queries, values } = piece.facts;
      for (const row of standingRows(piece)) {
        if (queries[row] !== id || day[row]! < span.firstDay || day[row]! > span.lastDay) continue;
        const sums = days.get(day[row]!) ?? new Accumulator();
        days.set(day[row]!, sums.add(values[0]![row]!, values[1]![row]!, values[2]![row]!));
      }
    }
    return [...days].sort(([a], [b]) => a - b).map(([day, sums]) => ({ day: day as Day, ...sums }));
  });
}

/**
 * Totals of every page of a site over each span, by page id. Pages without figures are left out.
 */
export function siteTotals(db: Db, siteId: number, spans: readonly Span[]): Map<number, Totals>[] {
  const all = spans.map(() => new Map<number, Totals>());
  for (const one of siteSeries(db, siteId)) {
    spans.forEach((span, i) => {
      const totals = totalsIn(one, span);
      if (totals.days > 0) all[i]!.set(one.id, totals);
    });
  }
  return all;
}

function totalsIn(series: SiteSeries, span: Span): Totals {
  const { firstDay, clicks, impressions, positionSum, positionWeight, present } = series;
  const sum = { days: 0, clicks: 0, impressions: 0, positionSum: 0, positionWeight: 0 };
  const last = Math.min(clicks.length - 1, span.lastDay - firstDay);
  for (let at = Math.max(0, span.firstDay - firstDay); at <= last; at++) {
    if (present[at] === 0) continue;
    sum.days++;
    sum.clicks += clicks[at]!;
    sum.impressions += impressions[at]!;
    sum.positionSum += positionSum[at]!;
    sum.positionWeight += positionWeight[at]!;
  }
  return sum;
}
