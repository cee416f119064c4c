import jstat from 'jstat';

/**
 * Quantile of the standard normal distribution.
 *
 * @example normalQuantile(0.95) // 1.6449
 */
export function normalQuantile(p: number): number {
  return jstat.normal.inv(p, 0, 1);
}

/** Probability that a standard normal value lies below z. @example normalCdf(1.6449) // 0.95 */
export function normalCdf(z: number): number {
  return jstat.normal.cdf(z, 0, 1);
}

/** How often ranges are meant to hold the truth. */
export const CONFIDENCE = 0.9;

/** Half-width of a two-sided 90% interval, in standard errors. Readings use 90% throughout. */
export const Z90 = normalQuantile(0.95);

/** Standard errors by which an effect must exceed the interval’s edge for 80% power. */
export const Z_POWER80 = normalQuantile(0.8);
