import { METRIC_NAMES, METRICS, type Metric } from '@/core/model/change';
import type { Metrics } from '@/core/measures/comparison';
import type { Reading } from '@/core/reading/model';
import { ABSENT, metricDifference, metricValue, percentChange, spanText } from '@/core/words/format';

/** What the difference of a metric is, in its own unit and as a share of before. */
function differences(metric: Metric, metrics: Metrics): { plain: string; share: string } {
  if (metric === 'position')
    return { plain: metricDifference(metric, metrics.position.placesGained), share: ABSENT };
  const { difference, ratio } = metrics[metric];
  return { plain: metricDifference(metric, difference), share: percentChange(ratio) };
}

/** Before, after and difference of the four measures. */
export function MetricTable({ reading }: { reading: Reading }) {
  const { metrics, compared, spans, change } = reading;
  const before = compared?.before ?? spans.before;
  const after = compared?.after ?? spans.after;
  return (
    <div className="overflow-x-auto">
      <table className="figures tight max-sm:dense max-sm:[&_thead_th]:whitespace-normal">
        <caption className="sr-only">The four measures before and after</caption>
        <thead>
          <tr>
            <th scope="col">
              <span className="sr-only">Measure</span>
            </th>
            <th scope="col">
              before
              <br />
              {spanText(before)}
            </th>
            <th scope="col">
              after
              <br />
              {spanText(after)}
            </th>
            <th scope="col">raw difference</th>
            <th scope="col" className="max-sm:hidden">
              in percent
            </th>
          </tr>
        </thead>
        <tbody>
          {METRICS.map((metric) => {
            const { plain, share } = differences(metric, metrics);
            return (
              <tr
                key={metric}
                className={change.expectation?.metric === metric ? 'bg-(--marked)' : undefined}
              >
                <th scope="row">
                  {METRIC_NAMES[metric]}
                  {change.expectation?.metric === metric && (
                    <span className="muted font-normal max-sm:hidden"> · expected to move</span>
                  )}
                </th>
                <td>{metricValue(metric, metrics[metric].before)}</td>
                <td>{metricValue(metric, metrics[metric].after)}</td>
                <td className="font-semibold">
                  {plain}
                  {share !== ABSENT && <span className="muted block font-normal sm:hidden">{share}</span>}
                </td>
                <td className="max-sm:hidden">{share}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

/** Each query that the change names, before and after, on the pages of the change. */
export function QueryTable({ reading }: { reading: Reading }) {
  return (
    <div className="overflow-x-auto">
      <table className="figures">
        <caption className="sr-only">The queries named by the change, before and after</caption>
        <thead>
          <tr>
            <th scope="col">query</th>
            {METRICS.map((metric) => (
              <th key={metric} scope="col">
                {METRIC_NAMES[metric]}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {reading.queries.map(({ query, metrics }) => (
            <tr key={query}>
              <th scope="row">{query}</th>
              {METRICS.map((metric) => (
                <td key={metric}>
                  {metricValue(metric, metrics[metric].before)} → {metricValue(metric, metrics[metric].after)}
                  <span className="muted block text-[0.8rem]">{differences(metric, metrics).plain}</span>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
