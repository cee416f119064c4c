import { byMetric, isInPlaces, metricOf, type MeasureInPlaces, type Metric } from './registry';
import type { Totals } from './totals';

/** Two values of one measure. `ratio` is after / before, null where before is 0 or either side is absent. */
export type Comparison = {
  readonly before: number | null;
  readonly after: number | null;
  readonly difference: number | null;
  readonly ratio: number | null;
};

/** Position before and after; `placesGained` = before − after: positive if the number falls. */
export type PositionComparison = {
  readonly before: number | null;
  readonly after: number | null;
  readonly placesGained: number | null;
};

/**
 * Measures of two spans side by side. Clicks and impressions are counts, CTR a ratio (0.031, not
 * 3.1) with a difference of ratios, position in places. Appeal is clicks over expected clicks: 1 is
 * usual for the site.
 */
export type Metrics = {
  readonly [M in Metric]: M extends MeasureInPlaces ? PositionComparison : Comparison;
};

/** Compares two values of which either may be absent. */
export function compare(before: number | null, after: number | null): Comparison {
  const both = before !== null && after !== null;
  return {
    before,
    after,
    difference: both ? after - before : null,
    ratio: both && before !== 0 ? after / before : null,
  };
}

/** Compares two positions of which either may be absent. */
export function comparePosition(before: number | null, after: number | null): PositionComparison {
  return { before, after, placesGained: before !== null && after !== null ? before - after : null };
}

/** Expected clicks of two spans, at the usual CTR by position; null if unknown. */
export type ExpectedClicks = { readonly before: number | null; readonly after: number | null };
export const NOT_KNOWN: ExpectedClicks = { before: null, after: null };

/**
 * Compares the totals of two spans. `null` is a span without any figures: its measures are absent,
 * not 0. A span with known days but no impressions has 0 clicks and impressions, and no CTR or
 * position.
 */
export function compareTotals(
  before: Totals | null,
  after: Totals | null,
  expected: ExpectedClicks = NOT_KNOWN,
): Metrics {
  return byMetric((metric) => {
    const values = [
      metricOf(metric, before, expected.before),
      metricOf(metric, after, expected.after),
    ] as const;
    return isInPlaces(metric) ? comparePosition(...values) : compare(...values);
  }) as Metrics;
}
