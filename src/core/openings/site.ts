/*
 * Shared input of all finders of openings: the pairs of page and query of a site, and the appeal of
 * its pages.
 */

import type { PositionCurve } from '../appeal/positionCurve';
import { appealPrior, dispersionOf, type AppealPrior, type Chosen } from './appealPosterior';

/** A query on a page over some days; without a position it says nothing of appeal. */
export type PairFigures = {
  readonly pageId: number;
  readonly queryId: number;
  readonly brand: boolean;
  readonly clicks: number;
  readonly impressions: number;
  /** The mean position; null where no row had one. */
  readonly position: number | null;
  /** Clicks that its showings would bring at the site's usual CTR by position. */
  readonly expected: number;
};

/** The pages and the appeal of a site, with what its pages show together. */
export type SiteAppeal = {
  readonly prior: AppealPrior;
  /** The appeal that counts as usual: that of all pages together. */
  readonly level: number;
  readonly byPage: ReadonlyMap<number, Chosen>;
  readonly curve: PositionCurve;
};

/**
 * Appeal of each page without brand queries, and its distribution among pages.
 *
 * @param rest the part of each page that none of its rows by query shows
 * @param days the figures of each page by day, which give the dispersion of counts
 */
export function siteAppeal(
  pairs: readonly PairFigures[],
  { rest, days }: { readonly rest: ReadonlyMap<number, Chosen>; readonly days: Iterable<readonly Chosen[]> },
  curve: PositionCurve,
): SiteAppeal {
  const byPage = new Map<number, { clicks: number; expected: number }>();
  for (const { pageId, brand, clicks, expected } of pairs) {
    if (brand || expected <= 0) continue;
    const sum = byPage.get(pageId) ?? { clicks: 0, expected: 0 };
    byPage.set(pageId, sum);
    sum.clicks += clicks;
    sum.expected += expected;
  }
  for (const [pageId, { clicks, expected }] of rest) {
    const sum = byPage.get(pageId);
    if (!sum || expected <= 0) continue;
    sum.clicks += clicks;
    sum.expected += expected;
  }
  const pages = [...byPage.values()];
  const clicks = pages.reduce((sum, page) => sum + page.clicks, 0);
  const expected = pages.reduce((sum, page) => sum + page.expected, 0);
  return {
    prior: appealPrior(pages, dispersionOf(days)),
    level: expected > 0 && clicks > 0 ? clicks / expected : 1,
    ...{ byPage, curve },
  };
}
