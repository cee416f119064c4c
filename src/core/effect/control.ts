/* The control: precision-weighted means of row innovations, by group and site, partially pooled. */

import type { Innovations } from './forecast';
import type { Groups } from './rows';

/** Sums of weights and of weighted innovations of the control rows: over all rows and by group. */
export type Control = {
  readonly rows: number;
  readonly weight: number;
  readonly sum: number;
  readonly groupRows: Int32Array;
  readonly groupWeight: Float64Array;
  readonly groupSum: Float64Array;
};

/** A row with more counting noise than ten counts have says too little to stand in a control. */
export const MOST_NOISE = 0.4;

/** Weight of a row in a control: one over its variance, 0 where it says too little. */
export function controlWeight({ move, variance, noise }: Innovations, row: number): number {
  return move[row] === move[row] && noise[row]! <= MOST_NOISE ? 1 / (variance[row]! + noise[row]!) : 0;
}

/** The control made of rows with weights: `share` multiplies each row's weight, 0 leaves it out. */
export function controlOf(innovations: Innovations, share: ArrayLike<number>, groups: Groups): Control {
  const groupRows = new Int32Array(groups.count);
  const [groupWeight, groupSum] = [new Float64Array(groups.count), new Float64Array(groups.count)];
  let [rows, weight, sum] = [0, 0, 0];
  for (let row = 0; row < share.length; row++) {
    if (share[row] === 0) continue;
    const own = share[row]! * controlWeight(innovations, row);
    if (own === 0) continue;
    const group = groups.of[row]!;
    rows += 1;
    weight += own;
    sum += own * innovations.move[row]!;
    groupRows[group]! += 1;
    groupWeight[group]! += own;
    groupSum[group]! += own * innovations.move[row]!;
  }
  return { rows, weight, sum, groupRows, groupWeight, groupSum };
}

/** The control without some of its rows, each given by its weight and its move. */
export function withoutParts(
  control: Control,
  parts: readonly (OwnPart & { readonly group: number })[],
): Control {
  const left = {
    ...{ rows: control.rows - parts.length, weight: control.weight, sum: control.sum },
    ...{ groupRows: control.groupRows.slice(), groupWeight: control.groupWeight.slice() },
    groupSum: control.groupSum.slice(),
  };
  for (const { weight, move, group } of parts) {
    left.weight -= weight;
    left.sum -= weight * move;
    left.groupRows[group]! -= 1;
    left.groupWeight[group]! -= weight;
    left.groupSum[group]! -= weight * move;
  }
  return left;
}

/**
 * The control of a row: its innovation, its variance, and the weight of the row’s own group in it.
 */
export type Held = { move: number; variance: number; own: number };

/**
 * The part of a row in a control, left out when the row itself is compared; weight 0 if it has
 * none.
 */
export type OwnPart = { readonly weight: number; readonly move: number };
export const NO_PART: OwnPart = { weight: 0, move: 0 };

/**
 * Control of a row in a group: the group mean shrunk toward the site mean by how much groups differ
 * (`between`, the variance of a group's innovation about the site's). With an empty control nothing
 * is subtracted and no variance added.
 *
 * @example
 * // Two rows of weight 50 moved by 0.1 in the only group:
 * // the control moved by 0.1, with a variance of 0.01.
 */
export function heldAgainst(
  control: Control,
  group: number,
  between: number,
  own: OwnPart,
  into: Held,
): Held {
  const weight = control.weight - own.weight;
  if (weight <= 1e-9) return Object.assign(into, { move: 0, variance: 0, own: 0 });
  const all = (control.sum - own.weight * own.move) / weight;
  const groupWeight = Math.max(0, control.groupWeight[group]! - own.weight);
  const beyond = control.groupSum[group]! - own.weight * own.move - groupWeight * all;
  const share = ownShare(groupWeight, between);
  into.move = all + (groupWeight > 1e-9 ? (share * beyond) / groupWeight : 0);
  into.variance = between * (1 - share) + 1 / weight;
  into.own = share;
  return into;
}

/**
 * Weight of the group mean against the site mean: larger if it is more precise (`weight`, the
 * inverse of its variance) and if groups differ more.
 *
 * @example ownShare(100, 0.01) // 0.5
 */
export function ownShare(weight: number, between: number): number {
  const share = between * weight;
  return share / (share + 1);
}

/**
 * Variance that a control adds to the weighted mean of several rows outside it. The site-wide part
 * is shared by all rows; a group’s part is shared within the group and averages out over groups.
 *
 * @example
 * // Rows in one group: the variance of `heldAgainst`.
 * // Two groups of equal weight: the site-wide part and half of the group part.
 */
export function controlVariance(
  control: Control,
  between: number,
  rows: readonly { readonly group: number; readonly weight: number }[],
): number {
  if (control.weight <= 1e-9) return 0;
  const [ofGroup, all] = [new Map<number, number>(), rows.reduce((sum, { weight }) => sum + weight, 0)];
  for (const { group, weight } of rows) ofGroup.set(group, (ofGroup.get(group) ?? 0) + weight / all);
  return [...ofGroup].reduce(
    (sum, [group, part]) => sum + part ** 2 * between * (1 - ownShare(control.groupWeight[group]!, between)),
    1 / control.weight,
  );
}

/** Calls back for every group's innovation against the rest of the site, with its variance. */
export function eachGroup(control: Control, visit: (deviation: number, variance: number) => void): void {
  for (let group = 0; group < control.groupWeight.length; group++) {
    const weight = control.groupWeight[group]!;
    const others = control.weight - weight;
    if (control.groupRows[group]! < 2 || others <= 1e-9) continue;
    const rest = (control.sum - control.groupSum[group]!) / others;
    visit(control.groupSum[group]! / weight - rest, 1 / weight + 1 / others);
  }
}
