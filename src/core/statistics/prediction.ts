import jstat from 'jstat';

/** Values of the spread that its confidence distribution is gone through by. */
const STEPS = 25;

/**
 * The interval for the true effect of the next study where the spread between studies is itself known badly: a mixture of t distributions over the confidence distribution of that
 * spread, which is the one under which the generalised Q statistic of the estimates has its chi-squared distribution. Wider than with the spread taken for known, the more so the
 * fewer studies there are. `together` is what errors that the studies have in common add to the variance of the mean. Throws RangeError for fewer than three estimates.
 * Source: Nagashima, Noma and Furukawa, Statistical Methods in Medical Research 28 (2019) 1689-1702, without the bootstrap.
 * @example nextEffect([0.1, 0.3, -0.1, 0.2], [0.01, 0.01, 0.01, 0.01], 0.9) // { low: -0.36, high: 0.61 }, or near it
 */
export function nextEffect(
  estimates: readonly number[],
  variances: readonly number[],
  confidence: number,
  together = 0,
): { readonly low: number; readonly high: number } {
  const n = estimates.length;
  if (n < 3) throw new RangeError('At least three estimates are needed.');
  const parts = spreadsOf(estimates, variances).map((between) => {
    const { mean, weight } = weighted(estimates, variances, between);
    return { mean, scale: Math.sqrt(between + 1 / weight + together) };
  });
  const below = (x: number) =>
    parts.reduce((sum, { mean, scale }) => sum + jstat.studentt.cdf((x - mean) / scale, n - 1), 0) / STEPS;
  const widest = Math.max(...parts.map(({ scale }) => scale));
  const middle = parts[STEPS >> 1]!.mean;
  return {
    low: root((x) => below(x) - (1 - confidence) / 2, middle - 50 * widest, middle),
    high: root((x) => below(x) - (1 + confidence) / 2, middle, middle + 50 * widest),
  };
}

/**
 * The spread between studies as a variance, by its confidence distribution: values that are equally likely. Where the estimates scatter little, many of them are 0. Throws RangeError
 * for fewer than two estimates.
 * Source: Viechtbauer, Statistics in Medicine 26 (2007) 37-52, the Q-profile method.
 */
export function spreadsOf(estimates: readonly number[], variances: readonly number[]): number[] {
  const n = estimates.length;
  if (n < 2) throw new RangeError('At least two estimates are needed.');
  return Array.from({ length: STEPS }, (_, i) =>
    spreadAt(estimates, variances, jstat.chisquare.inv(1 - (i + 0.5) / STEPS, n - 1)),
  );
}

function weighted(estimates: readonly number[], variances: readonly number[], between: number) {
  let [sum, weight] = [0, 0];
  estimates.forEach((estimate, i) => {
    const own = 1 / (variances[i]! + between);
    sum += own * estimate;
    weight += own;
  });
  return { mean: sum / weight, weight };
}

/** The spread at which the generalised Q statistic has a value; 0 where it is below that without any. */
function spreadAt(estimates: readonly number[], variances: readonly number[], value: number): number {
  const excess = (between: number) => {
    const { mean } = weighted(estimates, variances, between);
    return value - estimates.reduce((sum, y, i) => sum + (y - mean) ** 2 / (variances[i]! + between), 0);
  };
  if (excess(0) >= 0) return 0;
  let high = Math.max(...variances, 1e-6);
  while (excess(high) < 0 && high < 1e6) high *= 2;
  return root(excess, 0, high);
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
