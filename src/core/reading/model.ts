import type { Day } from '../calendar/day';
import type { ChangeSpans, Span } from '../calendar/span';
import type { Metrics } from '../measures/comparison';
import type { Change } from '../model/change';

/**
 * What a reading claims. `raw-change` states the plain difference and judges nothing: whether the change did it
 * is not known from two spans of one page alone. `waiting` is too soon; `no-figures` says that a span has none.
 */
export type Verdict = 'raw-change' | 'waiting' | 'no-figures';

export type CautionCode =
  | 'update-in-span'
  | 'event-in-span'
  | 'other-change-in-span'
  | 'missing-days'
  | 'provisional-days'
  | 'query-sums'
  | 'few-clicks'
  | 'no-position';

/** A reason to doubt a reading, with its days and what it points to. */
export type Caution = {
  readonly code: CautionCode;
  readonly message: string;
  readonly days: Span | null;
  readonly changeId: number | null;
  readonly eventId: number | null;
};

/** One before/after comparison of a change. */
export type Reading = {
  readonly change: Change;
  readonly spans: ChangeSpans & { readonly complete: boolean; readonly completeOn: Day | null };
  /** The spans actually compared: the full ones, or whole weeks of them while waiting, or null before that. */
  readonly compared: { readonly before: Span; readonly after: Span } | null;
  readonly metrics: Metrics;
  readonly queries: readonly { readonly query: string; readonly metrics: Metrics }[];
  readonly verdict: Verdict;
  readonly cautions: readonly Caution[];
};
