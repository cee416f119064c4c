/*
 * Empirical Bayes for Poisson rates: the appeal of each page, shrunk toward the other pages of the
 * site.
 */

import jStat from 'jstat';

/** Clicks, and expected clicks: impressions at the site’s usual CTR by position. */
export type Chosen = { readonly clicks: number; readonly expected: number };

/** A gamma distribution of appeal, by its shape and rate: its mean is shape / rate. */
export type Gamma = { readonly shape: number; readonly rate: number };

/**
 * The distribution of appeal among the pages of a site, and the dispersion of counts beyond
 * Poisson.
 */
export type AppealPrior = Gamma & { readonly dispersion: number };

/** Range of shapes searched: from almost no agreement among pages to almost no difference. */
const [LEAST_SHAPE, MOST_SHAPE] = [0.3, 400];
const STEPS = 60;
/** Where there are no pages to tell: pages differ by about a third. */
const USUAL_SHAPE = 9;

/**
 * The gamma prior of appeal with the highest likelihood of all page counts, each negative binomial.
 * Counts are first divided by their dispersion (quasi-likelihood).
 *
 * Source: Robbins, Proc. Third Berkeley Symp. (1956), empirical Bayes; the gamma-Poisson case as in
 * Gelman et al., Bayesian Data Analysis, 2.7.
 *
 * @example appealPrior([{ clicks: 50, expected: 100 }, { clicks: 150, expected: 100 }], 1) // mean
 *   1, wide
 */
export function appealPrior(pages: readonly Chosen[], dispersion: number): AppealPrior {
  const known = pages.filter(({ expected }) => expected > 0);
  const clicks = known.reduce((sum, one) => sum + one.clicks, 0);
  const expected = known.reduce((sum, one) => sum + one.expected, 0);
  const mean = expected > 0 && clicks > 0 ? clicks / expected : 1;
  if (known.length < 3) return { shape: USUAL_SHAPE, rate: USUAL_SHAPE / mean, dispersion };
  // Both parameters by turns: pages of few clicks say as much of the mean page as large ones.
  let best = { shape: USUAL_SHAPE, rate: USUAL_SHAPE / mean, likelihood: -Infinity };
  for (let i = 0; i <= STEPS; i++) {
    const shape = LEAST_SHAPE * (MOST_SHAPE / LEAST_SHAPE) ** (i / STEPS);
    const rate = rateFor(known, shape, mean, dispersion);
    const likelihood = logLikelihood(known, shape, rate, dispersion);
    if (likelihood > best.likelihood) best = { shape, rate, likelihood };
  }
  return { shape: best.shape, rate: best.rate, dispersion };
}

/** The most likely rate at a shape, by fixed-point iteration on the mean of the posterior means. */
function rateFor(pages: readonly Chosen[], shape: number, mean: number, dispersion: number): number {
  let rate = shape / mean;
  for (let round = 0; round < 12; round++) {
    let sum = 0;
    for (const { clicks, expected } of pages)
      sum += (shape + clicks / dispersion) / (rate + expected / dispersion);
    rate = (shape * pages.length) / sum;
  }
  return rate;
}

function logLikelihood(pages: readonly Chosen[], shape: number, rate: number, dispersion: number): number {
  let sum = 0;
  for (const one of pages) {
    const [c, e] = [one.clicks / dispersion, one.expected / dispersion];
    sum += jStat.gammaln(shape + c) - jStat.gammaln(shape) + shape * Math.log(rate / (rate + e));
    sum += c * Math.log(e / (rate + e)) - jStat.gammaln(c + 1);
  }
  return sum;
}

/**
 * Posterior of the appeal of a page.
 *
 * @example
 * appealPosterior({ shape: 9, rate: 9, dispersion: 1 }, { clicks: 2, expected: 10 })
 * // shape 11, rate 19: about 0.58
 */
export function appealPosterior(
  { shape, rate, dispersion }: AppealPrior,
  { clicks, expected }: Chosen,
): Gamma {
  return { shape: shape + clicks / dispersion, rate: rate + expected / dispersion };
}

/**
 * A quantile of a gamma distribution.
 *
 * @example gammaQuantile({ shape: 1, rate: 1 }, 0.5) // ln 2
 */
export function gammaQuantile({ shape, rate }: Gamma, p: number): number {
  return jStat.gamma.inv(p, shape, 1 / rate);
}

/** The mean of a gamma distribution. */
export function gammaMean({ shape, rate }: Gamma): number {
  return shape / rate;
}

/**
 * Dispersion: the variance of counts over their expectation, pooled over groups with a rate each,
 * and at least 1. `groups` gives the cells of each group.
 *
 * Source: McCullagh and Nelder, Generalized Linear Models (1989), 4.5: Pearson’s statistic over its
 * degrees of freedom.
 */
export function dispersionOf(groups: Iterable<readonly Chosen[]>): number {
  let [pearson, freedom] = [0, 0];
  for (const cells of groups) {
    const clicks = cells.reduce((sum, one) => sum + one.clicks, 0);
    const expected = cells.reduce((sum, one) => sum + one.expected, 0);
    if (clicks === 0 || expected === 0 || cells.length < 2) continue;
    for (const cell of cells) {
      const fitted = (cell.expected * clicks) / expected;
      if (fitted > 0) pearson += (cell.clicks - fitted) ** 2 / Math.max(fitted, 0.5);
    }
    freedom += cells.length - 1;
  }
  return freedom > 0 ? Math.max(1, pearson / freedom) : 1;
}
