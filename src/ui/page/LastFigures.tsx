import type { Span } from '@/core/calendar/span';
import type { Metrics } from '@/core/measures/comparison';
import { MEASURE_NAMES, METRICS } from '@/core/measures/registry';
import { count, metricDifference, metricValue, spanText } from '@/core/words/format';

type Props = { metrics: Metrics | null; after: Span | null; searches?: number | null };

/** The last days of a page or a query in one line, each figure with its difference to as many days before. */
export function LastFigures({ metrics, after, searches = null }: Props) {
  if (!metrics || !after) return null;
  return (
    <dl className="mb-4 flex flex-wrap items-baseline gap-x-6 gap-y-1">
      {METRICS.map((metric) => (
        <div key={metric} className="flex items-baseline gap-2">
          <dt className="muted text-[0.85rem]">{MEASURE_NAMES[metric]}</dt>
          <dd>
            <b>{metricValue(metric, metrics[metric].after)}</b>{' '}
            <span className="muted text-[0.85rem]">
              {metricDifference(
                metric,
                metric === 'position' ? metrics.position.placesGained : metrics[metric].difference,
              )}
            </span>
          </dd>
        </div>
      ))}
      {searches !== null && (
        <div className="flex items-baseline gap-2">
          <dt className="muted text-[0.85rem]">searches a month</dt>
          <dd>
            <b>{count(searches)}</b>
          </dd>
        </div>
      )}
      <div className="muted text-[0.85rem]">
        <dt className="sr-only">days</dt>
        <dd>{spanText(after)}, against the 28 days before</dd>
      </div>
    </dl>
  );
}
