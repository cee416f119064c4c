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
