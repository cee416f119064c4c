/* Placebo windows: untouched pages at past days, each against a leave-one-out pool of the others. */

import type { MetricLogRatios } from './logRatios';
import type { Component } from './components';
import type { Noise } from './regressionToMean';
import type { Rows } from './rows';
import { FIT, type Column } from './untouched';
import { ownShare, PAST_SPREAD, poolMoves, rowWeight, type Pool } from './yardstick';

/**
 * One untouched row at one past day: its move, dip and preTrend less those of a yardstick made of the other rows. `weight`
 * is 0 for a row that says too little to learn from.
 */
export type PlaceboWindow = {
  column: number;
  row: number;
  move: number;
  dip: number;
  preTrend: number;
  weight: number;
};

/** The past days that placebo windows are taken from, and the rows in them. */
export type PlaceboGround = Pick<Rows, 'groups' | 'roles'> & { readonly columns: readonly Column[] };

/** Variances beyond counting by which pools are weighted: of a row's log ratio, and of a group's about the site's. */
export type PoolVariances = { readonly spread: number; readonly between: number };

/**
 * Calls back for every placebo window of a component on the rows from `rows.from` to before `rows.to`, and for every group's
 * move against the rest of the site with its variance. The object handed over is the same each time and must not be kept.
 */
export function eachPlaceboWindow(
  part: Component,
  { columns, groups, roles }: PlaceboGround,
  { spread, between }: PoolVariances,
  rows: { readonly from: number; readonly to: number },
  visit: (window: PlaceboWindow) => void,
  visitGroup?: (deviation: number, variance: number) => void,
): void {
  const window: PlaceboWindow = { column: 0, row: 0, move: 0, dip: 0, preTrend: 0, weight: 0 };
  const [group, site]: [LeaveOneOutPool, LeaveOneOutPool] = [new LeaveOneOutPool(), new LeaveOneOutPool()];
  columns.forEach((column, at) => {
    const moves = column.moves[part];
    const pools = poolMoves(moves, column.fit.subarray(0, roles.yardstick), groups.of, groups.count, spread);
    if (visitGroup) eachGroup(pools.site, pools.groups, visitGroup);
    window.column = at;
    for (let row = rows.from; row < rows.to; row++) {
      if (column.fit[row] !== FIT) continue;
      const move = moves.move[row]!;
      if (move !== move) continue;
      const weight = rowWeight(moves, row, spread);
      const pooled = row < roles.yardstick ? weight : 0;
      group.of(pools.groups[groups.of[row]!]!, moves, row, pooled);
      site.of(pools.site, moves, row, pooled);
      const own = ownShare(group.weight, between);
      const ownPast = ownShare(group.weight, PAST_SPREAD * between);
      window.row = row;
      window.weight = weight;
      window.move = move - own * group.move - (1 - own) * site.move;
      window.dip = moves.dip[row]! - ownPast * group.dip - (1 - ownPast) * site.dip;
      window.preTrend = moves.preTrend[row]! - own * group.preTrend - (1 - own) * site.preTrend;
      visit(window);
    }
  });
}

function eachGroup(
  site: Pool,
  groups: readonly Pool[],
  visit: (deviation: number, variance: number) => void,
): void {
  for (const group of groups) {
    const others = site.weight - group.weight;
    if (group.pages < 2 || others <= 1e-9) continue;
    const rest = (site.move * site.weight - group.move * group.weight) / others;
    visit(group.move - rest, 1 / group.weight + 1 / others);
  }
}

/** A pool without one of the rows that went into it; used over and over, since it is made for every page and past week. */
class LeaveOneOutPool {
  weight = 0;
  move = 0;
  dip = 0;
  preTrend = 0;

  of(pool: Pool, moves: MetricLogRatios, row: number, weight: number): void {
    this.weight = pool.weight - weight;
    if (weight === 0) {
      this.move = pool.move;
      this.dip = pool.dip;
      this.preTrend = pool.preTrend;
    } else if (pool.pages <= 1) {
      this.weight = this.move = this.dip = this.preTrend = 0;
    } else {
      const [dip, preTrend] = [moves.dip[row]!, moves.preTrend[row]!];
      this.move = (pool.move * pool.weight - moves.move[row]! * weight) / this.weight;
      this.dip = dip === dip ? (pool.dip * pool.weight - dip * weight) / this.weight : pool.dip;
      this.preTrend =
        preTrend === preTrend
          ? (pool.preTrend * pool.weight - preTrend * weight) / this.weight
          : pool.preTrend;
    }
  }
}

/** Counting noise of a row; long level and last week are absent where its dip and preTrend are. */
export function noiseOf(moves: MetricLogRatios, row: number): Noise {
  const [dip, preTrend] = [moves.dip[row]!, moves.preTrend[row]!];
  return {
    before: moves.noiseBefore[row]!,
    after: moves.noiseAfter[row]!,
    long: dip === dip ? moves.noiseLong[row]! : null,
    preTrend: preTrend === preTrend ? moves.noisePreTrend[row]! : null,
  };
}
