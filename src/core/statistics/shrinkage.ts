/** An estimate drawn toward the mean of its kind. */
export type Shrunken = { readonly mean: number; readonly standardError: number };

/**
 * Empirical Bayes estimates with a normal prior: each estimate is shrunk toward the mean by the
 * share of noise in the spread. Standard errors allow for the uncertain spread and mean.
 *
 * Source: Morris, Journal of the American Statistical Association 78 (1983) 47-55.
 *
 * @param between equally likely values of the variance between true effects, or the known one
 * @example shrunken([0.4, 0], [0.1, 0.1], { mean: 0.2, between: [0.1], standardError: 0 })[0].mean
 *   // 0.3
 */
export function shrunken(
  estimates: readonly number[],
  variances: readonly number[],
  {
    mean,
    between,
    standardError,
  }: { readonly mean: number; readonly between: readonly number[]; readonly standardError: number },
): Shrunken[] {
  return estimates.map((estimate, i) => {
    const variance = variances[i]!;
    const noises = between.map((one) => variance / (variance + one));
    const noise = average(noises);
    const disagreement = average(noises.map((one) => (one - noise) ** 2)) * (estimate - mean) ** 2;
    return {
      mean: mean + (1 - noise) * (estimate - mean),
      standardError: Math.sqrt((1 - noise) * variance + (noise * standardError) ** 2 + disagreement),
    };
  });
}

const average = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;

/**
 * Share of the distance to their mean that estimates of one known variance keep: one less the share
 * of noise in their spread, at least 0. Throws RangeError for fewer than four.
 *
 * Source: Efron and Morris, Journal of the American Statistical Association 70 (1975) 311-319.
 */
export function efronMorrisFactor(estimates: readonly number[], variance: number): number {
  if (estimates.length < 4) throw new RangeError('At least four estimates are needed.');
  const mean = estimates.reduce((a, b) => a + b, 0) / estimates.length;
  const squares = estimates.reduce((sum, y) => sum + (y - mean) ** 2, 0);
  return Math.max(0, 1 - ((estimates.length - 3) * variance) / squares);
}
