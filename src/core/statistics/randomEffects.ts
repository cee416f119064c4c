import jstat from 'jstat';

/** Estimates pooled into one: the mean effect, its standard error, and the spread between the effects. */
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

/** From so many estimates on, agreement closer than their variances suggest is unlikely to be chance. */
const ENOUGH_ESTIMATES = 10;

/**
 * The interval of a random-effects mean by Hartung and Knapp, which allows for the spread being estimated too, and the interval for the next study's true effect. Where few estimates scatter less than their
 * own variances suggest, the variances are used instead (Knapp and Hartung's modification, 2003), since a few can agree by chance; from ten on the scatter itself is used. `together` is what errors that the studies have in common add to the variance of the mean. Throws RangeError for fewer than two estimates.
 * Sources: Hartung and Knapp, Statistics in Medicine 20 (2001) 3875-3889; Higgins, Thompson and Spiegelhalter, Journal of the Royal Statistical Society A 172 (2009) 137-159,
 * with as many degrees of freedom as metafor has them, one less than there are studies.
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
