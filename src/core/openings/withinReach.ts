/*
 * Striking distance: queries just off the first page, or low on it, and what a better position
 * would bring.
 */

import type { PositionCurve } from '../appeal/positionCurve';
import { normalQuantile } from '../statistics/normal';
import {
  appealPosterior,
  gammaMean,
  gammaQuantile,
  type AppealPrior,
  type Chosen,
  type Gamma,
} from './appealPosterior';
import { RANGE_HIGH, RANGE_LOW, type Gain } from './opening';

/** Positions from which a place on the first page, or higher on it, is within reach. */
const [HIGHEST, FIRST_PAGE, LOWEST] = [4.5, 10.5, 20.5];

/** A page's showings for one query: how often, and where. */
export type Shown = { readonly impressions: number; readonly position: number };

/**
 * Target position, stated with every estimate: three places up on the first page, the eighth from
 * the second page; null if out of reach. Common practice (work on positions 11 to 20 first), no
 * published source.
 *
 * @example targetPosition(12) // 8
 */
export function targetPosition(position: number): number | null {
  if (!(position >= HIGHEST && position <= LOWEST)) return null;
  return position > FIRST_PAGE ? 8 : Math.max(1, Math.round(position) - 3);
}

/** What is known of how often a query is chosen on its page. */
export type QueryAppeal = {
  readonly prior: AppealPrior;
  readonly page: Chosen;
  /** The query itself on the page. */
  readonly own: Chosen;
  /** Standard deviation of a query’s log appeal about its page’s (see `querySpread`). */
  readonly spread: number;
};

/**
 * Posterior of the appeal of a query: its own clicks, shrunk toward its page, which is shrunk
 * toward the site.
 *
 * Source: as of `appealPosterior`, one level down; the page’s error is carried as a wider
 * distribution.
 */
export function queryPosterior({ prior, page, own, spread }: QueryAppeal): Gamma {
  const above = appealPosterior(prior, page);
  // The posterior of the page and the spread of its queries, as one gamma with that mean.
  const shape = 1 / (1 / above.shape + spread ** 2);
  return appealPosterior({ shape, rate: shape / gammaMean(above), dispersion: prior.dispersion }, own);
}

/** Log-scale error of the CTR by position itself, between two positions some places apart. */
const CURVE_ERROR = 0.5;

/**
 * Extra clicks of a query at another position: impressions times the difference of the site’s CTR
 * at both, times the appeal of the query.
 */
export function gainOfPosition(
  { impressions, position }: Shown,
  target: number,
  curve: PositionCurve,
  appeal: QueryAppeal,
  months: number,
): Gain {
  const posterior = queryPosterior(appeal);
  const most = (impressions * Math.max(0, curve(target) - curve(position))) / months;
  const mean = gammaMean(posterior);
  // The two errors are independent: on the log scale they add up in squares.
  const side = (p: number) => {
    const own = Math.log(gammaQuantile(posterior, p) / mean);
    return Math.sign(own) * Math.hypot(own, Z80 * CURVE_ERROR);
  };
  return {
    clicks: most * mean,
    low: most * mean * Math.exp(side(RANGE_LOW)),
    high: most * mean * Math.exp(side(RANGE_HIGH)),
  };
}

/** Half the width of an 80% range in standard deviations. */
const Z80 = normalQuantile(0.9);

/**
 * Rules of thumb beside an estimate: impressions times position, and clicks short of 20% of all
 * impressions. Common practice, no published source.
 *
 * @example
 * rulesOfThumb({ clicks: 3, impressions: 1000, position: 12 }) // { potential: 12000, ceiling: 197
 * }
 */
export function rulesOfThumb({ clicks, impressions, position }: Shown & { readonly clicks: number }) {
  return { potential: impressions * position, ceiling: Math.max(0, 0.2 * impressions - clicks) };
}
