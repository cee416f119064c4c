import { addDays, type Day } from '../calendar/day';
import type { Span } from '../calendar/span';
import { METRICS, type Metric } from '../model/change';
import { coveredDays, type PageDay } from './input';
import type { Reading } from './model';

/** One strip of a reading's picture: a value for each day shown, and the level of each span compared. */
export type Strip = {
  readonly metric: Metric;
  readonly values: readonly (number | null)[];
  readonly before: number | null;
  readonly after: number | null;
};

/**
 * The four strips of a reading. Clicks and impressions are a day's counts and the level of a span their mean a
 * day with figures; CTR and position are those of the day, and of the span as a whole. A day without figures is
 * absent; a day on which the site has figures but the pages none had 0 clicks and impressions.
 */
export function readingStrips(
  reading: Reading,
  shown: Span,
  days: readonly PageDay[],
  daysWithFigures: ReadonlySet<Day>,
): Strip[] {
  const byDay = new Map(days.map((row) => [row.day, row]));
  const { compared, metrics } = reading;
  const perDay = (metric: 'clicks' | 'impressions', side: 'before' | 'after') => {
    const span = compared?.[side];
    const covered = span ? coveredDays(span, daysWithFigures) : 0;
    const total = metrics[metric][side];
    return total === null || covered === 0 ? null : total / covered;
  };
  return METRICS.map((metric) => {
    const values: (number | null)[] = [];
    for (let day = shown.firstDay; day <= shown.lastDay; day = addDays(day, 1)) {
      values.push(daysWithFigures.has(day) ? dayValue(metric, byDay.get(day)) : null);
    }
    const level = (side: 'before' | 'after') =>
      metric === 'clicks' || metric === 'impressions' ? perDay(metric, side) : metrics[metric][side];
    return { metric, values, before: level('before'), after: level('after') };
  });
}

function dayValue(metric: Metric, row: PageDay | undefined): number | null {
  switch (metric) {
    case 'clicks':
      return row?.clicks ?? 0;
    case 'impressions':
      return row?.impressions ?? 0;
    case 'ctr':
      return row && row.impressions > 0 ? row.clicks / row.impressions : null;
    case 'position':
      return row && row.impressions > 0 && row.positionSum !== null
        ? row.positionSum / row.impressions
        : null;
  }
}
