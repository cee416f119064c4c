/* What rows have in common beyond their control: learned from how they moved together when nobody touched them. */

import type { Day } from '../calendar/day';
import type { Measure } from '../model/change';
import type { Swing } from './swing';

/** A row of a comparison by its number, what it weighs, and how much of its variance the control brought in. */
export type WeighedRow = { readonly row: number; readonly weight: number; readonly shared: number };

/** Windows apart from each other at which what was seen counts as much as what is assumed. */
const TRUSTED_WINDOWS = 6;
/** What is assumed of any set of rows, on top of the control's own variance. */
const ASSUMED: Readonly<Record<Measure, number>> = {
  ...{ clicks: 0.003, impressions: 0.003, showings: 0.003 },
  ...{ ctr: 0.0015, appeal: 0.0015, position: 0.0003, rank: 0.0003 },
};

/**
 * The variance of what the control misses of all of some rows at once: the mean covariance of their net moves in placebo windows that were over before a day,
 * pulled toward what is assumed the fewer there are, and no less than the control's own variance.
 */
export function commonVariance(
  measure: Measure,
  rows: readonly WeighedRow[],
  swing: Swing,
  before: Day,
): number {
  const { nets } = swing.measures[measure];
  const { settlingDays, days } = swing.horizon;
  const shared = rows.reduce((sum, one) => sum + one.shared, 0) / Math.max(1, rows.length);
  let [sum, windows] = [0, 0];
  swing.days.forEach((begins, column) => {
    if (begins + settlingDays + days > before) return;
    let [moves, squares, weight, weights] = [0, 0, 0, 0];
    for (const one of rows) {
      const net = nets[column * swing.rows + one.row]!;
      if (net !== net) continue;
      moves += one.weight * net;
      squares += (one.weight * net) ** 2;
      weight += one.weight;
      weights += one.weight ** 2;
    }
    // Of one row nothing in common is told.
    const pairs = weight ** 2 - weights;
    if (pairs <= 1e-9 * weight ** 2) return;
    sum += (moves ** 2 - squares) / pairs;
    windows += 1;
  });
  const apart = windows / swing.overlapping;
  const trust = apart / (apart + TRUSTED_WINDOWS);
  const seen = windows > 0 ? sum / windows : 0;
  return Math.max(shared, trust * seen + (1 - trust) * (shared + ASSUMED[measure]));
}
