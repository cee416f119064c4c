import type { Day } from '../calendar/day';
import { inSpan, type Span } from '../calendar/span';
import { Accumulator, type Sums } from './accumulator';

/** What one day brought. */
export type DayFigures = Sums & { readonly day: Day };

/** Sums over a span, and of how many days. */
export type Totals = Sums & { readonly days: number };

export const NO_FIGURES: Totals = { days: 0, clicks: 0, impressions: 0, positionSum: 0, positionWeight: 0 };

/** Sums the day figures within `span`. `days` counts rows, so pass at most one row a day. */
export function sumFigures(rows: Iterable<DayFigures>, span: Span): Totals {
  let days = 0;
  const sums = new Accumulator();
  for (const row of rows) {
    if (!inSpan(row.day, span)) continue;
    days += 1;
    sums.addSums(row);
  }
  return { days, ...sums };
}

/**
 * Click-through rate of a span: sum of clicks over sum of impressions, never a mean of daily rates;
 * null without impressions.
 */
export function clickThroughRate(t: Sums): number | null {
  return t.impressions > 0 ? t.clicks / t.impressions : null;
}

/**
 * Average position of a span, weighted by impressions, never a mean of daily positions; null
 * without impressions.
 */
export function averagePosition(t: Sums): number | null {
  return t.positionWeight > 0 ? t.positionSum / t.positionWeight : null;
}
