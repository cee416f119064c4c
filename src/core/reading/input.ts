import type { Day } from '../calendar/day';
import type { Span } from '../calendar/span';
import type { DayFigures } from '../measures/totals';
import type { Change } from '../model/change';
import type { OutsideEvent } from '../model/event';
import type { EffectEngine } from '../effect/engine';
import type { PositionCurve } from '../appeal/positionCurve';
import type { ResultsEvent } from '../wording/days';
import type { QueryTotals } from '../reasons/reasons';
import type { Carrier } from './readingModel';
import type { PartShares } from './shares';
import type { Narrowing } from './narrowing';

/**
 * A day of the pages of a reading. `fromQueries`: without a page total, the sum of its query rows.
 */
export type PageDay = DayFigures & { readonly fromQueries: boolean };

/** What only a reading looked at by itself is made from, not one in a list. */
export type Detail = {
  /** Totals of every query on the pages in two spans; null without rows by query in either. */
  readonly queriesIn: (before: Span, after: Span) => readonly QueryTotals[] | null;
  readonly curve: PositionCurve;
};

/** Everything a reading is made from. Days outside the spans may be given; they are left out. */
export type ReadingInput = {
  readonly change: Change;
  readonly windowDays: number;
  readonly settlingDays: number;
  readonly provisionalDays: number;
  readonly today: Day;
  /** The newest day that may be read; null where the site has no figures. */
  readonly lastReadable: Day | null;
  /** Days with figures of any page. A page without a row on such a day had no impressions. */
  readonly daysWithFigures: ReadonlySet<Day>;
  /**
   * Days with rows by query. A query without a row on such a day had only withheld impressions, if
   * any. Read only if the change names queries.
   */
  readonly daysWithQueries: ReadonlySet<Day>;
  /** Figures of the change's pages, one row per page and day. */
  readonly pageDays: readonly PageDay[];
  /** Figures of each query that the change names, on the change's pages. */
  readonly queryDays: readonly { readonly query: string; readonly days: readonly DayFigures[] }[];
  /** Whether each side is one period total, imported without days, on the first day of its span. */
  readonly fromPeriods?: boolean;
  /**
   * Sentences on pages of the change without search figures whose twin (a page with almost the same
   * URL) has them.
   */
  readonly wrongTwins: readonly string[];
  readonly otherChanges: readonly Change[];
  readonly events: readonly OutsideEvent[];
  /** What happened on the result pages of the change's queries, as far as they were looked at. */
  readonly resultsEvents?: readonly (ResultsEvent & { readonly query: string })[];
  readonly narrowed: Narrowing;
  /**
   * Whether there are rows by query for what the reading is narrowed to; without them appeal is
   * left out.
   */
  readonly appealKnown?: boolean;
  /** The history that net effects are read from, and the ids of its rows; null if there is none. */
  readonly engine: EffectEngine | null;
  readonly rows: readonly number[];
  /** Shares of impressions by device and country in the two spans. */
  readonly sharesIn: (before: Span, after: Span) => readonly PartShares[];
  readonly detail: Detail | null;
  /** Which addresses carried the figures and when, where the change moved the page to another. */
  readonly carriers?: readonly Carrier[];
};

/** Number of days of a span on which the site has figures. */
export function coveredDays(span: Span, daysWithFigures: ReadonlySet<Day>): number {
  let covered = 0;
  for (let day = span.firstDay; day <= span.lastDay; day++) if (daysWithFigures.has(day as Day)) covered++;
  return covered;
}
