import { addDays, type Day } from '../core/calendar/day';
import { changeSpans, type ChangeSpans, type Span } from '../core/calendar/span';
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

/** What all readings of a site share, fetched once for the days that any of them looks at. */
type SiteContext = {
  readonly site: Site;
  readonly today: Day;
  readonly lastReadable: Day | null;
  readonly daysWithFigures: ReadonlySet<Day>;
  readonly daysWithQueries: ReadonlySet<Day>;
  readonly events: readonly OutsideEvent[];
};

/** A change and the spans over which it is to be read. */
type Wanted = { readonly change: Change; readonly spans: ChangeSpans };

function wantedFor(site: Site, change: Change, wish: SpanWish = {}): Wanted {
  const windowDays = wish.windowDays ?? change.windowDays ?? site.windowDays;
  const settlingDays = wish.settlingDays ?? change.settlingDays ?? site.settlingDays;
  return { change, spans: changeSpans(change.day, windowDays, settlingDays) };
}

function siteContext(db: Db, site: Site, wanted: readonly Wanted[]): SiteContext {
  const coverage = siteCoverage(db, site.id);
  const span: Span = {
    firstDay: Math.min(...wanted.map(({ spans }) => spans.before.firstDay)) as Day,
    lastDay: Math.max(...wanted.map(({ spans }) => spans.after.lastDay)) as Day,
  };
  const anyQuery = wanted.some(({ change }) => change.queries.length > 0);
  return {
    site,
    today: today(),
    lastReadable: coverage && lastReadableDay(coverage, site.provisionalDays),
    daysWithFigures: coveredDaysIn(db, site.id, span),
    daysWithQueries: anyQuery ? coveredDaysIn(db, site.id, span, true) : new Set(),
    events: listEvents(db, site.id),
  };
}

function read(
  db: Db,
  context: SiteContext,
  wanted: Wanted,
  otherChanges: readonly Change[],
  queries: readonly string[],
): Reading {
  const { site, ...shared } = context;
  const { change, spans } = wanted;
  const span: Span = { firstDay: spans.before.firstDay, lastDay: spans.after.lastDay };
  const pageIds = change.pages.map((page) => page.id);
  return makeReading({
    ...shared,
    change,
    windowDays: spans.windowDays,
    settlingDays: spans.settlingDays,
    provisionalDays: site.provisionalDays,
    pageDays: pageDaysIn(db, pageIds, span),
    queryDays: queries.map((query) => ({
      query,
      days: queryDaysIn(db, site.id, query, pageIds, span),
    })),
    otherChanges,
  });
}

/** The reading of one change. */
export function readingOf(db: Db, site: Site, change: Change, wish: SpanWish = {}): Reading {
  const wanted = wantedFor(site, change, wish);
  const others = changesOnPages(
    db,
    change.pages.map((page) => page.id),
  );
  return read(db, siteContext(db, site, [wanted]), wanted, others, change.queries);
}

/** The readings of all changes of a site, newest change first, without the figures of single queries. */
export function readingsOf(db: Db, site: Site): Reading[] {
  const changes = listChanges(db, site.id);
  if (changes.length === 0) return [];
  const wanted = changes.map((change) => wantedFor(site, change));
  const context = siteContext(db, site, wanted);
  return wanted.map((one) => read(db, context, one, changes, []));
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
