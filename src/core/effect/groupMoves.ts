/* Group-by-week effects: what each group of rows did beyond the site, shrunk toward nothing, less a row's own part in it. */

import type { Groups } from './rows';
import { eachDeviation, WEEK_SPREAD, type WeeklyPanel } from './weekly';

/** Variance of a group's week about the site's by which its movement is pulled, for levels; rates differ less. */
const GROUP_SPREAD = 0.006;

/** Sums and weights by group and week, entry `group * weeks + week`, and what each row put in, entry `row * weeks + week`. */
export type GroupMoves = {
  readonly weeks: number;
  readonly of: ArrayLike<number>;
  readonly sum: Float64Array;
  readonly weight: Float64Array;
  readonly ownSum: Float64Array;
  readonly ownWeight: Float64Array;
};

/** The weekly movement of groups beyond the site's. */
export function groupMoves(panel: WeeklyPanel, groups: Groups, control: Uint8Array): GroupMoves {
  const { rows, weeks } = panel;
  const spread = panel.isRate ? GROUP_SPREAD / 4 : GROUP_SPREAD;
  const moves: GroupMoves = {
    ...{ weeks, of: groups.of },
    sum: new Float64Array(groups.count * weeks),
    weight: new Float64Array(groups.count * weeks).fill(1 / spread),
    ownSum: new Float64Array(rows * weeks),
    ownWeight: new Float64Array(rows * weeks),
  };
  eachDeviation(panel, control, ({ row, week, value, noise }) => {
    const weight = 1 / (noise + WEEK_SPREAD);
    const [at, own] = [groups.of[row]! * weeks + week, row * weeks + week];
    moves.ownWeight[own] = weight;
    moves.ownSum[own] = weight * value;
    moves.sum[at]! += weight * value;
    moves.weight[at]! += weight;
  });
  return moves;
}

/**
 * What the others of a row's group did beyond the site in a week: a difference of logarithms for levels, a ratio less one for rates. The
 * row itself is left out, or a page that dipped would drag its group with it and seem to have dipped less.
 */
export function groupMove(moves: GroupMoves, row: number, week: number): number {
  const at = moves.of[row]! * moves.weeks + week;
  const own = row * moves.weeks + week;
  return (moves.sum[at]! - moves.ownSum[own]!) / (moves.weight[at]! - moves.ownWeight[own]!);
}
