/* The spread between studies: what their estimates say of it together with what such spreads are like. */

/** Standard deviation of the half-normal prior, on the log scale: effects that differ by more than a factor of two or so are rare. */
const PRIOR_SCALE = 0.5;
/** Beyond four of them nothing is left of the prior. */
const WIDEST = 4 * PRIOR_SCALE;
/** The grid over the spread, finer toward nought. */
const CELLS = 200;
/** How many values stand for the posterior. */
const VALUES = 25;

/**
 * The variance of the true effects of several studies about their mean, as values that are equally likely: the middles of 25 equal parts of its posterior
 * distribution, in rising order. The prior of the standard deviation is half-normal with a scale of 0.5, that of the mean is flat. Estimates and variances are on the log scale. Throws
 * RangeError where there are fewer than two.
 * Sources, from memory: Röver, Journal of Statistical Software 93 (2020) no. 6; for the prior Röver et al., Research Synthesis Methods 12 (2021) 448-474.
 * @example Math.sqrt(likelySpreads([0.1, 0.1, 0.1, 0.1], [0.01, 0.01, 0.01, 0.01])[12]) // about 0.05, the median
 */
export function likelySpreads(estimates: readonly number[], variances: readonly number[]): number[] {
  if (estimates.length < 2 || estimates.length !== variances.length)
    throw new RangeError('At least two estimates and as many variances are needed.');
  const edges = Array.from({ length: CELLS + 1 }, (_, i) => WIDEST * (i / CELLS) ** 2);
  const logs = edges
    .slice(1)
    .map(
      (edge, i) => logPosterior(estimates, variances, (edges[i]! + edge) / 2) + Math.log(edge - edges[i]!),
    );
  const highest = Math.max(...logs);
  const masses = logs.map((log) => Math.exp(log - highest));
  const all = masses.reduce((sum, mass) => sum + mass, 0);
  const values: number[] = [];
  let below = 0;
  masses.forEach((mass, i) => {
    for (;;) {
      const wanted = ((values.length + 0.5) / VALUES) * all;
      if (values.length === VALUES || below + mass < wanted) break;
      values.push((edges[i]! + ((wanted - below) / mass) * (edges[i + 1]! - edges[i]!)) ** 2);
    }
    below += mass;
  });
  return values;
}

/** Logarithm of the posterior density of a standard deviation between studies, but for a constant. */
function logPosterior(estimates: readonly number[], variances: readonly number[], spread: number): number {
  const { mean, weight } = meanAt(estimates, variances, spread ** 2);
  return estimates.reduce(
    (sum, estimate, i) => {
      const variance = variances[i]! + spread ** 2;
      return sum - (Math.log(variance) + (estimate - mean) ** 2 / variance) / 2;
    },
    -(Math.log(weight) + (spread / PRIOR_SCALE) ** 2) / 2,
  );
}

/** The weighted mean of estimates at a variance between them, and the weight of it: one over its variance. */
export function meanAt(
  estimates: readonly number[],
  variances: readonly number[],
  between: number,
): { readonly mean: number; readonly weight: number } {
  let [sum, weight] = [0, 0];
  estimates.forEach((estimate, i) => {
    const own = 1 / (variances[i]! + between);
    sum += own * estimate;
    weight += own;
  });
  return { mean: sum / weight, weight };
}
