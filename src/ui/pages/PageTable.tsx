'use client';

import {
  getCoreRowModel,
  getPaginationRowModel,
  getSortedRowModel,
  useReactTable,
  type ColumnDef,
} from '@tanstack/react-table';
import { AppLink } from '../kit/AppLink';
import { useRouter } from 'next/navigation';
import { parseAsInteger, parseAsString, parseAsStringLiteral, useQueryStates } from 'nuqs';
import { isoDay, type Day } from '@/core/calendar/day';
import type { Metrics } from '@/core/measures/comparison';
import { MEASURE_NAMES, METRICS, type Metric } from '@/core/measures/registry';
import { mediumDay, metricDifference, metricValue, plural } from '@/core/words/format';
import { RowKeys } from '../kit/RowKeys';
import type { Act } from '../kit/attempt';
import { saveCsv } from '../kit/saveCsv';
import { useAct } from '../kit/useAct';
import { SortableHead, TableLines } from '../kit/SortableTable';
import { Tally } from '../kit/Tally';
import { useToast } from '../kit/Toast';
import { routes } from '../shell/routes';
import { FormLink } from '../shell/May';

/** A page with its last days against those before, and its changes, newest first. */
export type PageLine = {
  readonly id: number;
  /** Whether it is fetched every day. */
  readonly watched: boolean;
  readonly path: string;
  readonly metrics: Metrics;
  readonly changes: readonly { readonly id: number; readonly day: Day; readonly title: string }[];
};

const PAGE_SIZE = 50;

const SORTABLE = ['page', ...METRICS.flatMap((metric) => [metric, `${metric}-difference`]), 'changes'];

/** The difference by which a column is sorted and which stands beside its figure. */
function differenceOf(metrics: Metrics, metric: Metric): number | null {
  return metric === 'position' ? metrics.position.placesGained : metrics[metric].difference;
}

const value = (n: number | null) => n ?? undefined;

function columnsFor(siteId: number): ColumnDef<PageLine>[] {
  return [
    {
      id: 'page',
      header: 'page',
      accessorFn: (line) => line.path,
      cell: ({ row: { original } }) => (
        <AppLink href={routes.page(siteId, original.id)} className="hover:underline">
          {original.path}
        </AppLink>
      ),
    },
    ...METRICS.flatMap((metric): ColumnDef<PageLine>[] => [
      {
        id: metric,
        header: MEASURE_NAMES[metric],
        accessorFn: ({ metrics }) => value(metrics[metric].after),
        sortUndefined: 'last',
        // The largest count first, but the best position first.
        sortDescFirst: metric !== 'position',
        cell: ({ row }) => metricValue(metric, row.original.metrics[metric].after),
      },
      {
        id: `${metric}-difference`,
        header: 'difference',
        accessorFn: ({ metrics }) => value(differenceOf(metrics, metric)),
        sortUndefined: 'last',
        cell: ({ row }) => (
          <span className="muted">
            {metricDifference(metric, differenceOf(row.original.metrics, metric))}
          </span>
        ),
      },
    ]),
    {
      id: 'changes',
      header: 'changes, last on',
      accessorFn: (line) => line.changes.length,
      cell: ({ row }) => <Changes siteId={siteId} line={row.original} />,
    },
  ];
}

function Changes({ siteId, line }: { siteId: number; line: PageLine }) {
  const [latest] = line.changes;
  if (!latest) {
    return (
      <FormLink
        right="log"
        href={`${routes.newChange(siteId)}?page=${encodeURIComponent(line.path)}`}
        className="muted hover:underline"
      >
        log one
      </FormLink>
    );
  }
  return (
    <span className="inline-flex h-5 items-center gap-2 align-middle">
      <AppLink
        href={`${routes.ledger(siteId)}?q=${encodeURIComponent(line.path)}`}
        aria-label={`${plural(line.changes.length, 'change')} of ${line.path} in the ledger`}
        title={plural(line.changes.length, 'change')}
      >
        <Tally n={line.changes.length} />
      </AppLink>
      <AppLink href={routes.change(siteId, latest.id)} className="inline-link" title={latest.title}>
        {mediumDay(latest.day)}
      </AppLink>
    </span>
  );
}

type Props = {
  siteId: number;
  lines: readonly PageLine[];
  watch: Act<[siteId: number, pageIds: number[], watched: boolean]>;
};

/** All pages with their last days, the difference beside every figure. Search, order and place live in the address. */
export function PageTable({ siteId, lines, watch }: Props) {
  const [state, setState] = useQueryStates(
    {
      q: parseAsString.withDefault(''),
      sort: parseAsStringLiteral(SORTABLE).withDefault('impressions'),
      order: parseAsStringLiteral(['asc', 'desc']).withDefault('desc'),
      from: parseAsInteger.withDefault(0),
    },
    { history: 'replace' },
  );
  const words = state.q.trim().toLowerCase();
  const found = lines.filter((line) => line.path.toLowerCase().includes(words));
  const parts = Math.ceil(found.length / PAGE_SIZE);
  // An address may name a part that a search has since emptied.
  const part = Math.max(0, Math.min(state.from, parts - 1));
  const table = useReactTable({
    data: found,
    columns: columnsFor(siteId),
    state: {
      sorting: [{ id: state.sort, desc: state.order === 'desc' }],
      pagination: { pageIndex: part, pageSize: PAGE_SIZE },
    },
    enableSortingRemoval: false,
    autoResetPageIndex: false,
    onSortingChange: (update) => {
      const [next] =
        typeof update === 'function' ? update([{ id: state.sort, desc: state.order === 'desc' }]) : update;
      if (next) void setState({ sort: next.id, order: next.desc ? 'desc' : 'asc', from: 0 });
    },
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    getPaginationRowModel: getPaginationRowModel(),
  });

  const csv = () =>
    saveCsv(
      'pages.csv',
      table.getSortedRowModel().rows.map(({ original: { path, metrics, changes } }) => ({
        page: path,
        ...Object.fromEntries(
          METRICS.flatMap((metric) => [
            [metric, metrics[metric].after],
            [`${metric} before`, metrics[metric].before],
            [metric === 'position' ? 'places gained' : `${metric} difference`, differenceOf(metrics, metric)],
          ]),
        ),
        changes: changes.length,
        'last change': changes[0] ? isoDay(changes[0].day) : null,
      })),
    );

  return (
    <RowKeys>
      <div className="mb-2 flex flex-wrap items-center gap-4 text-[0.85rem]">
        <input
          data-search
          type="search"
          aria-label="Search pages"
          placeholder="Part of an address"
          className="input input-sm w-64"
          value={state.q}
          onChange={(e) => void setState({ q: e.target.value || null, from: 0 })}
        />
        <span className="muted" aria-live="polite">
          {words === '' ? plural(lines.length, 'page') : `${found.length} of ${plural(lines.length, 'page')}`}
        </span>
        <button type="button" className="inline-link" onClick={csv}>
          Save as CSV
        </button>
        {words !== '' && found.length > 1 && (
          <AppLink href={routes.changeOfMatching(siteId, words)} className="inline-link">
            Log a change on these {found.length}
          </AppLink>
        )}
        <Watching siteId={siteId} found={found} watch={watch} />
      </div>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Pages">
        <table className="figures dense text-[0.87rem]">
          <SortableHead table={table} />
          <TableLines rows={table.getRowModel().rows} />
        </table>
      </div>
      {found.length === 0 && <p className="mt-4">No page has “{state.q}” in its address.</p>}
      {parts > 1 && (
        <nav aria-label="Parts of the list" className="mt-3 flex items-center gap-4 text-[0.85rem]">
          <button
            type="button"
            className="inline-link disabled:opacity-40"
            disabled={!table.getCanPreviousPage()}
            onClick={() => void setState({ from: part - 1 })}
          >
            Previous {PAGE_SIZE}
          </button>
          <span>
            {part * PAGE_SIZE + 1} to {Math.min(found.length, (part + 1) * PAGE_SIZE)} of {found.length}
          </span>
          <button
            type="button"
            className="inline-link disabled:opacity-40"
            disabled={!table.getCanNextPage()}
            onClick={() => void setState({ from: part + 1 })}
          >
            Next {PAGE_SIZE}
          </button>
        </nav>
      )}
    </RowKeys>
  );
}

/** How many of the pages found are fetched every day, and one click to have all of them fetched, or none. */
function Watching({ siteId, found, watch }: Omit<Props, 'lines'> & { found: readonly PageLine[] }) {
  const router = useRouter();
  const say = useToast();
  const { busy, act } = useAct();
  const watched = found.filter((line) => line.watched);
  const wanted = watched.length < found.length;
  const set = () => {
    const changed = found.filter((line) => line.watched !== wanted).map(({ id }) => id);
    const setTo = (to: boolean, done?: () => void) =>
      act(
        () => watch(siteId, changed, to),
        () => {
          router.refresh();
          done?.();
        },
      );
    setTo(wanted, () =>
      say(wanted ? 'They are fetched every day from now on.' : 'They are no longer fetched.', () =>
        setTo(!wanted),
      ),
    );
  };
  if (found.length === 0) return null;
  return (
    <span className="muted">
      {watched.length} fetched every day{' '}
      <button type="button" className="inline-link text-base-content" disabled={busy} onClick={set}>
        {wanted ? `Fetch ${found.length === 1 ? 'it' : `all ${found.length}`} every day` : 'Stop that'}
      </button>
    </span>
  );
}
