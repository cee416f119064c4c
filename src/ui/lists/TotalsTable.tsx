import type { Metrics } from '@/core/measures/comparison';
import { MEASURE_NAMES, METRICS, type Metric } from '@/core/measures/registry';
import type { ListSpans } from '@/core/lists/spans';
import { ABSENT, metricDifference, metricValue, percentChange, spanText } from '@/core/words/format';
import { FiguresTable } from '../kit/table/FiguresTable';

/** One line of totals: what they are of, and the four measures now and before. */
export type TotalsLine = { readonly name: string; readonly metrics: Metrics };

type Props = { lines: readonly TotalsLine[]; spans: ListSpans };

/** Clicks, impressions, CTR and position of some days beside those they are compared with. */
export function TotalsTable({ lines, spans: { now, was } }: Props) {
  // No sum of many pages has an appeal.
  const isKnown = (metric: Metric) =>
    lines.some(({ metrics: { [metric]: of } }) => of.before !== null || of.after !== null);
  return (
    <div className="mb-2">
      <FiguresTable
        label="Totals"
        className="text-[0.95rem]"
        stacked
        sortable={false}
        rows={lines}
        rowKey={({ name }) => name}
        columns={[
          {
            id: 'name',
            head: (
              <>
                {spanText(now)}
                {was && <span className="block">compared with {spanText(was)}</span>}
              </>
            ),
            cellClass: 'max-w-72 truncate',
            cell: ({ name }) => name,
          },
          ...METRICS.filter(isKnown).map((metric) => ({
            id: metric,
            name: MEASURE_NAMES[metric],
            cell: ({ metrics }: TotalsLine) => (
              <>
                <b>{metricValue(metric, metrics[metric].after)}</b>
                {was && <span className="muted block text-[0.8rem]">{differenceText(metric, metrics)}</span>}
              </>
            ),
          })),
        ]}
      />
    </div>
  );
}

/** @example "+320, +2.7% from 12,025"; of position "0.3 places up from 8.4" */
function differenceText(metric: Metric, metrics: Metrics): string {
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
