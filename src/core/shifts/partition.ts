/* Change points in the mean of a series by optimal partitioning, with a range for each. */

import jStat from 'jstat';

/** Values with weights, one over the variance of each; a weight of 0 leaves a value out. */
export type Weighted = { readonly values: ArrayLike<number>; readonly weights: ArrayLike<number> };

/** A change of level before place `at`, which may as well lie anywhere from `first` to `last`. */
export type ChangePoint = {
  readonly at: number;
  readonly first: number;
  readonly last: number;
  /** Means of the stretches before and after it, and the variance of their difference. */
  readonly before: number;
  readonly after: number;
  readonly variance: number;
  /** By how much the fit is better with it than without, in units of the penalty. */
  readonly gain: number;
};

/** Sums along a series, so that the cost of any stretch is three look-ups. */
class Costs {
  private readonly w: Float64Array;
  private readonly wy: Float64Array;
  private readonly wyy: Float64Array;

  constructor({ values, weights }: Weighted) {
    const n = values.length;
    this.w = new Float64Array(n + 1);
    this.wy = new Float64Array(n + 1);
    this.wyy = new Float64Array(n + 1);
    for (let i = 0; i < n; i++) {
      const weight = weights[i]!;
      const value = weight > 0 ? values[i]! : 0;
      this.w[i + 1] = this.w[i]! + weight;
      this.wy[i + 1] = this.wy[i]! + weight * value;
      this.wyy[i + 1] = this.wyy[i]! + weight * value * value;
    }
  }

  weight(from: number, to: number): number {
    return this.w[to]! - this.w[from]!;
  }

  mean(from: number, to: number): number {
    const weight = this.weight(from, to);
    return weight > 0 ? (this.wy[to]! - this.wy[from]!) / weight : NaN;
  }

  /** Twice the negative log likelihood of a stretch about its own mean. */
  of(from: number, to: number): number {
    const weight = this.weight(from, to);
    if (weight <= 0) return 0;
    const sum = this.wy[to]! - this.wy[from]!;
    return this.wyy[to]! - this.wyy[from]! - (sum * sum) / weight;
  }
}

/**
 * Distribution function of the location error of a change point, in units of the information of one
 * value: the argmax of a two-sided Brownian motion with drift.
 *
 * Source: Yao, Annals of Statistics 15 (1987) 1321-1328; Bai, Review of Economics and Statistics 79
 * (1997) 551-563.
 *
 * @example argmaxCdf(11.03) // 0.975
 */
export function argmaxCdf(x: number): number {
  const root = Math.sqrt(x);
  const phi = (z: number) => jStat.normal.cdf(z, 0, 1);
  return (
    1 +
    Math.sqrt(x / (2 * Math.PI)) * Math.exp(-x / 8) -
    ((x + 5) / 2) * phi(-root / 2) +
    1.5 * Math.exp(x) * phi((-3 * root) / 2)
  );
}

/** Half-width of the 95% range of a change point, in the same units. */
const HALF_WIDTH = 11.03;

/**
 * Change points in the mean of a series. Each must improve the fit by `penalty` (twice the log
 * likelihood), and segments have at least `least` values. The range comes from the asymptotic
 * distribution; values between estimate and truth belong to the neighbouring segment, so its noise
 * counts: that of the segments themselves, or (`noise`: given) the inverse weights.
 *
 * Sources: Jackson et al., IEEE Signal Processing Letters 12 (2005), optimal partitioning (pruning
 * would save nothing on a few hundred values). The range: Bai (1997), as in strucchange’s
 * `confint`.
 *
 * @example
 * // R's Nile: one change, after 1898 (place 28 is 1899), somewhere from 1895 to 1902.
 */
export function changePoints(
  series: Weighted,
  penalty: number,
  least: number,
  noise: 'estimated' | 'given' = 'estimated',
): ChangePoint[] {
  const n = series.values.length;
  const costs = new Costs(series);
  const best = new Float64Array(n + 1);
  const from = new Int32Array(n + 1);
  best[0] = -penalty;
  for (let to = least; to <= n; to++) {
    let [lowest, start] = [best[0]! + costs.of(0, to), 0];
    for (let at = least; at <= to - least; at++) {
      const total = best[at]! + costs.of(at, to);
      if (total < lowest) [lowest, start] = [total, at];
    }
    best[to] = lowest + penalty;
    from[to] = start;
  }
  const ends: number[] = [];
  for (let to = n; to > 0; to = from[to]!) ends.unshift(to);
  return ends.slice(0, -1).map((at, i) => {
    const [begin, end] = [i === 0 ? 0 : ends[i - 1]!, ends[i + 1]!];
    const own = costs.of(begin, at) + costs.of(at, end);
    const step = costs.mean(at, end) - costs.mean(begin, at);
    // How far off the truth may lie on the side where values of this stretch lie between.
    const reach = (start: number, stop: number) => {
      const each = costs.weight(start, stop) / (stop - start);
      const varied = noise === 'given' ? 1 : costs.of(start, stop) / (stop - start - 1);
      return Math.ceil((HALF_WIDTH * varied) / (step * step * each));
    };
    const first = Math.max(begin + 1, at - reach(at, end));
    const last = Math.min(end - 1, at + reach(begin, at));
    return {
      ...{ at, first, last, before: costs.mean(begin, at), after: costs.mean(at, end) },
      variance: 1 / Math.max(1e-12, costs.weight(begin, at)) + 1 / Math.max(1e-12, costs.weight(at, end)),
      gain: (costs.of(begin, end) - own) / penalty,
    };
  });
}
