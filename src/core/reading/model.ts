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
  | 'missing-query-days'
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

/**
 * The days actually summed up: the full spans, or whole weeks of them while waiting. Before the first week after the
 * change is over there is no after, and before is as far as it can be read; null where not even that is there.
 */
export type Compared = { readonly before: Span; readonly after: Span | null } | null;

/** One before/after comparison of a change. */
export type Reading = {
  readonly change: Change;
  readonly spans: ChangeSpans & {
    readonly complete: boolean;
    /**
     * While waiting: the day on which the figures of the whole after span, and of its first week, are expected to be
     * final. Null where that day has come and only the figures themselves are wanting, or there is nothing to wait for.
     */
    readonly completeOn: Day | null;
    readonly interimOn: Day | null;
  };
  readonly compared: Compared;
  readonly metrics: Metrics;
  readonly queries: readonly { readonly query: string; readonly metrics: Metrics }[];
  readonly verdict: Verdict;
  readonly cautions: readonly Caution[];
};
