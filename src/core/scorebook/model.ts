/* What the scorebook counts: changes and rounds that were read to their end, each with what it brought. */

import type { Span } from '../calendar/span';
import type { Estimate } from '../effect/effect';
import type { Mark } from '../effect/verdict';
import { isAboutAppeal } from '../model/change';
import type { TitleChangeMark } from './titleChange';

/** What effects are pooled by: how often pages are chosen, or their clicks. */
export type ScoredMeasure = 'appeal' | 'clicks';

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
  readonly estimates: Readonly<Record<ScoredMeasure, Estimate | null>>;
};

/** What a change of a kind is scored by. */
export const measureOfKind = (kind: string): ScoredMeasure => (isAboutAppeal(kind) ? 'appeal' : 'clicks');

/** What several are scored by together: appeal where all of them are about it. */
export function measureOf(scored: readonly Scored[]): ScoredMeasure {
  return scored.length > 0 && scored.every(({ kind }) => isAboutAppeal(kind)) ? 'appeal' : 'clicks';
}
