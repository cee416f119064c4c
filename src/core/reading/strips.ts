import { addDays, type Day } from '../calendar/day';
import { inSpan, type Span } from '../calendar/span';
import { isInPlaces, metricOf, METRICS, type Metric } from '../measures/registry';
import { NO_FIGURES } from '../measures/totals';
import type { Net } from '../effect/effect';
import type { Mark } from '../effect/verdict';
import { coveredDays, type PageDay } from './input';
import type { Reading } from './readingModel';

/** One strip of a reading: a value for each shown day, and the level of each span. */
export type Strip = {
  readonly metric: Metric;
  readonly values: readonly (number | null)[];
  readonly before: number | null;
  readonly after: number | null;
  /**
   * The path that unchanged pages predict, by day, at the level of the before span; null without a
   * control.
   */
  readonly path: readonly (number | null)[] | null;
  readonly mark: Mark | null;
  /** Values of another source on some days, such as positions that were looked up. */
  readonly points?: readonly { readonly day: Day; readonly value: number }[];
};

/** The control by day, as a log ratio to its level in the before span; null if unknown. */
export type ControlPath = Readonly<Record<Metric, readonly (number | null)[]>>;

/** Days over which a day's appeal is taken: of one day's clicks it would be mostly chance. */
const APPEAL_DAYS = 7;

/**
 * The strips of a reading, one per metric. Clicks and impressions are daily counts, and their level
 * is the mean per day with figures; CTR and position are those of the day, and of the span. A day
 * without figures is absent; a day on which only other pages have figures counts 0 clicks and
 * impressions. Appeal is that of the week up to a day.
 *
 * @param expected expected clicks by day; null if unknown
 */
export function readingStrips(
  reading: Reading,
  shown: Span,
  days: readonly PageDay[],
  daysWithFigures: ReadonlySet<Day>,
  path: ControlPath | null,
  expected: ReadonlyMap<Day, number> | null,
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
      if (!daysWithFigures.has(day)) values.push(null);
      else if (metric === 'appeal') values.push(expected && weekAppeal(day, byDay, expected));
      else values.push(metricOf(metric, byDay.get(day) ?? NO_FIGURES, null));
    }
    const level = (side: 'before' | 'after') =>
      metric === 'clicks' || metric === 'impressions' ? perDay(metric, side) : metrics[metric][side];
    const [before, after] = [level('before'), level('after')];
    return {
      metric,
      values,
      before,
      after,
      path: path && before !== null ? suggested(reading, shown, metric, before, after, path[metric]) : null,
      mark: reading.marks[metric],
    };
  });
}

/**
 * The path of the control at the level of the page. From the change on it is shifted by the
 * expected recovery from a dip, so that its mean in the after span is what the net effect is
 * measured against.
 */
function suggested(
  { compared, net, change }: Reading,
  shown: Span,
  metric: Metric,
  before: number,
  after: number | null,
  logs: readonly (number | null)[],
): (number | null)[] {
  const level = logs.map((log) => (log === null ? null : before * Math.exp(log)));
  const span = compared?.after;
  const target = after === null ? null : withoutChange(metric, after, net);
  if (!span || target === null) return level;
  const inAfter = level.filter(
    (value, i): value is number => value !== null && inSpan(addDays(shown.firstDay, i), span),
  );
  const mean = inAfter.reduce((sum, value) => sum + value, 0) / inAfter.length;
  if (!(mean > 0)) return level;
  return level.map((value, i) =>
    value !== null && shown.firstDay + i >= change.day ? (value * target) / mean : value,
  );
}

/** The level that the after span would have had without the change. */
function withoutChange(metric: Metric, after: number, net: Net | null): number | null {
  if (isInPlaces(metric)) return net?.[metric] ? after + net[metric].placesGained : null;
  const effect = net?.[metric];
  return effect ? after / effect.ratio : null;
}

function weekAppeal(
  day: Day,
  byDay: ReadonlyMap<Day, PageDay>,
  expected: ReadonlyMap<Day, number>,
): number | null {
  // Days that are not known yet expect nothing.
  if (!expected.get(day)) return null;
  let [clicks, against] = [0, 0];
  for (let at = addDays(day, 1 - APPEAL_DAYS); at <= day; at = addDays(at, 1)) {
    clicks += byDay.get(at)?.clicks ?? 0;
    against += expected.get(at) ?? 0;
  }
  return against > 0 ? clicks / against : null;
}
