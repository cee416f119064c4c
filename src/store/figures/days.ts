import type { Day } from '../../core/calendar/day';
import type { Span } from '../../core/calendar/span';
import { GRAINS, type Grain } from '../../core/facts/grains';
import { standingRows } from '../../core/facts/standing';
import { Accumulator } from '../../core/measures/accumulator';
import type { DayFigures, Totals } from '../../core/measures/totals';
import type { PageDay } from '../../core/reading/input';
import type { Coverage } from '../../core/reading/readable';
import { prepared, type Db } from '../database';
import { pageFacts } from './layers';
import { queryIdOf } from './queryIds';
import { seriesDays, siteSeries, type SiteSeries } from './series';
import { shown } from './shown';

/** Grains of which a day with rows counts as a day with figures of the site's pages. */
const OF_PAGES = "i.grain IN ('page_day', 'page_query_day')";

/** How far the figures of a site reach and when the newest were brought in; null where there are none. */
export function siteCoverage(db: Db, siteId: number): Coverage | null {
  const row = prepared<[number], { lastDay: number; takenOn: number }>(
    shown(db),
    `SELECT d.day AS lastDay, max(i.taken_on) AS takenOn FROM import i JOIN import_day d ON d.import_id = i.id
     WHERE i.site_id = ? AND i.state = 'done' AND ${OF_PAGES} GROUP BY d.day ORDER BY d.day DESC LIMIT 1`,
  ).get(siteId);
  return row ? { lastDay: row.lastDay as Day, takenOn: row.takenOn as Day } : null;
}

/** The first day with figures of a site, or null. */
export function firstCoveredDay(db: Db, siteId: number): Day | null {
  const row = prepared<[number], { day: number | null }>(
    shown(db),
    `SELECT min(d.day) AS day FROM import i JOIN import_day d ON d.import_id = i.id
     WHERE i.site_id = ? AND i.state = 'done' AND ${OF_PAGES}`,
  ).get(siteId);
  return (row?.day ?? null) as Day | null;
}

/** The days of a span on which a site has figures of any page, or with `byQuery` those with rows by query. */
export function coveredDaysIn(db: Db, siteId: number, span: Span, byQuery = false): Set<Day> {
  const days = prepared<[number, number, number], number>(
    shown(db),
    `SELECT DISTINCT d.day FROM import i JOIN import_day d ON d.import_id = i.id
     WHERE i.site_id = ? AND i.state = 'done' AND ${byQuery ? "i.grain = 'page_query_day'" : OF_PAGES}
       AND d.day BETWEEN ? AND ? ORDER BY d.day`,
  )
    .pluck()
    .all(siteId, span.firstDay, span.lastDay);
  return new Set(days as Day[]);
}

/** A day of which there are rows of some grain, and when the newest of them were taken. */
export type CoveredDay = { readonly day: Day; readonly takenOn: Day; readonly rows: number };

/** The days with rows of a grain, in order. */
export function daysOfGrain(db: Db, siteId: number, grain: Grain): CoveredDay[] {
  return prepared<[number, string], CoveredDay>(
    shown(db),
    `SELECT d.day, max(i.taken_on) AS takenOn, max(d.rows) AS rows
     FROM import i JOIN import_day d ON d.import_id = i.id
     WHERE i.site_id = ? AND i.state = 'done' AND i.grain = ? GROUP BY d.day ORDER BY d.day`,
  ).all(siteId, grain);
}

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

/** The totals of every page of a site over each of some spans, by page id. Pages without figures in it are left out. */
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

/** The grains a site has figures of by day, with their first and last days. */
export function grainsOf(db: Db, siteId: number): { grain: Grain; firstDay: Day; lastDay: Day }[] {
  const rows = prepared<[number], { grain: Grain; firstDay: Day; lastDay: Day }>(
    shown(db),
    `SELECT i.grain, min(d.day) AS firstDay, max(d.day) AS lastDay
     FROM import i JOIN import_day d ON d.import_id = i.id
     WHERE i.site_id = ? AND i.state = 'done' GROUP BY i.grain`,
  ).all(siteId);
  return rows
    .filter(({ grain }) => GRAINS[grain].dated)
    .sort((a, b) => GRAINS[a.grain].code - GRAINS[b.grain].code);
}
