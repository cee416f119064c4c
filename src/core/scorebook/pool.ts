/* What changes of one sort brought together, and what to expect of the next one. */

import { overlap, spanLength } from '../calendar/span';
import type { LogEffect } from '../effect/effect';
import { nextEffect } from '../statistics/prediction';
import { hartungKnapp, randomEffects } from '../statistics/randomEffects';
import { CONFIDENCE } from '../statistics/normal';
import type { Scored, ScoredEffect, ScoredMeasure } from './scorebookModel';

/** Mean effect of changes on the log scale, their spread, and the range for the next one. */
export type PooledScore = LogEffect & {
  readonly measure: ScoredMeasure;
  /** How many changes have the measure. */
  readonly counted: number;
  readonly standardError: number;
  /** Standard deviation of the true effects. */
  readonly spread: number;
  /** Null where there are fewer than three. */
  readonly next: { readonly low: number; readonly high: number } | null;
};

/**
 * Pools the effects of changes: a random-effects mean with the Hartung-Knapp interval. Estimates
 * with the same control over the same days have correlated errors, and the variance allows for it.
 * Null if none has the measure; a single one stands for itself.
 */
export function poolScores(scored: readonly Scored[], measure: ScoredMeasure): PooledScore | null {
  const known = scored.flatMap((one) => {
    const effect = one.estimates[measure];
    return effect ? [{ one, effect }] : [];
  });
  const [only] = known;
  if (!only) return null;
  if (known.length === 1) {
    const { net, low, high, variance } = only.effect;
    const standardError = Math.sqrt(variance);
    return { measure, counted: 1, net, low, high, standardError, spread: 0, next: null };
  }
  const estimates = known.map(({ effect }) => effect.net);
  const variances = known.map(({ effect }) => effect.variance);
  const pooled = randomEffects(estimates, variances);
  const together = togetherOf(known, pooled.between);
  const range = hartungKnapp(estimates, variances, pooled, CONFIDENCE, together);
  return {
    ...{ measure, counted: known.length, net: pooled.mean, low: range.low, high: range.high },
    ...{ standardError: range.standardError, spread: Math.sqrt(pooled.between) },
    next: known.length < 3 ? null : nextEffect(estimates, variances, CONFIDENCE, together),
  };
}

type Known = { readonly one: Scored; readonly effect: ScoredEffect };

/** Variance that errors shared by changes of the same days add to their weighted mean. */
function togetherOf(known: readonly Known[], between: number): number {
  const weights = known.map(({ effect }) => 1 / (effect.variance + between));
  const all = weights.reduce((sum, weight) => sum + weight, 0);
  const shared = known.map(({ effect }) => Math.sqrt(effect.shared));
  let sum = 0;
  known.forEach(({ one }, i) => {
    for (let k = 0; k < i; k++) {
      const other = known[k]!.one;
      if (other.siteId !== one.siteId) continue;
      const days = overlap(one.after, other.after);
      if (!days) continue;
      const part = spanLength(days) / Math.max(spanLength(one.after), spanLength(other.after));
      sum += 2 * weights[i]! * weights[k]! * part * shared[i]! * shared[k]!;
    }
  });
  return sum / all ** 2;
}
