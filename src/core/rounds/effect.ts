/* What a round brought: the halves' net moves against each other, tested by the draw that made them. */

import type { Estimates } from '../effect/effect';
import type { Measure } from '../model/change';
import { CONFIDENCE } from '../statistics/normal';
import { randomisationTest, type Unit } from '../statistics/randomisation';

/** A page of a round with its net effects, its half and the block within which it was drawn. */
export type RoundPage = {
  readonly pageId: number;
  readonly block: number;
  readonly first: boolean;
  readonly effects: Estimates;
};

/** The effect of a round on a measure, on the log scale, with a 90% interval and how often the draw alone brings as much. */
export type RoundEffect = {
  readonly net: number;
  readonly low: number;
  readonly high: number;
  readonly p: number;
  /** Pages that have the measure. */
  readonly pages: number;
  readonly exact: boolean;
};

/** Draws say little where there are fewer pages in a half. */
const FEWEST_A_HALF = 2;

/**
 * The effect of a round: the weighted mean of the first half's net moves less that of the half that waits, each page by one over its variance, and the interval that
 * the draw leaves. Pages without the measure are left out; a block that loses one of its halves by that says nothing and goes too. Null where too few are left.
 */
export function roundEffect(pages: readonly RoundPage[], measure: Measure, seed: number): RoundEffect | null {
  const known = pages.flatMap(({ block, first, effects }): Unit[] => {
    const estimate = effects[measure];
    return estimate && estimate.standardError > 0
      ? [{ value: estimate.net, weight: 1 / estimate.standardError ** 2, block, first }]
      : [];
  });
  const halvesOf = (half: boolean) =>
    new Set(known.filter(({ first }) => first === half).map(({ block }) => block));
  const [first, second] = [halvesOf(true), halvesOf(false)];
  const units = known.filter(({ block }) => first.has(block) && second.has(block));
  const count = (half: boolean) => units.filter((unit) => unit.first === half).length;
  if (count(true) < FEWEST_A_HALF || count(false) < FEWEST_A_HALF) return null;
  const { difference, twoSided, low, high, exact } = randomisationTest(
    units,
    CONFIDENCE,
    (seed % 1_000_003) / 1_000_003,
  );
  return { net: difference, low, high, p: twoSided, pages: units.length, exact };
}
