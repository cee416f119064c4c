import type { Metrics } from '@/core/measures/comparison';
import type { ListSpans } from '@/core/lists/spans';
import { ABSENT, metricDifference, metricValue, percentChange, spanText } from '@/core/words/format';

/** One line of totals: what they are of, and the four measures now and before. */
export type TotalsLine = { readonly name: string; readonly metrics: Metrics };

type Props = { lines: readonly TotalsLine[]; spans: ListSpans };

const SHOWN = ['clicks', 'impressions', 'ctr', 'position'] as const;
const HEADS = { clicks: 'Clicks', impressions: 'Impressions', ctr: 'CTR', position: 'Position' } as const;

/** Clicks, impressions, CTR and position of some days beside those they are compared with. */
export function TotalsTable({ lines, spans: { now, was } }: Props) {
  return (
    <div className="mb-2 overflow-x-auto" tabIndex={0} role="region" aria-label="Totals">
      <table className="figures text-[0.95rem]">
        <thead className="max-sm:sr-only">
          <tr>
            <th scope="col">
              {spanText(now)}
              {was && <span className="block">compared with {spanText(was)}</span>}
            </th>
            {SHOWN.map((metric) => (
              <th key={metric} scope="col">
                {HEADS[metric]}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {lines.map(({ name, metrics }) => (
            <tr key={name} className="max-sm:grid max-sm:grid-cols-2">
              <th scope="row" className="max-w-72 truncate max-sm:col-span-2">
                {name}
              </th>
              {SHOWN.map((metric) => (
                <td key={metric} className="max-sm:text-left!">
                  <span aria-hidden className="muted text-[0.8rem] sm:hidden">
                    {HEADS[metric]}{' '}
                  </span>
                  <b>{metricValue(metric, metrics[metric].after)}</b>
                  {was && (
                    <span className="muted block text-[0.8rem]">{differenceText(metric, metrics)}</span>
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** @example "+320, +2.7% from 12,025"; of position "0.3 places up from 8.4" */
function differenceText(metric: (typeof SHOWN)[number], metrics: Metrics): string {
  const { before } = metrics[metric];
  if (before === null) return `${ABSENT} before`;
  const from = `from ${metricValue(metric, before)}`;
  if (metric === 'position') {
    const gained = metricDifference(metric, metrics.position.placesGained);
    // Less than a twentieth of a place is no difference, though both may round apart.
    return gained === 'level' ? `no change ${from}` : `${gained} ${from}`;
  }
  const { difference, ratio } = metrics[metric];
  const relative = ratio === null || metric === 'ctr' ? '' : `, ${percentChange(ratio)}`;
  return `${metricDifference(metric, difference)}${relative} ${from}`;
}
