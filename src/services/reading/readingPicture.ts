import { addDays, type Day } from '../../core/calendar/day';
import { overlap, spanLength, type Span } from '../../core/calendar/span';
import type { History } from '../../core/history/history';
import { Accumulator } from '../../core/measures/accumulator';
import type { Change, PageRef } from '../../core/model/change';
import { concerns, type OutsideEvent } from '../../core/model/event';
import { isMade } from '../../core/model/steps';
import type { PageDay } from '../../core/reading/input';
import type { ControlPath } from '../../core/reading/strips';
import type { Reading } from '../../core/reading/readingModel';
import type { PartShares } from '../../core/reading/shares';
import { coveredDaysIn, firstCoveredDay } from '../../store/figures/coverage';
import type { Engines } from '../site/engines';
import { readingSource } from './readingSource';
import type { SiteContext } from '../site/siteContext';

/**
 * The days around a reading for its picture: figures by day, all changes of its pages, events in
 * view.
 */
export type ReadingPicture = {
  readonly shown: Span;
  readonly days: readonly PageDay[];
  readonly daysWithFigures: readonly Day[];
  readonly lastReadable: Day | null;
  readonly changes: readonly Change[];
  readonly events: readonly OutsideEvent[];
  /** The path of the yardstick over the days shown; null where there is none. */
  readonly path: ControlPath | null;
  /** The clicks to be expected of each day's showings; null where there is no history. */
  readonly expected: readonly (readonly [Day, number])[] | null;
  /** Countries that the figures of the pages are divided by, the most shown first. */
  readonly countries: readonly string[];
  /** The pages that make up the yardstick. */
  readonly yardstick: readonly PageRef[];
};

/** Days shown on either side of the two spans. */
const MARGIN_DAYS = 21;

/** What the picture of a reading shows; figures of several pages are added up by day. */
export function pictureOf(context: SiteContext, engines: Engines, reading: Reading): ReadingPicture {
  const { db, site, lastReadable } = context;
  const { narrowed, change: whole, compared, spans } = reading;
  const shown = shownSpan(context, reading);
  const pages = whole.pages.filter((page) => narrowed.pageId === null || page.id === narrowed.pageId);
  const pageIds = pages.map((page) => page.id);
  const change = { ...whole, pages };
  const { pageDays, engine, rows } = readingSource(context, engines, change, shown, narrowed);
  const asked = compared?.after
    ? {
        ids: rows,
        day: change.day,
        horizon: { days: spanLength(compared.after), settlingDays: spans.settlingDays },
      }
    : null;
  return {
    shown,
    days: addUpByDay(pageDays),
    daysWithFigures: [...coveredDaysIn(db, site.id, shown, narrowed.query !== null)].sort((a, b) => a - b),
    lastReadable,
    // The change itself stands on the picture also while it is only planned.
    changes: context.changes.filter(
      (other) =>
        (isMade(other) || other.id === change.id) &&
        other.day >= shown.firstDay &&
        other.day <= shown.lastDay &&
        other.pages.some((page) => pageIds.includes(page.id)),
    ),
    events: context.events.filter(
      (event) =>
        !event.hidden &&
        overlap(event, shown) !== null &&
        concerns(
          event,
          pages.map((page) => page.address),
        ),
    ),
    path: (asked && engine && compared && engine.path(asked, compared.before, shown)) ?? null,
    expected: engine && expectedByDay(engine.history, rows, shown),
    countries: countriesOf(engines.shares(site, pageIds, spans.before, spans.after)),
    yardstick: asked && engine ? engines.pages(site, engine.controlIds(asked.day, asked.horizon)) : [],
  };
}

const MOST_COUNTRIES = 20;

function countriesOf(shares: readonly PartShares[]): string[] {
  const parts = shares.find(({ by }) => by === 'country')?.parts ?? [];
  const shown = ({ before, after }: { before: number; after: number }) => before + after;
  return [...parts]
    .sort((a, b) => shown(b) - shown(a))
    .slice(0, MOST_COUNTRIES)
    .map(({ name }) => name);
}

function expectedByDay(
  history: History,
  rows: readonly number[],
  { firstDay, lastDay }: Span,
): [Day, number][] {
  const days: [Day, number][] = [];
  for (let day = firstDay; day <= lastDay; day = addDays(day, 1)) {
    const expected = history.expectedOf(rows, { firstDay: day, lastDay: day });
    if (expected !== null) days.push([day, expected]);
  }
  return days;
}

/** The spans with a margin on either side, as far as there are figures. */
function shownSpan({ db, site, coverage }: SiteContext, { spans: { before, after } }: Reading): Span {
  const first = firstCoveredDay(db, site.id) ?? before.firstDay;
  return {
    firstDay: Math.min(before.firstDay, Math.max(first, before.firstDay - MARGIN_DAYS)) as Day,
    lastDay: Math.max(
      after.lastDay,
      Math.min(coverage?.lastDay ?? 0, addDays(after.lastDay, MARGIN_DAYS)),
    ) as Day,
  };
}

function addUpByDay(rows: readonly PageDay[]): PageDay[] {
  const byDay = new Map<Day, { sums: Accumulator; fromQueries: boolean }>();
  for (const row of rows) {
    const known = byDay.get(row.day) ?? { sums: new Accumulator(), fromQueries: false };
    byDay.set(row.day, known);
    known.sums.addSums(row);
    known.fromQueries ||= row.fromQueries;
  }
  return [...byDay]
    .map(([day, { sums, fromQueries }]) => ({ day, ...sums, fromQueries }))
    .sort((a, b) => a.day - b.day);
}
