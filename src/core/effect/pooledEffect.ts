/*
 * The pooled effect of several rows: a random-effects mean whose variance allows for the shared
 * control.
 */

import type { Measure } from '../measures/registry';
import { randomEffects } from '../statistics/randomEffects';
import { estimateOf, ownPart, type Estimate } from './effect';
import type { JointMoves } from './jointWindows';
import type { NullDistribution } from './nullDistribution';

/** Placebo windows of the rows of a comparison, and how many moved at least as far. */
export type PlaceboCount = { readonly spells: number; readonly asLarge: number };

/** The estimate of one row, and the part of its variance that comes from the shared control. */
export type RowEstimate = {
  readonly row: number;
  readonly net: number;
  readonly variance: number;
  readonly shared: number;
};

/** Independent windows at which joint moves of rows weigh as much as the moves of each row. */
const TRUSTED_WINDOWS = 6;

/** The estimate of one row with its interval. */
export function rowEffect(measure: Measure, one: RowEstimate, { measures }: NullDistribution): Estimate {
  return estimateOf(one.net, Math.sqrt(one.variance), measures[measure].criticalValue, one.shared);
}

/**
 * Net effects of several rows as one: their random-effects mean, plus the variance of the control,
 * which more rows don’t reduce. Also checked against how far the same rows moved together in
 * placebo windows.
 *
 * @param moves joint placebo windows that include these rows
 */
export function pooledEffect(measure: Measure, known: readonly RowEstimate[], moves: JointMoves): Estimate {
  const { swing } = moves.joint;
  const [only, ...others] = known;
  if (only && others.length === 0) return rowEffect(measure, only, swing);
  const pooled = randomEffects(
    known.map(({ net }) => net),
    known.map(({ variance, shared }) => ownPart(variance, shared)),
  );
  const shared = known.reduce((sum, one) => sum + one.shared, 0) / known.length;
  const own = pooled.standardError ** 2 + shared;
  const { seen, trust } = movedTogether(
    measure,
    known.map(({ row }) => row),
    moves,
  );
  const variance = Math.max(own, trust * seen + (1 - trust) * own);
  return estimateOf(pooled.mean, Math.sqrt(variance), swing.measures[measure].criticalValue, shared);
}

/**
 * Mean square of the joint moves of rows in placebo windows, against a control without any of them,
 * and its weight, from 0 to 1. A window counts if at least half of the rows were unchanged.
 */
export function movedTogether(
  measure: Measure,
  rows: readonly number[],
  moves: JointMoves,
): { readonly seen: number; readonly trust: number } {
  const { windows, apart, nets } = moves.of(measure);
  const all = moves.joint.rows;
  const at = rows.map((row) => all.indexOf(row));
  let [squares, told] = [0, 0];
  for (let window = 0; window < windows; window++) {
    const known = at.map((i) => nets[window * all.length + i]!).filter((net) => net === net);
    if (known.length === 0 || known.length * 2 < rows.length) continue;
    squares += (known.reduce((sum, net) => sum + net, 0) / known.length) ** 2;
    told += 1;
  }
  const alone = windows > 0 ? (apart * told) / windows : 0;
  return { seen: squares / Math.max(1, told), trust: alone / (alone + TRUSTED_WINDOWS) };
}

/** Net moves of rows together, for each placebo window in which at least half were unchanged. */
function placeboMoves(measure: Measure, rows: readonly number[], swing: NullDistribution): number[] {
  const { nets } = swing.measures[measure];
  const moves: number[] = [];
  for (let column = 0; column < swing.days.length; column++) {
    let [sum, count] = [0, 0];
    for (const row of rows) {
      const net = nets[column * swing.rows + row]!;
      if (Number.isNaN(net)) continue;
      sum += net;
      count += 1;
    }
    if (count > 0 && count * 2 >= rows.length) moves.push(sum / count);
  }
  return moves;
}

/**
 * Number of joint placebo windows of the rows, and how many moved at least as far as the estimate.
 */
export function countPlaceboWindows(
  measure: Measure,
  estimate: Estimate | null,
  rows: readonly number[],
  swing: NullDistribution,
): PlaceboCount {
  const moves = placeboMoves(measure, rows, swing);
  const size = estimate ? Math.abs(estimate.net) : Infinity;
  return { spells: moves.length, asLarge: moves.filter((move) => Math.abs(move) >= size).length };
}
