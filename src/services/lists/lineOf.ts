import { spanLength, type Span } from '../../core/calendar/span';
import type { Column } from '../../core/lists/columns';
import type { ListLine } from '../../core/lists/line';
import type { FiguresTable, Side } from '../../core/lists/table';
import { compareTotals, type Metrics } from '../../core/measures/comparison';
import type { ListSpans } from '../../core/lists/spans';

export function lineOf(
  table: FiguresTable,
  row: number,
  spans: ListSpans,
): Pick<ListLine, 'metrics' | 'further'> {
  const totals = (side: Side, span: Span) => ({
    days: spanLength(span),
    clicks: side.clicks[row]!,
    impressions: side.impressions[row]!,
    positionSum: side.positionSum[row]!,
    positionWeight: side.positionWeight[row]!,
  });
  const { now, was } = table;
  const known = (value: number) => (value > 0 ? value : null);
  const further: Partial<Record<Column, number | null>> = {};
  const [expected, impressions] = [now.expected[row]!, now.impressions[row]!];
  further.expectedCtr = impressions > 0 && expected > 0 ? expected / impressions : null;
  for (const column of FURTHER) {
    const value = table.further(column)?.(row);
    if (value !== undefined) further[column] = Number.isNaN(value) ? null : value;
  }
  return {
    metrics: compareTotals(was && spans.was ? totals(was, spans.was) : null, totals(now, spans.now), {
      before: was && known(was.expected[row]!),
      after: known(now.expected[row]!),
    }),
    further,
  };
}

const FURTHER = [
  ...(['queries', 'pages', 'searches', 'changes', 'findings', 'weight'] as const),
  ...(['sessions', 'engagedShare', 'conversions', 'revenue', 'worth'] as const),
] satisfies Column[];

/** The figures of some rows together. */
export function sumsOf({ now, was }: FiguresTable, rows: Uint32Array, spans: ListSpans): Metrics {
  const sum = (side: Side, span: Span) => {
    const totals = {
      days: spanLength(span),
      clicks: 0,
      impressions: 0,
      positionSum: 0,
      positionWeight: 0,
      expected: 0,
    };
    // Column by column: each is an array of its own, with up to a hundred thousand rows.
    for (const name of ['clicks', 'impressions', 'positionSum', 'positionWeight', 'expected'] as const) {
      const column = side[name];
      let total = 0;
      for (let i = 0; i < rows.length; i++) total += column[rows[i]!]!;
      totals[name] = total;
    }
    return totals;
  };
  const [before, after] = [was && spans.was && sum(was, spans.was), sum(now, spans.now)];
  return compareTotals(before, after, { before: before && before.expected, after: after.expected });
}
