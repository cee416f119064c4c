'use client';

import {
  createColumnHelper,
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
  type SortingState,
} from '@tanstack/react-table';
import { AppLink } from '../kit/AppLink';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useState } from 'react';
import { GRAINS } from '@/core/facts/grains';
import { count, datedSpan, plural } from '@/core/words/format';
import { RowKeys } from '../kit/RowKeys';
import { attempt, type Act } from '../kit/attempt';
import { saveCsv } from '../kit/saveCsv';
import { useAct } from '../kit/useAct';
import { SortableHead, TableLines } from '../kit/SortableTable';
import { useToast } from '../kit/Toast';
import { routes } from '../shell/routes';
import type { ImportLine } from './ImportSummary';

/** What stands in place of the days of a file of which nothing is stored. */
const STATE_NAMES: Record<ImportLine['state'], string> = {
  draft: 'not confirmed yet',
  queued: 'waits for its turn',
  running: 'coming in',
  failed: 'nothing stored',
  done: 'done',
  undone: 'undone',
};

type Props = {
  siteId: number;
  lines: readonly ImportLine[];
  /** Confirms all files that leave nothing open. Gives how many did and did not. */
  confirmAll: Act<[siteId: number], { confirmed: number; open: number }>;
  /** Tells the other screens that new figures are there. */
  finished: Act<[siteId: number]>;
};

const ASK_EVERY_MS = 400;

/** Follows the files that wait or come in; when one is over the list is fetched anew. */
function useProgress(
  siteId: number,
  lines: readonly ImportLine[],
  finished: Act<[siteId: number]>,
): ReadonlyMap<number, Progress> {
  const router = useRouter();
  const [progress, setProgress] = useState<ReadonlyMap<number, Progress>>(new Map());
  const underWay = lines.filter(({ state }) => state === 'queued' || state === 'running').length;
  useEffect(() => {
    if (underWay === 0) return;
    let gone = false;
    let timer: ReturnType<typeof setTimeout>;
    const ask = async () => {
      const answer = await fetch(`${routes.intake(siteId)}/progress`).catch(() => null);
      const now = answer?.ok ? ((await answer.json()) as Progress[]) : null;
      if (gone) return;
      if (now) setProgress(new Map(now.map((one) => [one.id, one])));
      if (now && now.length !== underWay) {
        await attempt(() => finished(siteId));
        router.refresh();
      }
      timer = setTimeout(() => void ask(), ASK_EVERY_MS);
    };
    void ask();
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [siteId, underWay, finished, router]);
  return progress;
}

/** How far a file is that waits or comes in. */
type Progress = {
  readonly id: number;
  readonly state: 'queued' | 'running';
  readonly rowsRead: number;
  readonly bytesRead: number;
  readonly bytesTotal: number;
  readonly before: number;
};

function progressText({ state, rowsRead, bytesRead, bytesTotal, before }: Progress): string {
  if (state === 'queued') return before === 0 ? 'is next' : `waits, after ${plural(before, 'file')}`;
  const share = bytesTotal > 0 ? `, ${Math.min(100, Math.floor((100 * bytesRead) / bytesTotal))}%` : '';
  return `coming in: ${plural(rowsRead, 'row')} read${share}`;
}

const rowsName = ({ about, grain }: ImportLine) =>
  about === 'changes' ? 'of a ledger' : grain ? GRAINS[grain].name : '';

const daysOf = (line: ImportLine) =>
  line.state !== 'undone' && line.firstDay !== null && line.lastDay !== null
    ? datedSpan({ firstDay: line.firstDay, lastDay: line.lastDay })
    : STATE_NAMES[line.state];

/** Files shown at once, until all are asked for. */
const SHOWN = 8;

const helper = createColumnHelper<ImportLine>();
const number = (key: 'rowsStored' | 'rowsReplaced' | 'rowsChanged' | 'rowsRefused', name: string) =>
  helper.accessor(key, {
    header: name,
    cell: (c) => (
      <span className={key === 'rowsRefused' && c.getValue() > 0 ? 'font-semibold' : ''}>
        {count(c.getValue())}
      </span>
    ),
  });

function columnsFor(siteId: number, progress: ReadonlyMap<number, Progress>) {
  return [
    helper.accessor('fileName', {
      header: 'file',
      cell: (c) => (
        <AppLink href={routes.import(siteId, c.row.original.id)} className="inline-link">
          {c.getValue()}
        </AppLink>
      ),
    }),
    helper.accessor('createdAt', {
      header: 'brought in (UTC)',
      cell: (c) => c.getValue().slice(0, 16).replace('T', ' '),
    }),
    helper.accessor(rowsName, { id: 'grain', header: 'rows' }),
    helper.accessor('firstDay', {
      header: 'days',
      cell: (c) => {
        const { id, state } = c.row.original;
        // What was heard last of a file is over once the list itself says so.
        const now = state === 'queued' || state === 'running' ? progress.get(id) : undefined;
        return now ? <span aria-live="polite">{progressText(now)}</span> : daysOf(c.row.original);
      },
      sortUndefined: 'last',
    }),
    number('rowsStored', 'stored'),
    number('rowsReplaced', 'were there'),
    number('rowsChanged', 'changed'),
    number('rowsRefused', 'refused'),
  ];
}

/** The files brought in so far, newest first. */
export function ImportList({ siteId, lines, confirmAll, finished }: Props) {
  const say = useToast();
  const { busy, act } = useAct();
  const [sorting, setSorting] = useState<SortingState>([]);
  const data = useMemo(() => [...lines], [lines]);
  const progress = useProgress(siteId, lines, finished);
  const columns = useMemo(() => columnsFor(siteId, progress), [siteId, progress]);
  const table = useReactTable({
    data,
    columns,
    state: { sorting },
    onSortingChange: setSorting,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    autoResetPageIndex: false,
  });
  const [all, setAll] = useState(false);
  const rows = table.getRowModel().rows;
  const drafts = lines.filter(({ state }) => state === 'draft').length;
  const takeAll = () =>
    act(
      () => confirmAll(siteId),
      ({ confirmed, open }) =>
        say(
          `${plural(confirmed, 'file')} in the queue${open > 0 ? `; ${plural(open, 'file')} left, which ask something first` : ''}.`,
        ),
    );
  const save = () =>
    saveCsv(
      'files brought in.csv',
      lines.map((line) => ({
        file: line.fileName,
        'brought in (UTC)': line.createdAt,
        rows: rowsName(line),
        days: daysOf(line),
        read: line.rowsRead,
        stored: line.rowsStored,
        'were there': line.rowsReplaced,
        changed: line.rowsChanged,
        repeated: line.rowsRepeated,
        refused: line.rowsRefused,
      })),
    );
  return (
    <RowKeys>
      <div className="mb-1 flex flex-wrap items-center gap-4">
        {drafts > 1 && (
          <button type="button" className="btn btn-primary btn-sm" disabled={busy} onClick={takeAll}>
            Bring in all {drafts} as they are understood
          </button>
        )}
        <button type="button" className="inline-link text-[0.85rem]" onClick={save}>
          Save as CSV
        </button>
      </div>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Files brought in">
        <table className="figures text-files text-[0.9rem]">
          <SortableHead table={table} />
          <TableLines rows={all ? rows : rows.slice(0, SHOWN)} />
        </table>
      </div>
      {rows.length > SHOWN && (
        <button type="button" className="inline-link mt-2 text-[0.85rem]" onClick={() => setAll(!all)}>
          {all ? `Show the ${SHOWN} first only` : `Show all ${rows.length}`}
        </button>
      )}
    </RowKeys>
  );
}
