/* How many pages a round needs to see an effect, and what so many could see. */

import jstat from 'jstat';
import { PAIRS_A_BLOCK } from './blocks';
import { normalCdf, Z90, Z_POWER80 } from '../statistics/normal';

/** Factor by which both errors stand apart in a two-sided test at 10% that finds the effect 80 times in a hundred. */
const FACTOR = 2 * (Z90 + Z_POWER80) ** 2;
const POWER = 0.8;
/** More pages are no round that anybody could work in. */
const MOST_PAGES = 100_000;

/**
 * What a test of the draw at 10% asks of halves of so many pages, in standard errors: about that of Student's t, a degree of freedom less for each block of pages
 * that change places, and one more.
 */
function criticalOf(perHalf: number): number {
  const blocks = Math.ceil(perHalf / PAIRS_A_BLOCK);
  return jstat.studentt.inv(0.95, Math.max(1, 2 * perHalf - blocks - 1));
}

/** The chance that halves of so many pages see an effect. @example powerOf(0.15, 26, [0.04, 0.04]) // about 0.8 */
export function powerOf(effect: number, perHalf: number, variances: readonly number[]): number {
  const error = Math.sqrt(2 / (perHalf * meanWeight(variances)));
  return normalCdf(Math.abs(Math.log1p(effect)) / error - criticalOf(perHalf));
}

/**
 * Pages in each half that see an effect 80 times in a hundred at 10% false calls: `variances` are those of the log ratio of pages as they are, their mean weight
 * being that of one over each. Infinity where no number does. Throws RangeError for an effect of nothing.
 * @example pagesPerHalf(0.15, [0.04, 0.04]) // 27
 */
export function pagesPerHalf(effect: number, variances: readonly number[]): number {
  if (!(effect > -1) || effect === 0) throw new RangeError('An effect is above −1 and not nought.');
  const weight = meanWeight(variances);
  if (!(weight > 0)) return Infinity;
  // The normal distribution begins a little too low.
  let pages = Math.max(2, Math.ceil(FACTOR / (Math.log1p(effect) ** 2 * weight)));
  while (pages < MOST_PAGES && powerOf(effect, pages, variances) < POWER) pages += 1;
  return pages < MOST_PAGES ? pages : Infinity;
}

/**
 * The smallest rise, as a ratio less one, that halves of so many pages see 80 times in a hundred.
 * @example smallestEffect(26, [0.04, 0.04]) // about 0.15
 */
export function smallestEffect(perHalf: number, variances: readonly number[]): number {
  const weight = meanWeight(variances);
  if (!(perHalf > 1 && weight > 0)) return Infinity;
  return Math.expm1((criticalOf(perHalf) + Z_POWER80) * Math.sqrt(2 / (perHalf * weight)));
}

function meanWeight(variances: readonly number[]): number {
  const said = variances.filter((variance) => variance > 0);
  return variances.length === 0
    ? 0
    : said.reduce((sum, variance) => sum + 1 / variance, 0) / variances.length;
}
