/* What a round brought: the halves' net moves against each other, tested by the draw that made them. */

import { ownVariance, sharedVariance, type Estimates } from '../effect/effect';
import type { Measure } from '../measures/registry';
import type { Draws } from '../statistics/draws';
import { CONFIDENCE } from '../statistics/normal';
import { randomisationTest, type Outside, type Unit } from '../statistics/randomisation';
import { PRIOR_FREEDOM, missedVariance } from './yardstick';

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
  /** How much the half that waits counts in what the first is held against, from 0 to 1; the rest is the yardstick. */
  readonly waiting: number;
  /** The variance that the yardstick brought in, which readings of the same days have in common. */
  readonly shared: number;
};

/** Draws say little where there are fewer pages in a half. */
const FEWEST_A_HALF = 2;

/**
 * The effect of a round: the weighted mean of the first half's net moves less that of the half that waits, each page by one over its variance, and the interval that
 * the draw leaves. Pages without the measure are left out; a block that loses one of its halves by that says nothing and goes too. Null where too few are left.
 *
 * Net moves are such against the site's untouched pages. Where it is known what these miss of the round's pages (`common`, a variance), the waiting half and they
 * together are the control, each by how sure it is.
 * Source for the combination: Pocock, Journal of Chronic Diseases 29 (1976) 175-188 (from memory): concurrent controls by a draw with others that may be off.
 */
export function roundEffect(
  pages: readonly RoundPage[],
  measure: Measure,
  draws: Draws,
  common: number | null = null,
): RoundEffect | null {
  const known = pages.flatMap(({ block, first, effects }): (Unit & { readonly shared: number })[] => {
    const estimate = effects[measure];
    return estimate && estimate.standardError > 0
      ? [
          {
            value: estimate.net,
            weight: 1 / ownVariance(estimate),
            block,
            first,
            shared: sharedVariance(estimate),
          },
        ]
      : [];
  });
  const halvesOf = (half: boolean) =>
    new Set(known.filter(({ first }) => first === half).map(({ block }) => block));
  const [first, second] = [halvesOf(true), halvesOf(false)];
  const units = known.filter(({ block }) => first.has(block) && second.has(block));
  const count = (half: boolean) => units.filter((unit) => unit.first === half).length;
  if (count(true) < FEWEST_A_HALF || count(false) < FEWEST_A_HALF) return null;
  const outside = common === null ? undefined : outsideOf(units, common);
  const { difference, twoSided, low, high, exact } = randomisationTest(units, CONFIDENCE, draws, outside);
  const waiting = outside?.share ?? 1;
  const shared = units.reduce((sum, unit) => sum + unit.shared, 0) / units.length;
  return {
    ...{ net: difference, low, high, p: twoSided, pages: units.length, exact, waiting },
    shared: (1 - waiting) ** 2 * shared,
  };
}

/** The yardstick as something outside the draw. */
function outsideOf(units: readonly Unit[], common: number): Outside {
  const weightOf = (some: readonly Unit[]) => some.reduce((sum, { weight }) => sum + weight, 0);
  const waiting = units.filter(({ first }) => !first);
  const own = 1 / weightOf(waiting);
  const moved = own * waiting.reduce((sum, unit) => sum + unit.weight * unit.value, 0);
  const missed = missedVariance({ moved, own }, common);
  const share = missed / (missed + own);
  return { share, error: (1 - share) * Math.sqrt(missed + 1 / weightOf(units)), priorFreedom: PRIOR_FREEDOM };
}
