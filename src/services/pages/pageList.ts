import { pagePath } from '../../core/address/address';
import type { Day } from '../../core/calendar/day';
import { lastSpans, type Span } from '../../core/calendar/span';
import { compareTotals, type ExpectedClicks, type Metrics } from '../../core/measures/comparison';
import { sumFigures } from '../../core/measures/totals';
import { listPages } from '../../store/addresses/pages';
import { watchedPages } from '../../store/evidence/snapshots';
import { coveredDaysIn } from '../../store/figures/coverage';
import { pageDaysIn } from '../../store/figures/days';
import { periodBefore, periodTotals } from '../../store/figures/periods';
import type { SiteContext } from '../site/siteContext';

/** Days that the list of pages and a page's own figures cover. */
export const LIST_DAYS = 28;

/** A page with its figures of two spans, and its changes, newest first. */
export type PageListLine = {
  readonly id: number;
  /** Whether it is fetched every day. */
  readonly watched: boolean;
  readonly path: string;
  readonly metrics: Metrics;
  readonly changes: readonly { readonly id: number; readonly day: Day; readonly title: string }[];
};

/** The last days that can be read, and as many before. */
export function recentSpans(lastReadable: Day) {
  return lastSpans(lastReadable, LIST_DAYS);
}

/**
 * Pages by period totals, which were imported without days, compared with the period before if
 * there is one.
 */
export function periodPageList(
  context: SiteContext,
  periods: readonly Span[],
  period: Span,
): { readonly before: Span | null; readonly lines: readonly PageListLine[] } {
  const { db, site } = context;
  const before = periodBefore(periods, period);
  const totals = periodTotals(db, site.id, period);
  const totalsBefore = before && periodTotals(db, site.id, before);
  const lines = linesOf(context, (id) =>
    compareTotals(totalsBefore?.get(id) ?? null, totals.get(id) ?? null),
  ).filter(({ metrics }) => metrics.clicks.after !== null);
  return { before, lines };
}

/** One page over the last days that can be read against as many before. */
export function recentFigures(
  { db, site, lastReadable }: SiteContext,
  pageId: number,
  expected: ExpectedClicks,
): { readonly metrics: Metrics | null; readonly after: Span | null } {
  if (lastReadable === null) return { metrics: null, after: null };
  const { before, after } = recentSpans(lastReadable);
  const totals = (span: Span) =>
    coveredDaysIn(db, site.id, span).size > 0 ? sumFigures(pageDaysIn(db, [pageId], span), span) : null;
  return { metrics: compareTotals(totals(before), totals(after), expected), after };
}

function linesOf({ db, site, changes }: SiteContext, metricsOf: (pageId: number) => Metrics): PageListLine[] {
  const changesOf = new Map<number, PageListLine['changes'][number][]>();
  for (const { id, day, title, pages } of changes) {
    for (const page of pages) {
      const known = changesOf.get(page.id);
      if (known) known.push({ id, day, title });
      else changesOf.set(page.id, [{ id, day, title }]);
    }
  }
  const watched = watchedPages(db, site.id);
  return listPages(db, site.id).map((page) => ({
    id: page.id,
    watched: watched.has(page.id),
    path: pagePath(page.address),
    metrics: metricsOf(page.id),
    changes: changesOf.get(page.id) ?? [],
  }));
}
