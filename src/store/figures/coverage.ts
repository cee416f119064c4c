import type { Day } from '../../core/calendar/day';
import type { Span } from '../../core/calendar/span';
import { GRAINS, type Grain } from '../../core/facts/grains';
import type { Coverage } from '../../core/reading/readable';
import { prepared, type Db } from '../database';
import { shown } from './figuresSnapshot';

/* Which days a site has figures of, and of what kinds, by the records of its imports. */

/** Grains of which a day with rows counts as a day with figures of the site's pages. */
const OF_PAGES = "i.grain IN ('page_day', 'page_query_day')";

/**
 * How far the figures of a site reach and when the newest were brought in; null where there are
 * none.
 */
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

/**
 * The days of a span on which a site has figures of any page, or with `byQuery` those with rows by
 * query.
 */
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
