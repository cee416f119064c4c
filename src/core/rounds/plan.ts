/* How many pages a round needs to see an effect, and what so many could see. */

import jstat from 'jstat';
import { PAIRS_A_BLOCK } from './blocks';
import { PRIOR_FREEDOM, missedVariance } from './yardstick';
import { normalCdf, Z90, Z_POWER80 } from '../statistics/normal';

/** Factor by which both errors stand apart in a two-sided test at 10% that finds the effect 80 times in a hundred. */
const FACTOR = 2 * (Z90 + Z_POWER80) ** 2;
const POWER = 0.8;
/** More pages are no round that anybody could work in. */
const MOST_PAGES = 100_000;

/**
 * How surely halves of so many pages tell an effect: its standard error, and how many of these it has to exceed. `common` is the variance of what the site's
 * untouched pages, which are the control together with the half that waits, miss of all pages of the round; null where the halves stand against each other alone.
 */
function precision(perHalf: number, variances: readonly number[], common: number | null) {
  const half = 1 / (perHalf * meanWeight(variances));
  // The half that waits will usually move by about its standard error.
  const missed = common && missedVariance({ moved: Math.sqrt(half + common), own: half }, common);
  const waiting = missed === null ? 1 : missed / (missed + half);
  const variance = half * (1 + waiting ** 2) + (1 - waiting) ** 2 * (missed ?? 0);
  // The part of it that the draw tells, with as many degrees of freedom as pages that change places and what is known beforehand of their variances. Source: Satterthwaite, Biometrics Bulletin 2 (1946) 110-114.
  const drawn = (half * (1 + waiting) ** 2) / 2 / variance;
  const blocks = Math.ceil(perHalf / PAIRS_A_BLOCK);
  const known = missed === null ? 0 : PRIOR_FREEDOM;
  const freedom = (Math.max(1, 2 * perHalf - blocks - 1) + known) / drawn ** 2;
  return { error: Math.sqrt(variance), critical: jstat.studentt.inv(0.95, freedom) as number };
}

/**
 * The chance that halves of so many pages see an effect; `variances` and `common` as of `pagesPerHalf`.
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
 * Pages in each half that see an effect 80 times in a hundred at 10% false calls: `variances` are those of the log ratio of pages as they are, their mean weight
 * being that of one over each; `common` is the variance of what the site's untouched pages miss of all of them, null where these are no part of the control.
 * Infinity where no number does. Throws RangeError for an effect of nothing.
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
  // No control does better than one without any error, which takes half as many as two halves by the normal distribution.
  let pages = Math.max(2, Math.floor(FACTOR / 2 / (Math.log1p(effect) ** 2 * weight)));
  while (pages < MOST_PAGES && powerOf(effect, pages, variances, common) < POWER) pages += 1;
  return pages < MOST_PAGES ? pages : Infinity;
}

/**
 * The smallest rise, as a ratio less one, that halves of so many pages see 80 times in a hundred; `variances` and `common` as of `pagesPerHalf`.
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
