'use client';

import { AppLink } from '../kit/AppLink';
import { useRouter } from 'next/navigation';
import { parseAsInteger, parseAsString, parseAsStringLiteral, useQueryStates } from 'nuqs';
import { isoDay, type Day } from '@/core/calendar/day';
import type { Metrics } from '@/core/measures/comparison';
import { MEASURE_NAMES, METRICS, type Metric } from '@/core/measures/registry';
import { mediumDay, metricDifference, metricValue, plural } from '@/core/words/format';
import { RowKeys } from '../kit/RowKeys';
import type { Act } from '../kit/attempt';
import { useAct } from '../kit/useAct';
import { FiguresTable, type Column } from '../kit/table/FiguresTable';
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

const SORTABLE = columnsFor(0).map(({ id }) => id);

/** The difference by which a column is sorted and which stands beside its figure. */
function differenceOf(metrics: Metrics, metric: Metric): number | null {
  return metric === 'position' ? metrics.position.placesGained : metrics[metric].difference;
}

function columnsFor(siteId: number): Column<PageLine>[] {
  return [
    {
      id: 'page',
      cellClass: 'font-normal!',
      value: ({ path }) => path,
      cell: ({ id, path }) => (
        <AppLink href={routes.page(siteId, id)} className="hover:underline">
          {path}
        </AppLink>
      ),
    },
    ...METRICS.flatMap((metric): Column<PageLine>[] => [
      {
        id: metric,
        name: MEASURE_NAMES[metric],
        // The largest count first, but the best position first.
        lowFirst: metric === 'position',
        value: ({ metrics }) => metrics[metric].after,
        cell: ({ metrics }) => metricValue(metric, metrics[metric].after),
      },
      {
        id: `${metric}-before`,
        saveAs: `${metric} before`,
        name: `${MEASURE_NAMES[metric]} before`,
        hidden: true,
        value: ({ metrics }) => metrics[metric].before,
        cell: ({ metrics }) => metricValue(metric, metrics[metric].before),
      },
      {
        id: `${metric}-difference`,
        saveAs: metric === 'position' ? 'places gained' : `${metric} difference`,
        name: `${MEASURE_NAMES[metric]} difference`,
        head: 'difference',
        cellClass: 'muted',
        value: ({ metrics }) => differenceOf(metrics, metric),
        cell: ({ metrics }) => metricDifference(metric, differenceOf(metrics, metric)),
      },
    ]),
    {
      id: 'changes',
      head: 'changes, last on',
      value: ({ changes }) => changes.length,
      cell: (line) => <Changes siteId={siteId} line={line} />,
    },
    {
      id: 'last change',
      hidden: true,
      text: true,
      value: ({ changes }) => (changes[0] ? isoDay(changes[0].day) : null),
      cell: ({ changes }) => changes[0] && mediumDay(changes[0].day),
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
  return (
    <RowKeys>
      <FiguresTable
        label="Pages"
        className="dense text-[0.87rem]"
        csv="pages.csv"
        choose="pages"
        sort={{ id: state.sort, desc: state.order === 'desc' }}
        onSort={({ id, desc }) => void setState({ sort: id, order: desc ? 'desc' : 'asc', from: 0 })}
        part={{ size: PAGE_SIZE, index: part }}
        rows={found}
        rowKey={({ id }) => id}
        columns={columnsFor(siteId)}
      >
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
        {words !== '' && found.length > 1 && (
          <AppLink href={routes.changeOfMatching(siteId, words)} className="inline-link">
            Log a change on these {found.length}
          </AppLink>
        )}
        <Watching siteId={siteId} found={found} watch={watch} />
      </FiguresTable>
      {found.length === 0 && <p className="mt-4">No page has “{state.q}” in its address.</p>}
      {parts > 1 && (
        <nav aria-label="Parts of the list" className="mt-3 flex items-center gap-4 text-[0.85rem]">
          <button
            type="button"
            className="inline-link disabled:opacity-40"
            disabled={part === 0}
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
            disabled={part >= parts - 1}
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
