/* What rows have in common beyond their control: learned from how they moved together when nobody touched them. */

import { componentsOf, descriptionOf, type Measure } from '../measures/registry';
import { controlVariance } from './control';
import type { JointMoves, JointWindows } from './jointWindows';
import type { HeldRows } from './rowEstimates';

/** Windows apart from each other at which what was seen counts as much as what is assumed. */
const TRUSTED_WINDOWS = 3;

/**
 * The variance of what the control misses of all of some rows at once: the mean covariance of their net moves in placebo windows (`nets` by window and row; what each row weighs,
 * nothing where it is not known, in the same order), pulled toward what is assumed the fewer there are, and no less than what the control itself is known to (`own`, a variance).
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
 * The common variance of rows by measure, from their joint windows before the day. `weightsOf` gives each row's weight, 0 where the measure is unknown. Null where the control is too
 * small, or the measure unknown for every row.
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
