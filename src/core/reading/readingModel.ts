import type { Day } from '../calendar/day';
import type { ChangeSpans, Span } from '../calendar/span';
import type { Metrics } from '../measures/comparison';
import type { Change } from '../model/change';
import type { Measure, Metric } from '../measures/registry';
import type { Opposed } from '../effect/movedMeasures';
import type { VerdictMeasure } from '../measures/registry';
import type { Estimates, Net } from '../effect/effect';
import type { PlaceboCount } from '../effect/pooledEffect';
import type { Mark } from '../effect/verdict';
import type { Showable } from '../effect/power';
import type { Reasons } from '../reasons/reasons';
import type { Narrowing } from './narrowing';

/** What a reading claims. `waiting` is too soon, or short of figures still to come. */
export type Verdict = Mark | 'waiting';

export type CautionCode =
  | 'update-in-span'
  | 'event-in-span'
  | 'season-on-one-side'
  | 'other-change-in-span'
  | 'several-edits'
  | 'no-figures'
  | 'twin-has-figures'
  | 'period-totals'
  | 'missing-days'
  | 'provisional-days'
  | 'missing-query-days'
  | 'query-sums'
  | 'few-clicks'
  | 'no-position'
  | 'not-seen-in-results'
  | 'results-changed'
  | 'moving-before'
  | 'low-before'
  | 'high-before'
  | 'few-yardstick-pages'
  | 'yardstick-tracks-badly'
  | 'shares-moved'
  | 'no-queries-by-part';

/** A reason to doubt a reading, with its days and what it points to. */
export type Caution = {
  readonly code: CautionCode;
  readonly message: string;
  readonly days: Span | null;
  readonly changeId: number | null;
  readonly eventId: number | null;
};

/**
 * The days actually compared: the full spans, or their whole weeks while collecting data. Before
 * the end of the first week there is no after span, and the before span is cut to readable days;
 * null if there are none.
 */
export type Compared = { readonly before: Span; readonly after: Span | null } | null;

/**
 * The movement of unchanged pages between the same spans, as it applies to the pages of the
 * reading.
 */
export type Yardstick = {
  /** Its ratio after / before, by metric; of position, below 1 means unchanged pages improved. */
  readonly [M in Metric as `${M}Ratio`]: number | null;
} & {
  readonly pages: number;
  /** How many of these pages are in the same part of the site, and their weight, from 0 to 1. */
  readonly groupPages: number;
  readonly groupWeight: number;
  /**
   * Share of the variance of unchanged pages that the control removes; below 0 it adds variance.
   */
  readonly tracking: number | null;
  /**
   * Whether groups were learned from movement, and the pages’ own group; null if they are in
   * several.
   */
  readonly groupLearned: boolean;
  readonly group: number | null;
};

/** The name of the ratio of a metric in a yardstick. @example ratioName('ctr') // "ctrRatio" */
export const ratioName = <M extends Metric>(metric: M) => `${metric}Ratio` as const;

/** The early call: what was plain, since which day, and how many days after settling. */
export type EarlyLook = {
  readonly called: 'lifted' | 'dropped';
  readonly movedIn: VerdictMeasure;
  readonly day: Day;
  readonly look: number;
};

/** One of several pages, read by itself: its verdict and the measure the verdict is told by. */
export type PageReading = {
  readonly id: number;
  /** What was counted, without expected clicks. */
  readonly raw: Metrics;
  readonly net: Net;
  readonly mark: Mark | null;
  readonly judged: Measure;
};

/** A written address of a page, and the first and last day on which it had impressions. */
export type Carrier = { readonly address: string; readonly firstDay: Day; readonly lastDay: Day };

/** How long to wait, or whether to start at all. */
export type Wait = {
  readonly metric: Metric;
  readonly showable: readonly Showable[];
  /**
   * The expected effect as a ratio, and the fewest days that would show it; null if there is none.
   */
  readonly expectedRatio: number | null;
  readonly daysNeeded: number | null;
};

/** One before/after comparison of a change. */
export type Reading = {
  readonly change: Change;
  readonly narrowed: Narrowing;
  readonly spans: ChangeSpans & {
    readonly complete: boolean;
    /**
     * While collecting data: the day on which the figures of the after span, and of its first week,
     * should be final. Null if that day has come and only figures are missing, or nothing is
     * awaited.
     */
    readonly completeOn: Day | null;
    readonly interimOn: Day | null;
    /** The change is still to be made. */
    readonly planned: boolean;
  };
  readonly compared: Compared;
  readonly metrics: Metrics;
  readonly queries: readonly { readonly query: string; readonly metrics: Metrics }[];
  /** The measure of the verdict: what moved, or else clicks or appeal by the type of the change. */
  readonly judged: Measure;
  readonly verdict: Verdict;
  /** What moved, where a verdict says that something did. */
  readonly movedIn: VerdictMeasure | null;
  readonly opposed: Opposed | null;
  /** What is plain already before the days are over; null where nothing is, or they are. */
  readonly early: EarlyLook | null;
  /** Net effects with 90% intervals, and the verdict on each metric; null before any comparison. */
  readonly net: Net | null;
  readonly marks: Readonly<Record<Measure, Mark | null>>;
  /** The estimates behind them, on the log scale. */
  readonly estimates: Estimates | null;
  readonly yardstick: Yardstick | null;
  /** Ordinary spells of these pages, and how many moved at least as far in the judged metric. */
  readonly swing: PlaceboCount | null;
  /** Each page by itself, where the change is on several; the most clicked first. */
  readonly pages: readonly PageReading[];
  /** The same days a year earlier, where the figures reach back. */
  readonly yearBefore: { readonly clicksRatio: number; readonly netRatio: number | null } | null;
  readonly reasons: Reasons | null;
  /** Whether CTR fell because the page is shown for more searches. */
  readonly widerExposure: boolean;
  readonly wait: Wait | null;
  /** Which addresses carried the figures and when, where the change moved the page to another. */
  readonly carriers: readonly Carrier[];
  readonly cautions: readonly Caution[];
  /** The day up to which figures were known; null for now. */
  readonly asOf: Day | null;
  /** What was said when the days were over, where figures revised since say otherwise. */
  readonly saidAtCompletion: SaidThen | null;
  /** Pages that move with those of the change; null if they are of several groups, or unknown. */
  readonly movesWith: MovesWith | null;
};

/** What a reading said on the day on which it was complete. */
export type SaidThen = { readonly day: Day; readonly verdict: Mark; readonly sentence: string };

/** How many other pages move with those of a change, and what most of them have in common. */
export type MovesWith = { readonly others: number; readonly mostly: string | null };
