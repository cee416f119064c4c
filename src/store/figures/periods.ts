import { addDays, type Day } from '../../core/calendar/day';
import { spanLength, type Span } from '../../core/calendar/span';
import { standingRows } from '../../core/facts/standing';
import { Accumulator } from '../../core/measures/accumulator';
import type { DayFigures, Totals } from '../../core/measures/totals';
import { prepared, type Db } from '../database';
import { factsInPieces } from './layers';
import { queryIdOf } from './queryIds';
import { shown } from './figuresSnapshot';

/*
 * Period totals imported without days. They are separate: never added to daily figures, and never
 * divided among days. An import of weeks lists them by their last days.
 */

type Kind = 'page_period' | 'page_query_period';

/** The periods of which a site has totals by page, the newest first. */
export function periodsOf(db: Db, siteId: number, kind: Kind = 'page_period'): Span[] {
  return prepared<[number, string], Span>(
    shown(db),
    `SELECT DISTINCT coalesce(d.day - 6, i.first_day) AS firstDay, coalesce(d.day, i.last_day) AS lastDay
     FROM import i LEFT JOIN import_day d ON d.import_id = i.id
     WHERE i.site_id = ? AND i.grain = ? AND i.state = 'done' ORDER BY lastDay DESC, firstDay`,
  ).all(siteId, kind);
}

/** The period right before another and as long, if a site has totals of it. */
export function periodBefore(periods: readonly Span[], period: Span): Span | null {
  const lastDay = addDays(period.firstDay, -1);
  const days = spanLength(period);
  return periods.find((one) => one.lastDay === lastDay && spanLength(one) === days) ?? null;
}

/**
 * The totals of one page over exactly a period, of all its queries or one: as they were brought in,
 * else added up from periods that follow each other without a gap, such as weeks. Null where
 * neither is there.
 */
export function periodFigures(
  db: Db,
  siteId: number,
  pageId: number,
  { firstDay, lastDay }: Span,
  query: string | null = null,
): DayFigures | null {
  const queryId = query === null ? 0 : queryIdOf(db, siteId, query);
  const kind: Kind = query === null ? 'page_period' : 'page_query_period';
  const beginningOn = (at: Day) => periodsFrom(db, pageId, kind, at, queryId);
  const exact = beginningOn(firstDay).get(lastDay);
  if (exact) return { day: firstDay, ...exact };
  const sums = new Accumulator();
  for (let at = firstDay; at <= lastDay;) {
    const [last, figures] = [...beginningOn(at)].find(([end]) => end <= lastDay) ?? [null];
    if (last === null) return null;
    sums.addSums(figures!);
    at = addDays(last, 1);
  }
  return { day: firstDay, ...sums };
}

/**
 * The totals of a page, or of one query on it, over the periods that begin on a day, by their last
 * days.
 */
function periodsFrom(
  db: Db,
  pageId: number,
  kind: Kind,
  firstDay: Day,
  queryId: number | null,
): Map<Day, Accumulator> {
  const found = new Map<Day, Accumulator>();
  for (const piece of factsInPieces(db, pageId, kind, firstDay, firstDay)) {
    const { day, query: queries, values } = piece.facts;
    for (const row of standingRows(piece)) {
      if (queries[row] !== queryId) continue;
      const lastDay = day[row]! as Day;
      const sums = found.get(lastDay) ?? new Accumulator();
      found.set(lastDay, sums.add(values[0]![row]!, values[1]![row]!, values[2]![row]!));
    }
  }
  return found;
}

/** The totals of every page of a site over exactly a period, by page id. */
export function periodTotals(db: Db, siteId: number, period: Span): Map<number, Totals> {
  const pages = prepared<[number], number>(shown(db), 'SELECT id FROM page WHERE site_id = ?')
    .pluck()
    .all(siteId);
  const totals = new Map<number, Totals>();
  for (const id of pages) {
    const figures = periodFigures(db, siteId, id, period);
    if (!figures) continue;
    totals.set(id, { ...figures, days: spanLength(period) });
  }
  return totals;
}

/** Totals of two periods that are exactly the spans of a reading: a row each, on its first day. */
export type MatchingPeriods = { readonly rows: readonly DayFigures[]; readonly days: ReadonlySet<Day> };

/**
 * Totals of pages over both spans, if periods match them exactly and cover each page in both; else
 * null.
 */
export function matchingPeriods(
  db: Db,
  siteId: number,
  pageIds: readonly number[],
  spans: { readonly before: Span; readonly after: Span },
  query: string | null,
): MatchingPeriods | null {
  const rows: DayFigures[] = [];
  for (const id of pageIds) {
    for (const span of [spans.before, spans.after]) {
      const figures = periodFigures(db, siteId, id, span, query);
      if (!figures) return null;
      rows.push(figures);
    }
  }
  if (rows.length === 0) return null;
  const days = new Set<Day>();
  for (const { firstDay, lastDay } of [spans.before, spans.after]) {
    for (let day = firstDay; day <= lastDay; day = addDays(day, 1)) days.add(day);
  }
  return { rows, days };
}
