/* What the scorebook counts: changes and experiments read to their end, with their effects. */

import type { Span } from '../calendar/span';
import { MARGIN } from '../effect/criticalValue';
import { sharedVariance, varianceOf, type Estimate, type LogEffect } from '../effect/effect';
import type { Mark } from '../effect/verdict';
import { isAboutAppeal } from '../model/change';
import type { TitleChangeMark } from './titleChange';

/** What effects are pooled by: how often pages are chosen, or their clicks. */
export type ScoredMeasure = 'appeal' | 'clicks';

/**
 * An effect for pooling, with its 90% interval. `variance` is its error variance, `shared` the part
 * from the control.
 */
export type ScoredEffect = LogEffect & { readonly variance: number; readonly shared: number };

/**
 * A reading’s estimate for pooling. Its interval has a margin that guards single readings; in many
 * variances the margin would reduce the estimated spread, so it is left out.
 */
export function scoredEffect(estimate: Estimate): ScoredEffect {
  const { net, low, high } = estimate;
  const withoutMargin = MARGIN ** -2;
  return {
    ...{ net, low, high },
    ...{ variance: withoutMargin * varianceOf(estimate), shared: withoutMargin * sharedVariance(estimate) },
  };
}

/** A change, or the turn of a round, that was read to its end. */
export type Scored = {
  readonly siteId: number;
  /** One of the two is its number. */
  readonly changeId: number | null;
  readonly roundId: number | null;
  readonly title: string;
  /** The days that were read after it. */
  readonly after: Span;
  readonly pages: number;
  readonly kind: string;
  readonly tags: readonly string[];
  readonly person: string | null;
  /** The groups of its pages. */
  readonly groups: readonly string[];
  readonly marks: readonly TitleChangeMark[];
  readonly verdict: Mark;
  /**
   * Counted clicks of its pages before and after; null for turns, which have no single span before.
   */
  readonly counted: { readonly before: number | null; readonly after: number | null } | null;
  readonly estimates: Readonly<Record<ScoredMeasure, ScoredEffect | null>>;
};

/** What a change of a kind is scored by. */
export const measureOfKind = (kind: string): ScoredMeasure => (isAboutAppeal(kind) ? 'appeal' : 'clicks');

/** What several are scored by together: appeal where all of them are about it. */
export function measureOf(scored: readonly Scored[]): ScoredMeasure {
  return scored.length > 0 && scored.every(({ kind }) => isAboutAppeal(kind)) ? 'appeal' : 'clicks';
}
