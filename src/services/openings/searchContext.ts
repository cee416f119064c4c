import { pagePath } from '../../core/address/address';
import type { Day } from '../../core/calendar/day';
import { inSpan, spanLength, type Span } from '../../core/calendar/span';
import type { PageEvidence } from '../../core/model/evidence';
import type { PageTraits } from '../../core/model/traits';
import type { Chosen } from '../../core/openings/appealPosterior';
import { MONTH_DAYS, type Gain, type Opening } from '../../core/openings/opening';
import type { Busy } from '../../core/openings/named';
import { querySpread } from '../../core/openings/querySpread';
import type { Named } from '../../core/openings/kinds/kind';
import { siteAppeal, type PairFigures, type SiteAppeal } from '../../core/openings/site';
import { gainOfPosition } from '../../core/openings/withinReach';
import { latestEvidence } from '../../store/evidence/snapshots';
import { landingTotals, type LandingTotals } from '../../store/figures/landing';
import { sumIn, type Pairs } from '../../store/figures/pairs';
import { bindsPages } from '../../core/rounds/state';
import { listRounds } from '../../store/rounds/rounds';
import { pageTraits, queryTraits } from '../../store/traits/traits';
import type { Engines } from '../site/engines';
import { brandTest } from '../site/brands';
import type { Lists } from '../lists/lists';
import type { Findings } from '../pages/findings';
import type { Links } from '../pages/links';
import type { Books } from '../scorebook/books';
import type { Shifts } from '../figures/shifts';
import type { Tell } from '../site/turns';
import { memoizePerContext, type SiteContext } from '../site/siteContext';
import type { SiteFigures } from '../site/siteFigures';
import { spansOf } from '../reading/readingSpans';

/** What openings are found with: each keeps what it added up. */
export type Finders = {
  readonly engines: Engines;
  readonly lists: Lists;
  readonly shifts: Shifts;
  readonly findings: Findings;
  readonly links: Links;
  readonly books: Books;
  readonly tell: Tell;
};

/** Openings that would bring less a month are not worth a line. */
export const LEAST_CLICKS = 1;

/** What the kinds of openings are found in. */
export type SearchContext = {
  readonly context: SiteContext;
  readonly figures: SiteFigures;
  readonly span: Span;
  readonly months: number;
  readonly pairs: readonly PairFigures[];
  readonly traits: ReadonlyMap<number, PageTraits>;
  readonly texts: ReadonlyMap<number, string>;
  readonly landing: ReadonlyMap<number, LandingTotals>;
  readonly evidence: ReadonlyMap<number, { readonly evidence: PageEvidence; readonly lastDay: Day }>;
  readonly appeal: SiteAppeal;
  /** How far queries lie from the CTR by position, see `querySpread`. */
  readonly spread: number;
  /** Tells how far something has come. */
  readonly tell: (what: string) => (done: number, of: number) => void;
};

/** An opening as it was found, and what its sentence names. */
export type Found = { readonly opening: Omit<Opening, 'kind'>; readonly named?: Named };

/** What finding openings rests on: the pairs of the span, what the site's pages usually earn, and what is known of its pages. */
export function searchContextOf(
  context: SiteContext,
  figures: SiteFigures,
  { lists, tell }: Finders,
  span: Span,
): SearchContext {
  const { db, site } = context;
  const pairs = lists.pairsOf(context, figures, { spans: { now: span, was: null }, device: 0 });
  const texts = lists.textsOf(context);
  const found = pairFiguresOf(pairs, brandTest(site, queryTraits(db, site.id), texts));
  const rest = restOf(figures, found, span, pairs);
  const appeal = siteAppeal(found, { rest, days: daysOf(figures, span, pairs) }, figures.curve);
  return {
    ...{ context, figures, span, texts, appeal, pairs: found, spread: querySpread(found, appeal) },
    traits: pageTraits(db, site.id),
    months: spanLength(span) / MONTH_DAYS,
    landing: landingTotals(
      db,
      figures.series.map(({ id }) => id),
      span,
    ),
    evidence: latestEvidence(db, site.id),
    tell: (what) => (done, of) => tell({ siteId: site.id, what, done, of }),
  };
}

/** What a query on a page would bring more at a position. */
export function gainAt({ appeal, months, spread }: SearchContext, pair: PairFigures, target: number): Gain {
  const page = appeal.byPage.get(pair.pageId) ?? { clicks: 0, expected: 0 };
  return gainOfPosition(
    { impressions: pair.impressions, position: pair.position! },
    target,
    appeal.curve,
    { prior: appeal.prior, page, own: pair, spread },
    months,
  );
}

function pairFiguresOf(pairs: Pairs, brands: (query: number) => boolean): PairFigures[] {
  const { now } = pairs;
  const found: PairFigures[] = [];
  for (let row = 0; row < pairs.rows; row++) {
    // Opportunities are about pages.
    if (now.impressions[row]! === 0 || pairs.page[row]! < 0) continue;
    const weight = now.positionWeight[row]!;
    found.push({
      ...{ pageId: pairs.page[row]!, queryId: pairs.query[row]!, brand: brands(pairs.query[row]!) },
      ...{ clicks: now.clicks[row]!, impressions: now.impressions[row]!, expected: now.expected[row]! },
      position: weight > 0 ? now.positionSum[row]! / weight : null,
    });
  }
  return found;
}

/** What of each page is in none of its rows by query. */
function restOf(
  figures: SiteFigures,
  pairs: readonly PairFigures[],
  span: Span,
  { showings }: Pairs,
): Map<number, Chosen> {
  const seen = new Map<number, { clicks: number; expected: number }>();
  for (const { pageId, clicks, expected } of pairs) {
    const sum = seen.get(pageId) ?? { clicks: 0, expected: 0 };
    seen.set(pageId, sum);
    sum.clicks += clicks;
    sum.expected += expected;
  }
  return new Map(
    figures.series.map((page) => {
      const known = seen.get(page.id) ?? { clicks: 0, expected: 0 };
      const clicks = Math.max(0, sumIn(page.clicks, page.firstDay, span) - known.clicks);
      return [page.id, { clicks, expected: Math.max(0, (showings.get(page.id)?.now ?? 0) - known.expected) }];
    }),
  );
}

/** What each page brought day by day. */
function daysOf(figures: SiteFigures, span: Span, { showings }: Pairs): Chosen[][] {
  return figures.series.map((page) => {
    const shown = showings.get(page.id);
    const days: Chosen[] = [];
    for (let day = span.firstDay; day <= span.lastDay; day++) {
      const expected = shown?.days[day - shown.firstDay] ?? 0;
      if (expected > 0) days.push({ clicks: page.clicks[day - page.firstDay] ?? 0, expected });
    }
    return days;
  });
}

/** The changes whose days are not over yet, by page, of several the newest; and the rounds that run. */
export const busyPages = memoizePerContext((context): ReadonlyMap<number, Busy> => {
  const { db, site, made, today, lastReadable } = context;
  const busy = new Map<number, Busy>();
  if (lastReadable === null) return busy;
  for (const change of made) {
    const { after } = spansOf(site, change);
    const open = { firstDay: change.day, lastDay: after.lastDay };
    if (!inSpan(lastReadable, open) || lastReadable >= after.lastDay) continue;
    for (const { id } of change.pages)
      if (!busy.has(id)) busy.set(id, { changeId: change.id, roundId: null, until: after.lastDay });
  }
  // A half that waits shows nothing any more once somebody touches it.
  for (const round of listRounds(db, site.id)) {
    if (!bindsPages(round, today, site.provisionalDays)) continue;
    for (const { page } of round.pages) busy.set(page.id, { changeId: null, roundId: round.id, until: null });
  }
  return busy;
});

export const isHome = ({ figures }: SearchContext, pageId: number) => {
  const [page] = figures.pages([pageId]);
  return page !== undefined && pagePath(page.address) === '/';
};

export function pathOf({ figures }: SearchContext, pageId: number): string {
  const [page] = figures.pages([pageId]);
  return page ? pagePath(page.address) : '';
}
