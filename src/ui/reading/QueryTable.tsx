'use client';

import {
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
  type ColumnDef,
  type SortingState,
} from '@tanstack/react-table';
import { AppLink } from '../kit/AppLink';
import { useMemo, useState } from 'react';
import type { Metrics } from '@/core/measures/comparison';
import { MEASURE_NAMES, METRICS, type Metric } from '@/core/measures/registry';
import { shortPlaces } from '@/core/effect/effectWords';
import { metricDifference, metricValue, plural } from '@/core/words/format';
import { Choice } from '../kit/Choice';
import { saveCsv } from '../kit/saveCsv';
import { SortableHead, TableLines } from '../kit/SortableTable';
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

const COLUMNS: ColumnDef<QueryLine>[] = [
  {
    id: 'query',
    header: 'query',
    accessorFn: (line) => line.query,
    cell: ({ row: { original: line } }) => (
      <span className={line.named ? 'font-semibold' : undefined}>
        {line.query}
        {line.named && <span className="sr-only">, named by the change</span>}
      </span>
    ),
  },
  { id: 'seen', header: 'seen', accessorFn: (line) => line.seen },
  ...METRICS.map((metric): ColumnDef<QueryLine> => ({
    id: metric,
    header: MEASURE_NAMES[metric],
    accessorFn: (line) => difference(line, metric) ?? undefined,
    sortUndefined: 'last',
    cell: ({ row }) => {
      const { before, after } = row.original.metrics[metric];
      const strong = metric === 'ctr' && row.original.ctrMoved;
      return (
        <>
          {metricValue(metric, before)} → {metricValue(metric, after)}
          <span className={`block text-[0.78rem] ${strong ? 'font-semibold' : 'muted'}`}>
            {differenceText(row.original, metric)}
          </span>
        </>
      );
    },
  })),
  ...REASONS.map((reason): ColumnDef<QueryLine> => ({
    id: reason,
    header: reason,
    accessorFn: (line) => line[reason],
    cell: ({ row }) => metricDifference('clicks', row.original[reason]),
  })),
];

/** Leads to the form for a change that is about the query; `href` ends where the query goes. */
function logColumn(href: string): ColumnDef<QueryLine> {
  return {
    id: 'log',
    header: '',
    enableSorting: false,
    cell: ({ row: { original } }) => (
      <AppLink
        href={href + encodeURIComponent(original.query)}
        className="muted hover:underline"
        aria-label={`Log a change for “${original.query}”`}
      >
        log
      </AppLink>
    ),
  };
}

/** Every query of the pages before and after: new, lost and kept, with its part in why clicks moved. */
export function QueryTable({ lines, logHref }: { lines: readonly QueryLine[]; logHref: string }) {
  const [sorting, setSorting] = useState<SortingState>([]);
  const [text, setText] = useState('');
  const [seen, setSeen] = useState('all');
  const [all, setAll] = useState(false);
  const mayLog = useMay('log');
  const words = text.trim().toLowerCase();
  const found = useMemo(
    () => lines.filter((line) => line.query.includes(words) && (seen === 'all' || line.seen === seen)),
    [lines, words, seen],
  );
  const table = useReactTable({
    data: found,
    columns: useMemo(() => (mayLog ? [...COLUMNS, logColumn(logHref)] : COLUMNS), [mayLog, logHref]),
    state: { sorting },
    onSortingChange: setSorting,
    // There are no parts to go back to the first of; left on, it would draw the table over and over.
    autoResetPageIndex: false,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  const rows = table.getRowModel().rows;
  const shown = all ? rows : rows.slice(0, FIRST_SHOWN);
  const count = (which: QueryLine['seen']) => lines.filter((line) => line.seen === which).length;
  const save = () =>
    saveCsv(
      'queries before and after.csv',
      rows.map(({ original: line }) => ({
        query: line.query,
        seen: line.seen,
        ...Object.fromEntries(
          METRICS.flatMap((metric) => [
            [`${metric} before`, line.metrics[metric].before],
            [`${metric} after`, line.metrics[metric].after],
          ]),
        ),
        ...Object.fromEntries(REASONS.map((reason) => [reason, line[reason]])),
      })),
    );
  return (
    <>
      <div className="mb-1 flex flex-wrap items-baseline gap-x-4 gap-y-1 text-[0.85rem]">
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
        <button type="button" className="inline-link" onClick={save}>
          Save as CSV
        </button>
      </div>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Queries before and after">
        <table className="figures dense text-[0.83rem] [&_tbody_th]:whitespace-normal">
          <SortableHead table={table} />
          <TableLines rows={shown} />
        </table>
      </div>
      {rows.length === 0 && <p className="mt-2">No query fits this search.</p>}
      {rows.length > FIRST_SHOWN && (
        <button type="button" className="inline-link mt-2" onClick={() => setAll(!all)}>
          {all ? `Show the first ${FIRST_SHOWN}` : `Show all ${plural(rows.length, 'query', 'queries')}`}
        </button>
      )}
    </>
  );
}
