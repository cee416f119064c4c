import { addDays, type Day } from '../core/calendar/day';
import { changeSpans, type Span } from '../core/calendar/span';
import type { Change } from '../core/model/change';
import type { OutsideEvent } from '../core/model/event';
import type { Site } from '../core/model/site';
import type { PageDay } from '../core/reading/input';
import type { Reading } from '../core/reading/model';
import { lastReadableDay } from '../core/reading/readable';
import { makeReading } from '../core/reading/reading';
import { today } from './clock';
import { changesOnPages, listChanges } from './changes';
import type { Db } from './database';
import { listEvents } from './events';
import { coveredDaysIn, firstCoveredDay, pageDaysIn, queryDaysIn, siteCoverage } from './figures';

/** Spans wanted for a reading; what is absent comes from the change, then from the site. */
export type SpanWish = { readonly windowDays?: number | null; readonly settlingDays?: number | null };

/** What all readings of a site share, fetched once. */
type SiteContext = {
  readonly site: Site;
  readonly lastReadable: Day | null;
  readonly events: readonly OutsideEvent[];
};

function siteContext(db: Db, site: Site): SiteContext {
  const coverage = siteCoverage(db, site.id);
  return {
    site,
    lastReadable: coverage && lastReadableDay(coverage, site.provisionalDays),
    events: listEvents(db, site.id),
  };
}

function spansFor(site: Site, change: Change, wish: SpanWish) {
  const windowDays = wish.windowDays ?? change.windowDays ?? site.windowDays;
  const settlingDays = wish.settlingDays ?? change.settlingDays ?? site.settlingDays;
  return changeSpans(change.day, windowDays, settlingDays);
}

function read(
  db: Db,
  context: SiteContext,
  change: Change,
  wish: SpanWish,
  others: readonly Change[],
): Reading {
  const { site, lastReadable, events } = context;
  const { windowDays, settlingDays, before, after } = spansFor(site, change, wish);
  const span: Span = { firstDay: before.firstDay, lastDay: after.lastDay };
  const pageIds = change.pages.map((page) => page.id);
  return makeReading({
    change,
    windowDays,
    settlingDays,
    provisionalDays: site.provisionalDays,
    today: today(),
    lastReadable,
    daysWithFigures: coveredDaysIn(db, site.id, span),
    daysWithQueries: change.queries.length > 0 ? coveredDaysIn(db, site.id, span, true) : new Set(),
    pageDays: pageDaysIn(db, pageIds, span),
    queryDays: change.queries.map((query) => ({
      query,
      days: queryDaysIn(db, site.id, query, pageIds, span),
    })),
    otherChanges: others,
    events,
  });
}

/** The reading of one change. */
export function readingOf(db: Db, site: Site, change: Change, wish: SpanWish = {}): Reading {
  const others = changesOnPages(
    db,
    change.pages.map((page) => page.id),
  );
  return read(db, siteContext(db, site), change, wish, others);
}

/** The readings of all changes of a site, newest change first. */
export function readingsOf(db: Db, site: Site): Reading[] {
  const context = siteContext(db, site);
  const changes = listChanges(db, site.id);
  return changes.map((change) => read(db, context, change, {}, changes));
}

/** The days around a reading for its picture: figures by day, all changes of its pages, the events in view. */
export type ReadingPicture = {
  readonly shown: Span;
  readonly days: readonly PageDay[];
  readonly daysWithFigures: readonly Day[];
  readonly lastReadable: Day | null;
  readonly changes: readonly Change[];
  readonly events: readonly OutsideEvent[];
};

/** Days shown on either side of the two spans. */
const MARGIN_DAYS = 21;

/** What the picture of a reading shows; figures of several pages are added up by day. */
export function pictureOf(db: Db, site: Site, reading: Reading): ReadingPicture {
  const coverage = siteCoverage(db, site.id);
  const first = firstCoveredDay(db, site.id) ?? reading.spans.before.firstDay;
  const shown: Span = {
    firstDay: Math.min(
      reading.spans.before.firstDay,
      Math.max(first, reading.spans.before.firstDay - MARGIN_DAYS),
    ) as Day,
    lastDay: Math.max(
      reading.spans.after.lastDay,
      Math.min(coverage?.lastDay ?? 0, addDays(reading.spans.after.lastDay, MARGIN_DAYS)),
    ) as Day,
  };
  const pageIds = reading.change.pages.map((page) => page.id);
  return {
    shown,
    days: addUpByDay(pageDaysIn(db, pageIds, shown)),
    daysWithFigures: [...coveredDaysIn(db, site.id, shown)].sort((a, b) => a - b),
    lastReadable: coverage && lastReadableDay(coverage, site.provisionalDays),
    changes: changesOnPages(db, pageIds).filter((c) => c.day >= shown.firstDay && c.day <= shown.lastDay),
    events: listEvents(db, site.id).filter((e) => e.firstDay <= shown.lastDay && e.lastDay >= shown.firstDay),
  };
}

function addUpByDay(rows: readonly PageDay[]): PageDay[] {
  const byDay = new Map<Day, PageDay>();
  for (const row of rows) {
    const sum = byDay.get(row.day);
    byDay.set(
      row.day,
      sum
        ? {
            day: row.day,
            clicks: sum.clicks + row.clicks,
            impressions: sum.impressions + row.impressions,
            positionSum:
              sum.positionSum === null || row.positionSum === null ? null : sum.positionSum + row.positionSum,
            fromQueries: sum.fromQueries || row.fromQueries,
          }
        : row,
    );
  }
  return [...byDay.values()].sort((a, b) => a.day - b.day);
}
