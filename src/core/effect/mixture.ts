/* A Gaussian mixture over movements, fitted by expectation and maximisation. */

/**
 * Movements of rows and their counting variances, by `row * dimensions + dimension`; NaN if absent.
 */
export type Movements = {
  readonly rows: number;
  readonly dimensions: number;
  readonly value: Float64Array;
  readonly noise: Float64Array;
};

const ROUNDS = 25;
/** Prior strengths, in rows: of the common variance for a row’s own, and of zero for a mean. */
const [OWN_PULL, MEAN_PULL] = [10, 0.2];
const LEAST_VARIANCE = 1e-4;

/**
 * Posterior membership of each row in each of `k` components whose means move over the dimensions,
 * by `row * k + component`. Rows have variances of their own.
 *
 * @param random draws the initial rows, far from each other
 *
 * Source: Dempster, Laird and Rubin, JRSS B 39 (1977); initial rows as in Arthur and Vassilvitskii,
 * SODA 2007.
 */
export function mixtureOf(movements: Movements, k: number, random: () => number): Float64Array {
  const { rows, dimensions, value, noise } = movements;
  const variance = commonVariance(movements);
  const own = new Float64Array(rows).fill(variance);
  const distance = (row: number, means: Float64Array, component: number) => {
    let sum = 0;
    for (let d = 0; d < dimensions; d++) {
      const at = row * dimensions + d;
      if (value[at] === value[at])
        sum += (value[at]! - means[component * dimensions + d]!) ** 2 / (own[row]! + noise[at]!);
    }
    return sum;
  };
  const means = farApart(movements, k, variance, random, distance);
  const shares = new Float64Array(k).fill(1 / k);
  const belongs = new Float64Array(rows * k);
  for (let round = 0; round < ROUNDS; round++) {
    expect(belongs, shares, rows, k, (row, component) => distance(row, means, component));
    maximise(movements, belongs, k, { means, shares, own, variance });
  }
  return belongs;
}

function commonVariance({ value, noise }: Movements): number {
  let [sum, known] = [0, 0];
  for (let at = 0; at < value.length; at++) {
    if (value[at] !== value[at]) continue;
    sum += Math.max(0, value[at]! ** 2 - noise[at]!);
    known += 1;
  }
  return Math.max(LEAST_VARIANCE, sum / Math.max(1, known));
}

/**
 * Initial means by k-means++: each next row is drawn in proportion to its squared distance from
 * those chosen.
 */
function farApart(
  { rows, dimensions, value, noise }: Movements,
  k: number,
  variance: number,
  random: () => number,
  distance: (row: number, means: Float64Array, component: number) => number,
): Float64Array {
  const means = new Float64Array(k * dimensions);
  const nearest = new Float64Array(rows).fill(Infinity);
  for (let component = 0; component < k; component++) {
    let pick = Math.floor(random() * rows);
    if (component > 0) {
      let left = random() * nearest.reduce((sum, d) => sum + d, 0);
      const found = nearest.findIndex((d) => (left -= d) <= 0);
      if (found >= 0) pick = found;
    }
    for (let d = 0; d < dimensions; d++) {
      const at = pick * dimensions + d;
      // A noisy row is not taken at its word.
      means[component * dimensions + d] =
        value[at] === value[at] ? (value[at]! * variance) / (variance + noise[at]!) : 0;
    }
    for (let row = 0; row < rows; row++)
      nearest[row] = Math.min(nearest[row]!, distance(row, means, component));
  }
  return means;
}

function expect(
  belongs: Float64Array,
  shares: Float64Array,
  rows: number,
  k: number,
  distance: (row: number, component: number) => number,
): void {
  for (let row = 0; row < rows; row++) {
    let most = -Infinity;
    for (let c = 0; c < k; c++) {
      belongs[row * k + c] = Math.log(shares[c]! + 1e-9) - distance(row, c) / 2;
      most = Math.max(most, belongs[row * k + c]!);
    }
    let sum = 0;
    for (let c = 0; c < k; c++) sum += belongs[row * k + c] = Math.exp(belongs[row * k + c]! - most);
    for (let c = 0; c < k; c++) belongs[row * k + c]! /= sum;
  }
}

type Fitted = {
  readonly means: Float64Array;
  readonly shares: Float64Array;
  readonly own: Float64Array;
  readonly variance: number;
};

function maximise(movements: Movements, belongs: Float64Array, k: number, fitted: Fitted): void {
  const { rows, dimensions, value, noise } = movements;
  const { means, shares, own, variance } = fitted;
  const weights = new Float64Array(k * dimensions);
  means.fill(0);
  shares.fill(0);
  const each = (row: number, visit: (component: number, share: number) => void) => {
    for (let c = 0; c < k; c++) if (belongs[row * k + c]! > 1e-4) visit(c, belongs[row * k + c]!);
  };
  for (let row = 0; row < rows; row++)
    each(row, (component, share) => {
      shares[component]! += share / rows;
      for (let d = 0; d < dimensions; d++) {
        const at = row * dimensions + d;
        if (value[at] !== value[at]) continue;
        const weight = share / (own[row]! + noise[at]!);
        weights[component * dimensions + d]! += weight;
        means[component * dimensions + d]! += weight * value[at]!;
      }
    });
  for (let i = 0; i < means.length; i++) means[i]! /= weights[i]! + MEAN_PULL / variance;
  for (let row = 0; row < rows; row++) {
    let [left, known] = [0, 0];
    each(row, (component, share) => {
      for (let d = 0; d < dimensions; d++) {
        const at = row * dimensions + d;
        if (value[at] !== value[at]) continue;
        left += share * ((value[at]! - means[component * dimensions + d]!) ** 2 - noise[at]!);
        known += share;
      }
    });
    own[row] = Math.max(variance / 4, LEAST_VARIANCE, (left + OWN_PULL * variance) / (known + OWN_PULL));
  }
}
