/*
 * Max-statistic test: the largest standardised effect among several measures, and its critical
 * value.
 */

import { VERDICT_MEASURES, type VerdictMeasure } from '../measures/registry';
import { quantileOf } from './criticalValue';

/**
 * The measure with the largest effect, in critical values; `up` if the effect is an improvement.
 */
export type MaxStatistic = {
  readonly measure: VerdictMeasure;
  readonly strength: number;
  readonly up: boolean;
  /** Whether clicks moved the same way. A measure that moved against clicks isn’t called. */
  readonly agrees: boolean;
};

/**
 * The measure with the largest effect; null if clicks are absent. For position over the same
 * queries, a lower number is an improvement.
 *
 * @param sizeOf the effect of a measure in critical values; NaN if absent
 * @example maxStatistic((m) => ({ appeal: 1.4, showings: -0.2, rank: 0.1, clicks: 0.9
 *   })[m]).measure
 * // "appeal"
 */
export function maxStatistic(sizeOf: (measure: VerdictMeasure) => number): MaxStatistic | null {
  const clicks = sizeOf('clicks');
  if (clicks !== clicks) return null;
  let [measure, size]: [VerdictMeasure, number] = ['clicks', clicks];
  for (const other of VERDICT_MEASURES) {
    const own = other === 'rank' ? -sizeOf(other) : sizeOf(other);
    if (Math.abs(own) > Math.abs(size)) [measure, size] = [other, own];
  }
  return { measure, strength: Math.abs(size), up: size > 0, agrees: size * clicks > 0 };
}

/** Prior for the critical value: 90th percentile of the maximum of four correlated statistics. */
const ASSUMED_CUT = 1.2;
const TRUSTED_WINDOWS = 30;

/**
 * Corrects for fitting and testing on the same placebo windows, which makes them look too regular.
 */
const WIDER = 1.02;

/**
 * Critical value of the max statistic at the 10% level, shrunk toward the prior while there are few
 * placebo windows.
 *
 * @param overlapping how many overlapping windows carry the information of one independent window
 */
export function cutOf(strengths: readonly number[], overlapping: number): number {
  return WIDER * usualMost(strengths, overlapping, ASSUMED_CUT);
}

/** What one window in ten exceeds, as it was seen. */
export function usualMost(strengths: readonly number[], overlapping: number, assumed: number): number {
  if (strengths.length === 0) return assumed;
  const apart = strengths.length / overlapping;
  const own = apart / (apart + TRUSTED_WINDOWS);
  return own * quantileOf(strengths, 0.9) + (1 - own) * assumed;
}
