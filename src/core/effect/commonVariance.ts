/* What rows have in common beyond their control: learned from how they moved together when nobody touched them. */

import type { Measure } from '../model/change';
import type { JointWindows } from './jointWindows';

/** A row of a comparison: what it weighs, nothing where it is not known, and how much of its variance the control brought in. */
export type WeighedRow = { readonly weight: number; readonly shared: number };

/** Windows apart from each other at which what was seen counts as much as what is assumed. */
const TRUSTED_WINDOWS = 3;
/** What is assumed of any set of rows, on top of the control's own variance. */
const ASSUMED: Readonly<Record<Measure, number>> = {
  ...{ clicks: 0.003, impressions: 0.003, showings: 0.003 },
  ...{ ctr: 0.0005, appeal: 0.0005, position: 0.0003, rank: 0.0003 },
};

/**
 * The variance of what the control misses of all of some rows at once: the mean covariance of their net moves in placebo windows (`nets` by window and row, in the order of the
 * rows), pulled toward what is assumed the fewer there are, and no less than the control's own variance.
 */
export function commonVariance(
  measure: Measure,
  rows: readonly WeighedRow[],
  { windows, apart, nets }: JointWindows,
): number {
  const known = rows.filter(({ weight }) => weight > 0);
  const shared = known.reduce((sum, one) => sum + one.shared, 0) / Math.max(1, known.length);
  let [sum, told] = [0, 0];
  for (let window = 0; window < windows; window++) {
    let [moves, squares, weight, weights] = [0, 0, 0, 0];
    rows.forEach((one, at) => {
      const net = nets[window * rows.length + at]!;
      if (net !== net) return;
      moves += one.weight * net;
      squares += (one.weight * net) ** 2;
      weight += one.weight;
      weights += one.weight ** 2;
    });
    // Of one row nothing in common is told.
    const pairs = weight ** 2 - weights;
    if (pairs <= 1e-9 * weight ** 2) continue;
    sum += (moves ** 2 - squares) / pairs;
    told += 1;
  }
  const seen = told > 0 ? sum / told : 0;
  const alone = windows > 0 ? (apart * told) / windows : 0;
  const trust = alone / (alone + TRUSTED_WINDOWS);
  return Math.max(shared, trust * seen + (1 - trust) * (shared + ASSUMED[measure]));
}
