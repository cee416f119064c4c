import { normalQuantile } from './normal';

/** A lower and an upper bound. */
export type Interval = { readonly low: number; readonly high: number };

/**
 * Two-sided score interval (Wilson) of one proportion, without continuity correction. Throws
 * RangeError if there are no trials, or more hits than trials.
 *
 * Source: Newcombe, Statistics in Medicine 17 (1998) 857-872, method 3.
 *
 * @example scoreInterval(81, 263, 0.95) // { low: 0.2553, high: 0.3662 }
 */
export function scoreInterval(hits: number, trials: number, level: number): Interval {
  if (!(trials > 0) || hits < 0 || hits > trials) throw new RangeError(`No proportion: ${hits} of ${trials}`);
  const z = normalQuantile((1 + level) / 2);
  const p = hits / trials;
  const centre = p + (z * z) / (2 * trials);
  const half = z * Math.sqrt((p * (1 - p) + (z * z) / (4 * trials)) / trials);
  const scale = 1 + (z * z) / trials;
  return { low: Math.max(0, (centre - half) / scale), high: Math.min(1, (centre + half) / scale) };
}
