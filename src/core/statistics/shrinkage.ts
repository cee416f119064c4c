/** An estimate drawn toward the mean of its kind. */
export type Shrunken = { readonly mean: number; readonly standardError: number };

/**
 * Estimates with known variances, each drawn toward the mean of all by how much of the spread is noise (empirical Bayes with a normal prior). `between` are variances of
 * the true effects that are equally likely, or the one that is known; the error of their mean is left in.
 * Source: Morris, Journal of the American Statistical Association 78 (1983) 47-55.
 * @example shrunken([0.4, 0], [0.1, 0.1], { mean: 0.2, between: [0.1], standardError: 0 })[0].mean // 0.3
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
    const noise = between.reduce((sum, one) => sum + variance / (variance + one), 0) / between.length;
    return {
      mean: mean + (1 - noise) * (estimate - mean),
      standardError: Math.sqrt((1 - noise) * variance + (noise * standardError) ** 2),
    };
  });
}

/**
 * How much of the distance to their mean several estimates of one known variance keep: one less the share of their spread that is noise, never below nought.
 * Source: Efron and Morris, Journal of the American Statistical Association 70 (1975) 311-319. Throws RangeError for fewer than four.
 */
export function efronMorrisFactor(estimates: readonly number[], variance: number): number {
  if (estimates.length < 4) throw new RangeError('At least four estimates are needed.');
  const mean = estimates.reduce((a, b) => a + b, 0) / estimates.length;
  const squares = estimates.reduce((sum, y) => sum + (y - mean) ** 2, 0);
  return Math.max(0, 1 - ((estimates.length - 3) * variance) / squares);
}
