/* How many pages a round needs to see an effect, and what so many could see. */

import jstat from 'jstat';
import { PAIRS_A_BLOCK } from './blocks';
import { PRIOR_FREEDOM, missedVariance } from './yardstick';
import { normalCdf, Z90, Z_POWER80 } from '../statistics/normal';

/** Standard errors between no effect and one found with 80% power by a two-sided test at 10%. */
const FACTOR = 2 * (Z90 + Z_POWER80) ** 2;
const POWER = 0.8;
/** More pages are no round that anybody could work in. */
const MOST_PAGES = 100_000;

/**
 * Precision of halves of given size: the standard error of an effect, and its critical value.
 *
 * @param common variance of the error that unchanged pages, which are the control together with the
 *   waiting half, share with all pages of the experiment; null if the halves are compared with each
 *   other alone
 */
function precision(perHalf: number, variances: readonly number[], common: number | null) {
  const half = 1 / (perHalf * meanWeight(variances));
  // The half that waits will usually move by about its standard error.
  const missed = common && missedVariance({ moved: Math.sqrt(half + common), own: half }, common);
  const waiting = missed === null ? 1 : missed / (missed + half);
  const variance = half * (1 + waiting ** 2) + (1 - waiting) ** 2 * (missed ?? 0);
  // The part due to the draw has the degrees of freedom of the pages that can swap, plus the
  // prior’s. Source: Satterthwaite, Biometrics Bulletin 2 (1946) 110-114.
  const drawn = (half * (1 + waiting) ** 2) / 2 / variance;
  const blocks = Math.ceil(perHalf / PAIRS_A_BLOCK);
  const known = missed === null ? 0 : PRIOR_FREEDOM;
  const freedom = (Math.max(1, 2 * perHalf - blocks - 1) + known) / drawn ** 2;
  return { error: Math.sqrt(variance), critical: jstat.studentt.inv(0.95, freedom) as number };
}

/**
 * Power of halves of given size; `variances` and `common` as in `pagesPerHalf`.
 *
 * @example powerOf(0.15, 26, [0.04, 0.04]) // about 0.8
 */
export function powerOf(
  effect: number,
  perHalf: number,
  variances: readonly number[],
  common: number | null = null,
): number {
  const { error, critical } = precision(perHalf, variances, common);
  return normalCdf(Math.abs(Math.log1p(effect)) / error - critical);
}

/**
 * Pages per half for 80% power at 10% false calls. Infinity if no number suffices. Throws
 * RangeError for an effect of zero.
 *
 * @param variances of the log ratios of candidate pages; the mean weight is that of their inverses
 * @param common variance of the error that unchanged pages share with the experiment; null if they
 *   aren’t part of the control
 * @example pagesPerHalf(0.15, [0.04, 0.04]) // 27
 */
export function pagesPerHalf(
  effect: number,
  variances: readonly number[],
  common: number | null = null,
): number {
  if (!(effect > -1) || effect === 0) throw new RangeError('An effect is above −1 and not nought.');
  const weight = meanWeight(variances);
  if (!(weight > 0)) return Infinity;
  // The bound of an error-free control: half as many pages as two halves need, by the normal
  // distribution.
  let pages = Math.max(2, Math.floor(FACTOR / 2 / (Math.log1p(effect) ** 2 * weight)));
  while (pages < MOST_PAGES && powerOf(effect, pages, variances, common) < POWER) pages += 1;
  return pages < MOST_PAGES ? pages : Infinity;
}

/**
 * Smallest detectable rise (ratio less one) of halves of given size at 80% power; `variances` and
 * `common` as in `pagesPerHalf`.
 *
 * @example smallestEffect(26, [0.04, 0.04]) // about 0.15
 */
export function smallestEffect(
  perHalf: number,
  variances: readonly number[],
  common: number | null = null,
): number {
  if (!(perHalf > 1 && meanWeight(variances) > 0)) return Infinity;
  const { error, critical } = precision(perHalf, variances, common);
  return Math.expm1((critical + Z_POWER80) * error);
}

function meanWeight(variances: readonly number[]): number {
  const said = variances.filter((variance) => variance > 0);
  return variances.length === 0
    ? 0
    : said.reduce((sum, variance) => sum + 1 / variance, 0) / variances.length;
}
