import type { MetricMoves } from './moves';

/** What the untouched pages did between two spans: their pooled move and dip, and how surely that is known. */
export type Pool = {
  readonly pages: number;
  /** Sum of the weights; its inverse is the variance of the pooled move. */
  readonly weight: number;
  readonly move: number;
  readonly dip: number;
  readonly lean: number;
};

/** Pooled moves of the whole site and of each group of its pages. */
export type Pools = { readonly site: Pool; readonly groups: readonly Pool[] };

/** A row with fewer clicks (or impressions) than this in both spans together says too little to be a yardstick. */
const FEWEST_COUNTS = 10;
const LARGEST_NOISE = 4 / FEWEST_COUNTS;

/** Weight of a row in the yardstick: one over its variance, so that one giant page does not rule (method, part 3). */
export function rowWeight(moves: MetricMoves, row: number, spread: number): number {
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
  moves: MetricMoves,
  fit: Uint8Array,
  groupOf: ArrayLike<number>,
  groups: number,
  spread: number,
): Pools {
  const sums = Array.from({ length: groups }, () => new PoolSum());
  const { move, dip, lean, noiseUsual } = moves;
  for (let row = 0; row < fit.length; row++) {
    if (fit[row] === 0) continue;
    const weight = weightOf(noiseUsual[row]!, move[row]!, spread);
    if (weight > 0) sums[groupOf[row]!]!.add(weight, move[row]!, dip[row]!, lean[row]!);
  }
  const all = new PoolSum();
  for (const sum of sums) all.merge(sum);
  return { site: all.pool(), groups: sums.map((sum) => sum.pool()) };
}

/** Adds up weighted moves, dips and leans, of which the last two may be absent. */
class PoolSum {
  private pages = 0;
  private weight = 0;
  private move = 0;
  private dipWeight = 0;
  private dip = 0;
  private leanWeight = 0;
  private lean = 0;

  add(weight: number, move: number, dip: number, lean: number): void {
    this.pages += 1;
    this.weight += weight;
    this.move += weight * move;
    if (dip === dip) {
      this.dipWeight += weight;
      this.dip += weight * dip;
    }
    if (lean === lean) {
      this.leanWeight += weight;
      this.lean += weight * lean;
    }
  }

  merge(other: PoolSum): void {
    this.pages += other.pages;
    this.weight += other.weight;
    this.move += other.move;
    this.dipWeight += other.dipWeight;
    this.dip += other.dip;
    this.leanWeight += other.leanWeight;
    this.lean += other.lean;
  }

  pool(): Pool {
    return {
      pages: this.pages,
      weight: this.weight,
      move: this.weight > 0 ? this.move / this.weight : 0,
      dip: this.dipWeight > 0 ? this.dip / this.dipWeight : 0,
      lean: this.leanWeight > 0 ? this.lean / this.leanWeight : 0,
    };
  }
}

/** What a page is measured against. `own` is the weight of its own group in it, from 0 to 1. */
export type Yardstick = {
  readonly move: number;
  readonly dip: number;
  readonly lean: number;
  readonly own: number;
};

/** Over the twenty weeks of a dip groups drift apart further than over the two spans, by about this much in variance. */
export const PAST_SPREAD = 20;

/**
 * How much a group's own pool counts against the site's: the more, the more pages it has (`weight`, the inverse of the
 * variance of its pooled move) and the more groups have differed on this site (`between`, the variance of a group's move
 * about the site's).
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
    lean: own * group.lean + (1 - own) * site.lean,
    own,
  };
}
