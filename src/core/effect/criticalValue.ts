/*
 * The critical value: the empirical 90% quantile of placebo statistics, shrunk toward the normal’s.
 */

import { Z90 } from '../statistics/normal';

/**
 * Margin on critical values. They are uncertain, and the windows they were estimated from look a
 * little too regular: without the margin, intervals on simulated sites covered about one point less
 * (docs/calibration.md).
 */
export const MARGIN = 1.02;
/** Independent placebo windows at which what was seen counts as much as the normal distribution. */
const TRUSTED_WINDOWS = 30;
const ENOUGH_SIZES = 5000;

/**
 * Critical value of a 90% interval: the normal distribution’s 1.645 while there are few placebo
 * windows, their own quantile once there are many, since real moves have heavier tails.
 *
 * @param sizes absolute net moves in standard errors
 * @param overlapping how many overlapping windows carry the information of one independent window
 * @example criticalValueOf([], 1) // 1.678: 1.645 × 1.02 without any window
 */
export function criticalValueOf(sizes: readonly number[], overlapping: number): number {
  if (sizes.length === 0) return MARGIN * Z90;
  // A few thousand tell the quantile as well as all of them.
  const every = Math.ceil(sizes.length / ENOUGH_SIZES);
  const sorted = Float64Array.from(sizes.filter((_, i) => i % every === 0)).sort();
  const seen = sorted[Math.floor(0.9 * sorted.length)]!;
  const apart = sizes.length / overlapping;
  const own = apart / (apart + TRUSTED_WINDOWS);
  return MARGIN * Math.min(3, Math.max(1.4, own * seen + (1 - own) * Z90));
}

/** The value that a share of all lie below. @example quantileOf([3, 1, 2], 0.5) // 2 */
export function quantileOf(values: readonly number[], share: number): number {
  const sorted = Float64Array.from(values).sort();
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? NaN;
}
