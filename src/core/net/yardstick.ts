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
  const noise = moves.noiseUsual[row]!;
  const move = moves.move[row]!;
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
  const sums = Array.from({ length: groups }, () => ({ pages: 0, weight: 0, move: 0, dipWeight: 0, dip: 0, lean: 0 }));
  for (let row = 0; row < fit.length; row++) {
    if (!fit[row]) continue;
    const weight = rowWeight(moves, row, spread);
    if (weight === 0) continue;
    const sum = sums[groupOf[row]!]!;
    sum.pages += 1;
    sum.weight += weight;
    sum.move += weight * moves.move[row]!;
    const dip = moves.dip[row]!;
    if (dip === dip) {
      sum.dipWeight += weight;
      sum.dip += weight * dip;
    }
    const lean = moves.lean[row]!;
    if (lean === lean) sum.lean += weight * lean;
  }
  const asPool = ({ pages, weight, move, dipWeight, dip, lean }: (typeof sums)[number]): Pool => ({
    pages,
    weight,
    move: weight > 0 ? move / weight : 0,
    dip: dipWeight > 0 ? dip / dipWeight : 0,
    lean: weight > 0 ? lean / weight : 0,
  });
  const all = sums.reduce(
    (a, b) => ({
      pages: a.pages + b.pages,
      weight: a.weight + b.weight,
      move: a.move + b.move,
      dipWeight: a.dipWeight + b.dipWeight,
      dip: a.dip + b.dip,
      lean: a.lean + b.lean,
    }),
    { pages: 0, weight: 0, move: 0, dipWeight: 0, dip: 0, lean: 0 },
  );
  return { site: asPool(all), groups: sums.map(asPool) };
}

/** A pool without one of the rows that went into it. */
export function without(pool: Pool, moves: MetricMoves, row: number, weight: number): Pool {
  const left = pool.weight - weight;
  if (weight === 0 || pool.pages <= 1 || left <= 1e-9)
    return weight === 0 ? pool : { pages: 0, weight: 0, move: 0, dip: 0, lean: 0 };
  const [dip, lean] = [moves.dip[row]!, moves.lean[row]!];
  return {
    pages: pool.pages - 1,
    weight: left,
    move: (pool.move * pool.weight - moves.move[row]! * weight) / left,
    dip: dip === dip ? (pool.dip * pool.weight - dip * weight) / left : pool.dip,
    lean: lean === lean ? (pool.lean * pool.weight - lean * weight) / left : pool.lean,
  };
}

/** What a page is measured against. `own` is the weight of its own group in it, from 0 to 1. */
export type Yardstick = {
  readonly move: number;
  readonly dip: number;
  readonly lean: number;
  readonly own: number;
};

/** Over the twenty weeks of a dip groups drift apart further than over the two spans, by about this much in variance. */
const PAST_SPREAD = 8;

/**
 * The yardstick of a page: its group's pool pulled toward the site's, the more the fewer pages the group has and the
 * less groups have differed on this site (`between`, the variance of a group's move about the site's). The dip is
 * measured more against the group: what a whole group lost in an update does not come back as one page's dip does.
 */
export function blend(group: Pool, site: Pool, between: number): Yardstick {
  const noise = 1 / Math.max(group.weight, 1e-9);
  const own = between / (between + noise);
  const ownPast = (PAST_SPREAD * between) / (PAST_SPREAD * between + noise);
  return {
    move: own * group.move + (1 - own) * site.move,
    dip: ownPast * group.dip + (1 - ownPast) * site.dip,
    lean: own * group.lean + (1 - own) * site.lean,
    own,
  };
}
