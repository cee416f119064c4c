/*
 * The effect of an experiment: net moves of the halves against each other, tested by
 * re-randomisation.
 */

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

/** Effect of an experiment on a measure, on the log scale, with a 90% interval and a p-value. */
export type RoundEffect = {
  readonly net: number;
  readonly low: number;
  readonly high: number;
  readonly p: number;
  /** Pages that have the measure. */
  readonly pages: number;
  readonly exact: boolean;
  /** Weight of the waiting half in the control, from 0 to 1; unchanged pages are the rest. */
  readonly waiting: number;
  /** The variance that the yardstick brought in, which readings of the same days have in common. */
  readonly shared: number;
};

/** Draws say little where there are fewer pages in a half. */
const FEWEST_A_HALF = 2;

/**
 * Effect of an experiment: the weighted mean of the first half’s net moves less that of the waiting
 * half, each page weighted by inverse variance, with the interval of the randomisation test. Pages
 * without the measure are left out, and so is a block that loses one of its halves. Null if too few
 * are left.
 *
 * Net moves are relative to unchanged pages of the site. If the variance of the error these share
 * with the experiment is known (`common`), the waiting half and unchanged pages are the control
 * together, weighted by precision.
 *
 * Source of the combination: Pocock, Journal of Chronic Diseases 29 (1976) 175-188 (from memory):
 * randomised concurrent controls with others that may be biased.
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
