/* Regression to the mean: the best linear prediction of a log ratio from the dip and the pre-trend before it. */

/**
 * What a site's untouched pages have shown of how moves come about, as variances and covariances on the log scale
 * beyond counting: of a page's move, its dip (before span above long level) and its pre-trend (last week above before span),
 * each less those of its yardstick.
 */
export type Moments = {
  readonly move: number;
  readonly dip: number;
  readonly preTrend: number;
  readonly moveWithDip: number;
  readonly moveWithPreTrend: number;
  readonly dipWithPreTrend: number;
};

/** Counting noise of the spans of one page; `long` and `preTrend` are null where there is no long level or last week. */
export type Noise = {
  readonly before: number;
  readonly after: number;
  readonly long: number | null;
  readonly preTrend: number | null;
};

/**
 * What of a page's move comes by itself: `dipShare` times its dip and `preTrendShare` times its pre-trend. `variance` is that of
 * the move once this is taken off.
 */
export type MeanRegression = {
  readonly dipShare: number;
  readonly preTrendShare: number;
  readonly variance: number;
};

/** No more than the whole of a dip comes back, and no pre-trend goes on at more than this many times itself. */
const MOST_DIP_SHARE = 1;
const MOST_PRE_TREND_SHARE = 1.5;

/**
 * The best linear prediction of a page's move from its dip and its pre-trend. The more counting noise its before span has,
 * the more of a dip is chance, all of which goes by itself: so a page with few clicks wins back more of its dips than
 * one with many. The counting noises of dip and move share that of the before span; that of the pre-trend is independent
 * of both, since the last week's part in the before span cancels.
 *
 * @example
 * // No past is known: nothing is predicted, and the variance is that of the move and of counting.
 * regressionToMean(
 *   { move: 0.04, dip: 0.04, preTrend: 0.01, moveWithDip: -0.01, moveWithPreTrend: 0, dipWithPreTrend: 0 },
 *   { before: 0.01, after: 0.01, long: null, preTrend: null },
 * ); // { dipShare: 0, preTrendShare: 0, variance: 0.06 }
 */
export function regressionToMean(moments: Moments, noise: Noise): MeanRegression {
  const counting = noise.before + noise.after;
  const all = moments.move + counting;
  const dipKnown = noise.long !== null;
  const preTrendKnown = noise.preTrend !== null;
  const dip = dipKnown ? moments.dip + noise.before + noise.long : 1;
  const preTrend = preTrendKnown ? moments.preTrend + noise.preTrend : 1;
  const both = dipKnown && preTrendKnown ? moments.dipWithPreTrend : 0;
  const withDip = dipKnown ? moments.moveWithDip - noise.before : 0;
  const withPreTrend = preTrendKnown ? moments.moveWithPreTrend : 0;
  // The two normal equations, solved in place: this runs for every page and past week.
  const determinant = Math.max(dip * preTrend * 0.2, dip * preTrend - both * both);
  const bound = (share: number, most: number) => Math.min(most, Math.max(-most, share));
  const dipShare = bound((withDip * preTrend - withPreTrend * both) / determinant, MOST_DIP_SHARE);
  const preTrendShare = bound((withPreTrend * dip - withDip * both) / determinant, MOST_PRE_TREND_SHARE);
  const variance =
    all -
    2 * (dipShare * withDip + preTrendShare * withPreTrend) +
    dipShare * dipShare * dip +
    preTrendShare * preTrendShare * preTrend +
    2 * dipShare * preTrendShare * both;
  return { dipShare, preTrendShare, variance: Math.max(counting / 4, variance) };
}

/** A dip counts as no further out than this many standard deviations. */
const FURTHEST = 3;

/**
 * How far a page's dip was out of the ordinary: its square in variances of a dip, less 1, so that it is zero on
 * average; 0 where there is no long level.
 *
 * @example
 * const moments = { move: 0, dip: 0.03, preTrend: 0, moveWithDip: 0, moveWithPreTrend: 0, dipWithPreTrend: 0 };
 * strain(moments, { before: 0.005, after: 0, long: 0.005, preTrend: null }, 0.4); // 3: four variances, less one
 */
export function strain(moments: Moments, noise: Noise, dip: number): number {
  if (noise.long === null) return 0;
  return Math.min(FURTHEST ** 2, (dip * dip) / (moments.dip + noise.before + noise.long)) - 1;
}

/**
 * The variance of a page's move where such strain makes it less sure, by `perStrain` of itself for each unit.
 * @example strained(0.05, 3, 0.1) // 0.065
 */
export function strained(variance: number, strainOfDip: number, perStrain: number): number {
  return variance * Math.max(0.7, 1 + perStrain * strainOfDip);
}
