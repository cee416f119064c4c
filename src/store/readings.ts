import { addDays, type Day } from '../core/calendar/day';
import { changeSpans, inSpan, overlap, spanLength, type ChangeSpans, type Span } from '../core/calendar/span';
import { DEVICES } from '../core/intake/rowReader';
import type { Change, PageRef } from '../core/model/change';
import { concerns, type OutsideEvent } from '../core/model/event';
import { isMade, settlingUntilCrawled } from '../core/model/steps';
import type { Site } from '../core/model/site';
import type { Path } from '../core/net/path';
import { NOT_NARROWED, type Narrowing, type PageDay, type ReadingInput } from '../core/reading/input';
import type { Reading } from '../core/reading/model';
import { daysByReview, foresight } from '../core/reading/foresight';
import { lastReadableDay } from '../core/reading/readable';
import { makeReading } from '../core/reading/reading';
import { today } from './clock';
import { listChanges } from './changes';
import type { Db } from './database';
import { listEvents } from './events';
import { coveredDaysIn, firstCoveredDay, pageDaysIn, queryDaysIn, siteCoverage } from './figures';
import { matchingPeriods } from './periods';
import { queryRowId, queryTotalsIn } from './queries';
import { queryIdOf } from './queryIds';
import type { Readers } from './readers';

/** Spans wanted for a reading; what is absent comes from the change, then from the site. */
export type SpanWish = { readonly windowDays?: number | null; readonly settlingDays?: number | null };

/** What a reading is to be narrowed to, besides its spans. */
export type ReadingWish = SpanWish & Partial<Narrowing>;

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
  const settlingDays =
    wish.settlingDays ??
    settlingUntilCrawled(change.settlingDays ?? site.settlingDays, change.day, change.steps);
  return { change, spans: changeSpans(change.day, windowDays, settlingDays) };
}

/** The spans over which a change of a site is read. */
export function spansOf(site: Site, change: Change): ChangeSpans {
  return wantedFor(site, change).spans;
}

function siteContext(db: Db, site: Site, wanted: readonly Wanted[]): SiteContext {
  const coverage = siteCoverage(db, site.id);
  const span: Span = {
    firstDay: Math.min(...wanted.map(({ spans }) => spans.before.firstDay)) as Day,
    lastDay: Math.max(...wanted.map(({ spans }) => spans.after.lastDay)) as Day,
  };
  return {
    site,
    today: today(),
    lastReadable: coverage && lastReadableDay(coverage, site.provisionalDays),
    daysWithFigures: coveredDaysIn(db, site.id, span),
    daysWithQueries: coveredDaysIn(db, site.id, span, true),
    events: listEvents(db, site.id),
  };
}

/** The figures that a reading is made of, as it is narrowed. */
type Source = Pick<
  ReadingInput,
  'narrowed' | 'pageDays' | 'queryDays' | 'reader' | 'rows' | 'detail' | 'fromPeriods'
>;

function read(
  db: Db,
  readers: Readers,
  { site, ...shared }: SiteContext,
  { change, spans }: Wanted,
  otherChanges: readonly Change[],
  source: Source,
): Reading {
  const pageIds = change.pages.map((page) => page.id);
  return makeReading({
    ...shared,
    ...source,
    change,
    windowDays: spans.windowDays,
    settlingDays: spans.settlingDays,
    provisionalDays: site.provisionalDays,
    otherChanges,
    sharesIn: (before, after) => readers.shares(site, pageIds, before, after),
  });
}

/**
 * A sentence on whether the pages of a change that is only thought of could show what is expected of it by its review; null
 * where nothing is expected, or not by a day.
 */
export function foresightOf(db: Db, readers: Readers, site: Site, thought: Change): string | null {
  const { day, expectation, settlingDays } = thought;
  if (!expectation || expectation.reviewDay === null) return null;
  const settling = settlingDays ?? site.settlingDays;
  const days = daysByReview(day, expectation.reviewDay, settling, site.provisionalDays);
  if (days < 7) return foresight(null, days, expectation.reviewDay);
  const { wait } = readingOf(db, readers, site, thought, { windowDays: Math.min(days, LONGEST_SPAN) });
  return foresight(wait, Math.min(days, LONGEST_SPAN), expectation.reviewDay);
}

const LONGEST_SPAN = 364;

/** The days that a reading looks at. */
function wholeSpan({ spans }: Wanted): Span {
  return { firstDay: spans.before.firstDay, lastDay: spans.after.lastDay };
}

/** The reading of one change with all that belongs to it, narrowed as wished. */
export function readingOf(
  db: Db,
  readers: Readers,
  site: Site,
  change: Change,
  wish: ReadingWish = {},
): Reading {
  const narrowed: Narrowing = {
    query: wish.query ?? null,
    device: wish.device ?? null,
    pageId: wish.pageId ?? null,
  };
  const pages = change.pages.filter((page) => narrowed.pageId === null || page.id === narrowed.pageId);
  const wanted = wantedFor(site, { ...change, pages }, wish);
  const context = siteContext(db, site, [wanted]);
  const changes = listChanges(db, site.id).filter(isMade);
  const source = narrowedSource(db, readers, context, wanted, changes, narrowed);
  const reading =
    readPeriods(db, readers, context, wanted, changes, source) ??
    read(db, readers, context, wanted, changes, source);
  return { ...reading, change };
}

/** A plain before and after from totals of two periods, where there are no daily figures on both sides and they match. */
function readPeriods(
  db: Db,
  readers: Readers,
  context: SiteContext,
  wanted: Wanted,
  changes: readonly Change[],
  source: Source,
): Reading | null {
  const { spans, change } = wanted;
  const has = (span: Span) => source.pageDays.some(({ day }) => inSpan(day, span));
  if (source.narrowed.device !== null || (has(spans.before) && has(spans.after))) return null;
  const pageIds = change.pages.map((page) => page.id);
  const periods = matchingPeriods(db, context.site.id, pageIds, spans, source.narrowed.query);
  if (!periods) return null;
  const known: SiteContext = {
    ...context,
    lastReadable: Math.max(context.lastReadable ?? 0, spans.after.lastDay) as Day,
    daysWithFigures: periods.days,
    daysWithQueries: periods.days,
  };
  return read(db, readers, known, wanted, changes, {
    ...source,
    pageDays: periods.rows.map((row) => ({ ...row, fromQueries: false })),
    queryDays: [],
    reader: null,
    rows: [],
    fromPeriods: true,
    detail: null,
  });
}

function narrowedSource(
  db: Db,
  readers: Readers,
  { site, lastReadable }: SiteContext,
  wanted: Wanted,
  changes: readonly Change[],
  narrowed: Narrowing,
): Source {
  const { change } = wanted;
  const span = wholeSpan(wanted);
  const pageIds = change.pages.map((page) => page.id);
  const device = DEVICES[(narrowed.device ?? 'all') as keyof typeof DEVICES];
  const { query } = narrowed;
  const queries = query === null && device === 0 ? change.queries : [];
  const whole: Source = {
    narrowed,
    pageDays: [],
    queryDays: queries.map((text) => ({
      query: text,
      days: queryDaysIn(db, site.id, text, pageIds, span),
    })),
    reader: null,
    rows: pageIds,
    detail: {
      queriesIn: (before, after) => {
        const all = queryTotalsIn(db, pageIds, before, after);
        return query === null || all === null ? all : all.filter((one) => one.query === query);
      },
      curve: readers.curve(site),
    },
  };
  if (query !== null) {
    const id = queryIdOf(db, site.id, query);
    return {
      ...whole,
      pageDays: queryDaysIn(db, site.id, query, pageIds, span).map((row) => ({
        ...row,
        fromQueries: false,
      })),
      reader: lastReadable === null ? null : readers.queryReader(site, changes, pageIds, query, lastReadable),
      rows: id === null ? [] : [queryRowId(id)],
    };
  }
  const reader = lastReadable === null ? null : readers.reader(site, changes, lastReadable, device);
  if (device === 0) return { ...whole, pageDays: pageDaysIn(db, pageIds, span), reader };
  return { ...whole, pageDays: readers.deviceDays(site, pageIds, device, span), reader };
}

/**
 * The readings of all changes of a site, newest change first, without what only a single reading has: its queries,
 * why clicks moved, the year before, how long to wait.
 */
export function readingsOf(db: Db, readers: Readers, site: Site, wish: SpanWish = {}): Reading[] {
  const changes = listChanges(db, site.id);
  if (changes.length === 0) return [];
  const wanted = changes.map((change) => wantedFor(site, change, wish));
  const context = siteContext(db, site, wanted);
  const { lastReadable } = context;
  const made = changes.filter(isMade);
  const reader = lastReadable === null ? null : readers.reader(site, made, lastReadable, 0);
  const { events, today: now } = context;
  const known = JSON.stringify([site, wish, changes, events, now, lastReadable]);
  const onPage = changesByPage(made);
  return readers.list(site, known, () =>
    wanted.map((one) => {
      const rows = one.change.pages.map((page) => page.id);
      const others = new Set(rows.flatMap((id) => onPage.get(id) ?? []));
      return read(db, readers, context, one, [...others], {
        narrowed: NOT_NARROWED,
        pageDays: pageDaysIn(db, rows, wholeSpan(one)),
        queryDays: [],
        reader,
        rows,
        detail: null,
      });
    }),
  );
}

function changesByPage(changes: readonly Change[]): Map<number, Change[]> {
  const byPage = new Map<number, Change[]>();
  for (const change of changes) {
    for (const { id } of change.pages) {
      const known = byPage.get(id);
      if (known) known.push(change);
      else byPage.set(id, [change]);
    }
  }
  return byPage;
}

/** The days around a reading for its picture: figures by day, all changes of its pages, the events in view. */
export type ReadingPicture = {
  readonly shown: Span;
  readonly days: readonly PageDay[];
  readonly daysWithFigures: readonly Day[];
  readonly lastReadable: Day | null;
  readonly changes: readonly Change[];
  readonly events: readonly OutsideEvent[];
  /** The path of the yardstick over the days shown; null where there is none. */
  readonly path: Path | null;
  /** The pages that make up the yardstick. */
  readonly yardstick: readonly PageRef[];
};

/** Days shown on either side of the two spans. */
const MARGIN_DAYS = 21;

/** What the picture of a reading shows; figures of several pages are added up by day. */
export function pictureOf(db: Db, readers: Readers, site: Site, reading: Reading): ReadingPicture {
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
  const { narrowed, change, compared } = reading;
  const pages = change.pages.filter((page) => narrowed.pageId === null || page.id === narrowed.pageId);
  const pageIds = pages.map((page) => page.id);
  const lastReadable = coverage && lastReadableDay(coverage, site.provisionalDays);
  const all = listChanges(db, site.id);
  const changes = all.filter(isMade);
  const wanted: Wanted = {
    change: { ...change, pages },
    spans: { ...reading.spans, before: shown, after: shown },
  };
  const context = { site, lastReadable } as SiteContext;
  const { pageDays, reader, rows } = narrowedSource(db, readers, context, wanted, changes, narrowed);
  const days = compared?.after ? spanLength(compared.after) : null;
  return {
    shown,
    days: addUpByDay(pageDays),
    daysWithFigures: [...coveredDaysIn(db, site.id, shown, narrowed.query !== null)].sort((a, b) => a - b),
    lastReadable,
    // The change itself stands on the picture also while it is only planned.
    changes: all.filter(
      (c) =>
        (isMade(c) || c.id === change.id) &&
        c.day >= shown.firstDay &&
        c.day <= shown.lastDay &&
        c.pages.some((page) => pageIds.includes(page.id)),
    ),
    events: listEvents(db, site.id).filter(
      (e) =>
        !e.hidden &&
        overlap(e, shown) !== null &&
        concerns(
          e,
          pages.map((page) => page.address),
        ),
    ),
    path:
      days === null
        ? null
        : (reader?.path(change.day, rows, days, reading.spans.settlingDays, shown) ?? null),
    yardstick:
      days === null || !reader
        ? []
        : readers.pages(site, reader.yardstickIds(change.day, days, reading.spans.settlingDays)),
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
