import { normalCdf } from './normal';
import { likelySpreads, meanAt } from './spread';

/**
 * Interval for the true effect of the next study: from the predictive distribution averaged over
 * the posterior of the spread between studies. With few studies it is wider than with the spread
 * taken as known. Throws RangeError for fewer than three estimates.
 *
 * Source: as `likelySpreads`.
 *
 * @param together variance that errors shared by the studies add to the mean
 * @example nextEffect([0.1, 0.3, -0.1, 0.2], [0.01, 0.01, 0.01, 0.01], 0.9) // near { low: -0.24,
 *   high: 0.49 }
 */
export function nextEffect(
  estimates: readonly number[],
  variances: readonly number[],
  confidence: number,
  together = 0,
): { readonly low: number; readonly high: number } {
  if (estimates.length < 3) throw new RangeError('At least three estimates are needed.');
  const parts = likelySpreads(estimates, variances).map((between) => {
    const { mean, weight } = meanAt(estimates, variances, between);
    return { mean, scale: Math.sqrt(between + 1 / weight + together) };
  });
  const below = (x: number) =>
    parts.reduce((sum, { mean, scale }) => sum + normalCdf((x - mean) / scale), 0) / parts.length;
  const widest = Math.max(...parts.map(({ scale }) => scale));
  const middle = parts[parts.length >> 1]!.mean;
  return {
    low: root((x) => below(x) - (1 - confidence) / 2, middle - 50 * widest, middle),
    high: root((x) => below(x) - (1 + confidence) / 2, middle, middle + 50 * widest),
  };
}

/** Where a rising function passes nought, by halving. */
function root(rising: (x: number) => number, low: number, high: number): number {
  for (let i = 0; i < 50; i++) {
    const middle = (low + high) / 2;
    if (rising(middle) < 0) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
