/** Sums of clicks and impressions, and of position as far as it is known. */
export type Sums = {
  readonly clicks: number;
  readonly impressions: number;
  /** Average position times the impressions that came with one. */
  readonly positionSum: number;
  /** The impressions that came with a position; 0 where none did, and the position is then absent. */
  readonly positionWeight: number;
};

/*
 * The one rule for an absent position: its row counts among clicks and impressions, and in neither sum of positions. So a
 * row without a position takes nothing away from what is known of the others.
 */

/** Whether a position sum, NaN where absent, is there. */
const isKnown = (positionSum: number) => positionSum === positionSum;

/**
 * Adds up rows of clicks, impressions and position sums.
 *
 * @example
 * const sums = new Accumulator().add(1, 10, 40).add(2, 30, NaN);
 * // clicks 3, impressions 40, positionSum 40, positionWeight 10: an average position of 4
 */
export class Accumulator implements Sums {
  clicks = 0;
  impressions = 0;
  positionSum = 0;
  positionWeight = 0;

  /** Adds a row; `positionSum` is its position times its impressions, NaN where it has no position. */
  add(clicks: number, impressions: number, positionSum: number): this {
    this.clicks += clicks;
    this.impressions += impressions;
    if (isKnown(positionSum)) {
      this.positionSum += positionSum;
      this.positionWeight += impressions;
    }
    return this;
  }

  /** Adds what was added up elsewhere. */
  addSums({ clicks, impressions, positionSum, positionWeight }: Sums): this {
    this.clicks += clicks;
    this.impressions += impressions;
    this.positionSum += positionSum;
    this.positionWeight += positionWeight;
    return this;
  }
}

/** The same sums for many places at once (days, rows), a column each. */
export type SumColumns = {
  readonly clicks: { [at: number]: number };
  readonly impressions: { [at: number]: number };
  readonly positionSum: { [at: number]: number };
  readonly positionWeight: { [at: number]: number };
};

/** Adds a row to one place of columns, by the rule of `Accumulator`. */
export function addToColumns(
  to: SumColumns,
  at: number,
  clicks: number,
  impressions: number,
  positionSum: number,
): void {
  to.clicks[at]! += clicks;
  to.impressions[at]! += impressions;
  if (isKnown(positionSum)) {
    to.positionSum[at]! += positionSum;
    to.positionWeight[at]! += impressions;
  }
}
