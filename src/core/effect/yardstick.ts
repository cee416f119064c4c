/* The control pool: precision-weighted means of untouched pages' log ratios, by group and site, partially pooled. */

import type { MetricLogRatios } from './logRatios';

/** What the untouched pages did between two spans: their pooled move and dip, and how surely that is known. */
export type Pool = {
  readonly pages: number;
  /** Sum of the weights; its inverse is the variance of the pooled move. */
  readonly weight: number;
  readonly move: number;
  readonly dip: number;
  readonly preTrend: number;
};

/** Pooled moves of the whole site and of each group of its pages. */
export type Pools = { readonly site: Pool; readonly groups: readonly Pool[] };

/** A row with fewer clicks (or impressions) than this in both spans together says too little to be a yardstick. */
const FEWEST_COUNTS = 10;
const LARGEST_NOISE = 4 / FEWEST_COUNTS;

/** Weight of a row in the yardstick: one over its variance, so that one giant page does not rule (docs/method.md, 6). */
export function rowWeight(moves: MetricLogRatios, row: number, spread: number): number {
  return weightOf(moves.noiseUsual[row]!, moves.move[row]!, spread);
}

function weightOf(noise: number, move: number, spread: number): number {
  return move === move && noise <= LARGEST_NOISE ? 1 / (noise + spread) : 0;
}

/**
 * Pools the moves of all fit rows, by site and by group. `fit` holds 1 for a row that was untouched, `groupOf` the
 * number of its group, `spread` the variance of a row's move beyond counting.
 */
export function poolMoves(
  moves: MetricLogRatios,
  fit: Uint8Array,
  groupOf: ArrayLike<number>,
  groups: number,
  spread: number,
): Pools {
  const sums = Array.from({ length: groups }, () => new WeightedSum());
  const { move, dip, preTrend, noiseUsual } = moves;
  for (let row = 0; row < fit.length; row++) {
    if (fit[row] === 0) continue;
    const weight = weightOf(noiseUsual[row]!, move[row]!, spread);
    if (weight > 0) sums[groupOf[row]!]!.add(weight, move[row]!, dip[row]!, preTrend[row]!);
  }
  const all = new WeightedSum();
  for (const sum of sums) all.merge(sum);
  return { site: all.pool(), groups: sums.map((sum) => sum.pool()) };
}

/** Adds up weighted moves, dips and pre-trends, of which the last two may be absent. */
class WeightedSum {
  private pages = 0;
  private weight = 0;
  private move = 0;
  private dipWeight = 0;
  private dip = 0;
  private preTrendWeight = 0;
  private preTrend = 0;

  add(weight: number, move: number, dip: number, preTrend: number): void {
    this.pages += 1;
    this.weight += weight;
    this.move += weight * move;
    if (dip === dip) {
      this.dipWeight += weight;
      this.dip += weight * dip;
    }
    if (preTrend === preTrend) {
      this.preTrendWeight += weight;
      this.preTrend += weight * preTrend;
    }
  }

  merge(other: WeightedSum): void {
    this.pages += other.pages;
    this.weight += other.weight;
    this.move += other.move;
    this.dipWeight += other.dipWeight;
    this.dip += other.dip;
    this.preTrendWeight += other.preTrendWeight;
    this.preTrend += other.preTrend;
  }

  pool(): Pool {
    return {
      pages: this.pages,
      weight: this.weight,
      move: this.weight > 0 ? this.move / this.weight : 0,
      dip: this.dipWeight > 0 ? this.dip / this.dipWeight : 0,
      preTrend: this.preTrendWeight > 0 ? this.preTrend / this.preTrendWeight : 0,
    };
  }
}

/** What a page is measured against. `own` is the weight of its own group in it, from 0 to 1. */
export type Yardstick = {
  readonly move: number;
  readonly dip: number;
  readonly preTrend: number;
  readonly own: number;
};

/** Over the twenty weeks of a dip groups drift apart further than over the two spans, by about this much in variance. */
export const PAST_SPREAD = 20;

/**
 * How much a group's own pool counts against the site's: the more, the more pages it has (`weight`, the inverse of the
 * variance of its pooled move) and the more groups have differed on this site (`between`, the variance of a group's move
 * about the site's).
 *
 * @example ownShare(100, 0.01) // 0.5: the group's variance of 0.01 equals the variance of its pooled move
 */
export function ownShare(weight: number, between: number): number {
  const share = between * weight;
  return share / (share + 1);
}

/**
 * The yardstick of a page: its group's pool pulled toward the site's. The dip is measured more against the group: what
 * a whole group lost in an update does not come back as one page's dip does.
 */
export function blend(group: Pool, site: Pool, between: number): Yardstick {
  const own = ownShare(group.weight, between);
  const ownPast = ownShare(group.weight, PAST_SPREAD * between);
  return {
    move: own * group.move + (1 - own) * site.move,
    dip: ownPast * group.dip + (1 - ownPast) * site.dip,
    preTrend: own * group.preTrend + (1 - own) * site.preTrend,
    own,
  };
}
