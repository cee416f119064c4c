import jstat from 'jstat';

/** A pooled estimate: the mean effect, its standard error, and the spread between effects. */
export type Pooled = {
  readonly mean: number;
  readonly standardError: number;
  /** Variance of the true effects about their mean (tau squared). */
  readonly between: number;
  /** Cochran's Q. */
  readonly heterogeneity: number;
};

/**
 * Random-effects mean of estimates with known variances. Throws RangeError where there are none.
 * Source: DerSimonian and Laird, Controlled Clinical Trials 7 (1986) 177-188.
 */
export function randomEffects(estimates: readonly number[], variances: readonly number[]): Pooled {
  if (estimates.length === 0 || estimates.length !== variances.length)
    throw new RangeError('Estimates and as many variances are needed.');
  const fixed = weightedMean(estimates, (i) => 1 / variances[i]!);
  const heterogeneity = estimates.reduce((sum, y, i) => sum + (y - fixed.mean) ** 2 / variances[i]!, 0);
  const squares = variances.reduce((sum, v) => sum + 1 / (v * v), 0);
  const scale = fixed.weight - squares / fixed.weight;
  const between = scale > 0 ? Math.max(0, (heterogeneity - (estimates.length - 1)) / scale) : 0;
  const { mean, weight } = weightedMean(estimates, (i) => 1 / (variances[i]! + between));
  return { mean, standardError: Math.sqrt(1 / weight), between, heterogeneity };
}

function weightedMean(values: readonly number[], weightOf: (i: number) => number) {
  let [sum, weight] = [0, 0];
  values.forEach((value, i) => {
    sum += weightOf(i) * value;
    weight += weightOf(i);
  });
  return { mean: sum / weight, weight };
}

/** An interval of the mean effect, and one for the effect of the next study. */
export type PooledRange = {
  readonly standardError: number;
  readonly low: number;
  readonly high: number;
  /** Null where there are fewer than three. */
  readonly next: { readonly low: number; readonly high: number } | null;
};

/** Number of estimates from which agreement closer than their variances is unlikely by chance. */
const ENOUGH_ESTIMATES = 10;

/**
 * Hartung-Knapp interval of a random-effects mean, which allows for the estimated spread, and the
 * interval for the true effect of the next study. If fewer than ten estimates scatter less than
 * their variances, the variances are used instead (Knapp and Hartung’s modification, 2003), since a
 * few can agree by chance. Throws RangeError for fewer than two estimates.
 *
 * Sources: Hartung and Knapp, Statistics in Medicine 20 (2001) 3875-3889; Higgins, Thompson and
 * Spiegelhalter, Journal of the Royal Statistical Society A 172 (2009) 137-159, with metafor’s
 * degrees of freedom, one less than there are studies.
 *
 * @param together variance that errors shared by the studies add to the mean
 */
export function hartungKnapp(
  estimates: readonly number[],
  variances: readonly number[],
  pooled: Pooled,
  confidence: number,
  together = 0,
): PooledRange {
  const n = estimates.length;
  if (n < 2) throw new RangeError('At least two estimates are needed.');
  const weights = variances.map((v) => 1 / (v + pooled.between));
  const weight = weights.reduce((a, b) => a + b, 0);
  const spread = estimates.reduce((sum, y, i) => sum + weights[i]! * (y - pooled.mean) ** 2, 0) / (n - 1);
  const scale = n < ENOUGH_ESTIMATES ? Math.max(1, spread) : spread;
  const standardError = Math.sqrt(scale / weight + together);
  const t = jstat.studentt.inv((1 + confidence) / 2, n - 1);
  const further = t * Math.sqrt(pooled.between + standardError ** 2);
  return {
    standardError,
    low: pooled.mean - t * standardError,
    high: pooled.mean + t * standardError,
    next: n < 3 ? null : { low: pooled.mean - further, high: pooled.mean + further },
  };
}
