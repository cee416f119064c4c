import type { Day } from '../calendar/day';
import { inSpan, type Span } from '../calendar/span';

/**
 * What one day brought. `positionSum` is the average position times the impressions, so that it can be added
 * up; null where the source gave no position.
 */
export type DayFigures = {
  readonly day: Day;
  readonly clicks: number;
  readonly impressions: number;
  readonly positionSum: number | null;
};

/** Sums over a span. `positionWeight` counts the impressions that came with a position. */
export type Totals = {
  readonly days: number;
  readonly clicks: number;
  readonly impressions: number;
  readonly positionSum: number;
  readonly positionWeight: number;
};

export const NO_FIGURES: Totals = { days: 0, clicks: 0, impressions: 0, positionSum: 0, positionWeight: 0 };

/** Adds up day figures that lie in `span`. `days` counts the rows added, so pass at most one row a day. */
export function sumFigures(rows: Iterable<DayFigures>, span: Span): Totals {
  let { days, clicks, impressions, positionSum, positionWeight } = NO_FIGURES;
  for (const row of rows) {
    if (!inSpan(row.day, span)) continue;
    days += 1;
    clicks += row.clicks;
    impressions += row.impressions;
    if (row.positionSum !== null) {
      positionSum += row.positionSum;
      positionWeight += row.impressions;
    }
  }
  return { days, clicks, impressions, positionSum, positionWeight };
}

/** Click-through rate of a span, sum of clicks over sum of impressions (never a mean of daily rates); null without impressions. */
export function clickThroughRate(t: Totals): number | null {
  return t.impressions > 0 ? t.clicks / t.impressions : null;
}

/** Average position of a span weighted by impressions (never a mean of daily positions); null without impressions. */
export function averagePosition(t: Totals): number | null {
  return t.positionWeight > 0 ? t.positionSum / t.positionWeight : null;
}
