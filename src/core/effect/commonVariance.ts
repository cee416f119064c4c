/* Errors that rows share beyond their control, estimated from placebo windows. */

import { componentsOf, descriptionOf, type Measure } from '../measures/registry';
import { controlVariance } from './control';
import type { JointMoves, JointWindows } from './jointWindows';
import type { HeldRows } from './rowEstimates';

/** Windows apart from each other at which what was seen counts as much as what is assumed. */
const TRUSTED_WINDOWS = 3;

/**
 * Variance of the error that all of these rows share: the mean covariance of their net moves in
 * placebo windows, shrunk toward a prior while there are few windows, and never below the variance
 * of the control itself.
 *
 * @param weights the weight of each row; 0 if the measure is unknown for it
 * @param own the variance of the control
 * @param windows net moves by window and row (`nets`), in the order of `weights`
 */
export function commonVariance(
  measure: Measure,
  weights: readonly number[],
  own: number,
  { windows, apart, nets }: JointWindows,
): number {
  let [sum, told] = [0, 0];
  for (let window = 0; window < windows; window++) {
    let [moves, movesSquared, all, allSquared] = [0, 0, 0, 0];
    weights.forEach((weight, at) => {
      const net = nets[window * weights.length + at]!;
      if (net !== net) return;
      moves += weight * net;
      movesSquared += (weight * net) ** 2;
      all += weight;
      allSquared += weight ** 2;
    });
    // Of one row nothing in common is told.
    const pairs = all ** 2 - allSquared;
    if (pairs <= 1e-9 * all ** 2) continue;
    sum += (moves ** 2 - movesSquared) / pairs;
    told += 1;
  }
  const seen = told > 0 ? sum / told : 0;
  const alone = windows > 0 ? (apart * told) / windows : 0;
  const trust = alone / (alone + TRUSTED_WINDOWS);
  return Math.max(own, trust * seen + (1 - trust) * (own + descriptionOf(measure).commonVariance));
}

/** A control of fewer rows says little of what happens anyway. */
const FEWEST_CONTROL = 5;

/**
 * Common variance of rows by measure, from their joint windows before the day. Null if the control
 * has too few rows.
 *
 * @param weightsOf the weight of each row for a measure; 0 if the measure is unknown
 */
export function missedInCommon<M extends Measure>(
  { ground, swing, on, day, rows }: HeldRows,
  moves: JointMoves,
  measures: readonly M[],
  weightsOf: (measure: M) => readonly number[],
): Record<M, number | null> {
  const { groups } = ground.groupsAt(day);
  const of = (measure: M): number | null => {
    const components = componentsOf(measure);
    const weights = weightsOf(measure);
    if (components.some((component) => on.of(component).rows < FEWEST_CONTROL)) return null;
    if (weights.every((weight) => weight === 0)) return null;
    const grouped = rows.map((row, i) => ({ group: groups.of[row]!, weight: weights[i]! }));
    const own = components.reduce((sum, component) => {
      const between = on.byGroups ? swing.components[component].between : 0;
      return sum + controlVariance(on.of(component), between, grouped);
    }, 0);
    return commonVariance(measure, weights, own, moves.of(measure));
  };
  return Object.fromEntries(measures.map((measure) => [measure, of(measure)])) as Record<M, number | null>;
}
