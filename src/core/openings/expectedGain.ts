/*
 * The expected gain of an opening: what this type of change has brought here, at most its estimate.
 */

import type { PooledScore } from '../scorebook/pool';
import type { Gain } from './opening';

/**
 * Clicks a month expected, and the effect behind them as a ratio (1.06: a rise of 6%) with its
 * measure.
 */
export type ExpectedGain = {
  readonly clicks: number;
  readonly ratio: number;
  readonly measure: PooledScore['measure'];
};

/**
 * Clicks a month that a page can be expected to gain, from the mean effect that changes of the type
 * have had on this site. Never more than the opening's own estimate, which is a ceiling, and never
 * below 0. Null where the page has no clicks or no such change was read.
 *
 * @param clicksNow clicks of the page in the last thirty days
 * @param gain the opening's estimate; null where it has none
 * @example expectedGain(3000, { clicks: 1710, low: 900, high: 2500 }, { net: Math.log(1.07), … })
 * // { clicks: 210, ratio: 1.07, measure: 'appeal' }
 */
export function expectedGain(
  clicksNow: number,
  gain: Gain | null,
  pooled: Pick<PooledScore, 'net' | 'measure'> | null,
): ExpectedGain | null {
  if (!pooled || clicksNow <= 0) return null;
  const usual = Math.max(0, clicksNow * Math.expm1(pooled.net));
  const clicks = gain ? Math.min(gain.clicks, usual) : usual;
  return { clicks, ratio: 1 + clicks / clicksNow, measure: pooled.measure };
}
