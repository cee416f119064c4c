import type { MetricMoves } from './moves';
import type { Part } from './parts';
import type { Noise } from './recovery';
import { FIT, type Column } from './untouched';
import { ownShare, PAST_SPREAD, poolMoves, rowWeight, type Pool } from './yardstick';

/** The groups of a site's pages: the number of each row's group, and how many groups there are. */
export type Groups = { readonly of: ArrayLike<number>; readonly count: number };

/**
 * What the rows of a history are for: the first `yardstick` rows make up the yardstick, and the swing is learned from
 * those from `firstSubject` on. Of a site's pages that is all of them, of single queries the rows after the pages.
 */
export type Roles = { readonly yardstick: number; readonly firstSubject: number };

/**
 * One untouched row at one past day: its move, dip and lean less those of a yardstick made of the other rows. `weight`
 * is 0 for a row that says too little to learn from.
 */
export type Spell = {
  column: number;
  row: number;
  move: number;
  dip: number;
  lean: number;
  weight: number;
};

/**
 * Calls back for every ordinary spell of a part on the rows from `rows.from` to before `rows.to`, and for every group's move against the rest of the site with its
 * variance. The object handed over is the same each time and must not be kept.
 */
export function eachSpell(
  part: Part,
  columns: readonly Column[],
  groups: Groups,
  roles: Roles,
  spread: number,
  between: number,
  rows: { readonly from: number; readonly to: number },
  visit: (spell: Spell) => void,
  visitGroup?: (deviation: number, variance: number) => void,
): void {
  const spell: Spell = { column: 0, row: 0, move: 0, dip: 0, lean: 0, weight: 0 };
  const [group, site]: [Rest, Rest] = [new Rest(), new Rest()];
  columns.forEach((column, at) => {
    const moves = column.moves[part];
    const pools = poolMoves(moves, column.fit.subarray(0, roles.yardstick), groups.of, groups.count, spread);
    if (visitGroup) eachGroup(pools.site, pools.groups, visitGroup);
    spell.column = at;
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
      spell.row = row;
      spell.weight = weight;
      spell.move = move - own * group.move - (1 - own) * site.move;
      spell.dip = moves.dip[row]! - ownPast * group.dip - (1 - ownPast) * site.dip;
      spell.lean = moves.lean[row]! - own * group.lean - (1 - own) * site.lean;
      visit(spell);
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
class Rest {
  weight = 0;
  move = 0;
  dip = 0;
  lean = 0;

  of(pool: Pool, moves: MetricMoves, row: number, weight: number): void {
    this.weight = pool.weight - weight;
    if (weight === 0) {
      this.move = pool.move;
      this.dip = pool.dip;
      this.lean = pool.lean;
    } else if (pool.pages <= 1) {
      this.weight = this.move = this.dip = this.lean = 0;
    } else {
      const [dip, lean] = [moves.dip[row]!, moves.lean[row]!];
      this.move = (pool.move * pool.weight - moves.move[row]! * weight) / this.weight;
      this.dip = dip === dip ? (pool.dip * pool.weight - dip * weight) / this.weight : pool.dip;
      this.lean = lean === lean ? (pool.lean * pool.weight - lean * weight) / this.weight : pool.lean;
    }
  }
}

/** Counting noise of a row; long level and last week are absent where its dip and lean are. */
export function noiseOf(moves: MetricMoves, row: number): Noise {
  const [dip, lean] = [moves.dip[row]!, moves.lean[row]!];
  return {
    before: moves.noiseBefore[row]!,
    after: moves.noiseAfter[row]!,
    long: dip === dip ? moves.noiseLong[row]! : null,
    lean: lean === lean ? moves.noiseLean[row]! : null,
  };
}
