'use client';

import { AppLink } from '../kit/AppLink';
import { useMemo, useState } from 'react';
import type { Metrics } from '@/core/measures/comparison';
import { MEASURE_NAMES, METRICS, type Metric } from '@/core/measures/registry';
import { shortPlaces } from '@/core/effect/effectWords';
import { metricDifference, metricValue } from '@/core/words/format';
import { Choice } from '../kit/Choice';
import { FiguresTable, type Column } from '../kit/table/FiguresTable';
import { useMay } from '../shell/May';

/** One query before and after, and what of its difference in clicks each reason has. */
export type QueryLine = {
  readonly query: string;
  readonly seen: 'kept' | 'new' | 'lost';
  readonly named: boolean;
  readonly metrics: Metrics;
  readonly reach: number;
  readonly rank: number;
  readonly appeal: number;
  /** Clicks beyond what chance in counting alone could do to its CTR. */
  readonly ctrMoved: boolean;
};

const REASONS = ['reach', 'rank', 'appeal'] as const;
const FIRST_SHOWN = 12;

function difference({ metrics }: QueryLine, metric: Metric): number | null {
  return metric === 'position' ? metrics.position.placesGained : metrics[metric].difference;
}

function differenceText(line: QueryLine, metric: Metric): string {
  const value = difference(line, metric);
  return metric === 'position' && value !== null ? shortPlaces(value) : metricDifference(metric, value);
}

const COLUMNS: readonly Column<QueryLine>[] = [
  {
    id: 'query',
    cellClass: 'font-normal!',
    value: ({ query }) => query,
    cell: ({ query, named }) => (
      <span className={named ? 'font-semibold' : undefined}>
        {query}
        {named && <span className="sr-only">, named by the change</span>}
      </span>
    ),
  },
  { id: 'seen', value: ({ seen }) => seen },
  ...METRICS.flatMap((metric): Column<QueryLine>[] => [
    ...(['before', 'after'] as const).map((when): Column<QueryLine> => ({
      id: `${metric} ${when}`,
      name: `${MEASURE_NAMES[metric]} ${when}`,
      hidden: true,
      value: ({ metrics }) => metrics[metric][when],
      cell: ({ metrics }) => metricValue(metric, metrics[metric][when]),
    })),
    {
      id: metric,
      saveAs: `${metric} difference`,
      name: `${MEASURE_NAMES[metric]}, difference`,
      head: MEASURE_NAMES[metric],
      value: (line) => difference(line, metric),
      cell: (line) => {
        const { before, after } = line.metrics[metric];
        const strong = metric === 'ctr' && line.ctrMoved;
        return (
          <>
            {metricValue(metric, before)} → {metricValue(metric, after)}
            <span className={`block text-[0.78rem] ${strong ? 'font-semibold' : 'muted'}`}>
              {differenceText(line, metric)}
            </span>
          </>
        );
      },
    },
  ]),
  ...REASONS.map((reason): Column<QueryLine> => ({
    id: reason,
    value: (line) => line[reason],
    cell: (line) => metricDifference('clicks', line[reason]),
  })),
];

/** Leads to the form for a change that is about the query; `href` ends where the query goes. */
function logColumn(href: string): Column<QueryLine> {
  return {
    id: 'log',
    hideHead: true,
    cell: ({ query }) => (
      <AppLink
        href={href + encodeURIComponent(query)}
        className="muted hover:underline"
        aria-label={`Log a change for “${query}”`}
      >
        log
      </AppLink>
    ),
  };
}

/** Every query of the pages before and after: new, lost and kept, with its part in why clicks moved. */
export function QueryTable({ lines, logHref }: { lines: readonly QueryLine[]; logHref: string }) {
  const [text, setText] = useState('');
  const [seen, setSeen] = useState('all');
  const mayLog = useMay('log');
  const words = text.trim().toLowerCase();
  const found = useMemo(
    () => lines.filter((line) => line.query.includes(words) && (seen === 'all' || line.seen === seen)),
    [lines, words, seen],
  );
  const count = (which: QueryLine['seen']) => lines.filter((line) => line.seen === which).length;
  return (
    <>
      <FiguresTable
        label="Queries before and after"
        className="dense text-[0.83rem] [&_tbody_th]:whitespace-normal"
        csv="queries before and after.csv"
        choose="queries before and after"
        first={FIRST_SHOWN}
        rows={found}
        rowKey={({ query }) => query}
        columns={[...COLUMNS, mayLog && logColumn(logHref)]}
      >
        <input
          type="search"
          aria-label="Search the queries"
          placeholder="Part of a query"
          className="input input-xs w-44"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <Choice label="Seen" value={seen} set={setSeen}>
          <option value="all">all {lines.length}</option>
          <option value="kept">{count('kept')} kept</option>
          <option value="new">{count('new')} new</option>
          <option value="lost">{count('lost')} lost</option>
        </Choice>
      </FiguresTable>
      {found.length === 0 && <p className="mt-2">No query fits this search.</p>}
    </>
  );
}
