/* The spread between studies: its posterior, from their estimates and a prior. */

/** Scale of the half-normal prior, in logs: effects rarely differ by more than a factor of two. */
const PRIOR_SCALE = 0.5;
/** Beyond four of them nothing is left of the prior. */
const WIDEST = 4 * PRIOR_SCALE;
/** The grid over the spread, finer toward nought. */
const CELLS = 200;
/** How many values stand for the posterior. */
const VALUES = 25;

/**
 * Posterior of the variance of true effects about their mean, as equally likely values: the
 * midpoints of 25 equal parts, ascending. The prior of the standard deviation is half-normal with
 * scale 0.5, that of the mean flat. Estimates and variances are on the log scale. Throws RangeError
 * for fewer than two.
 *
 * Sources, from memory: Röver, Journal of Statistical Software 93 (2020) no. 6; for the prior Röver
 * et al., Research Synthesis Methods 12 (2021) 448-474.
 *
 * @example Math.sqrt(likelySpreads([0.1, 0.1, 0.1, 0.1], [0.01, 0.01, 0.01, 0.01])[12]) // about
 *   0.05
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

/** Log posterior density of the standard deviation between studies, up to a constant. */
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

/**
 * Weighted mean of estimates, given the variance between them, and its weight (inverse variance).
 */
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
