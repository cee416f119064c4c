'use client';

import { AppLink } from '../kit/AppLink';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { GRAINS } from '@/core/facts/grains';
import { count, datedSpan, plural } from '@/core/words/format';
import { RowKeys } from '../kit/RowKeys';
import { attempt, type Act } from '../kit/attempt';
import { useAct } from '../kit/useAct';
import { FiguresTable, type Column } from '../kit/table/FiguresTable';
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

const counted = (
  id: string,
  key: 'rowsRead' | 'rowsStored' | 'rowsReplaced' | 'rowsChanged' | 'rowsRepeated' | 'rowsRefused',
  hidden = false,
): Column<ImportLine> => ({
  ...{ id, hidden },
  value: (line) => line[key],
  cell: (line) => (
    <span className={key === 'rowsRefused' && line[key] > 0 ? 'font-semibold' : ''}>{count(line[key])}</span>
  ),
});

function columnsFor(siteId: number, progress: ReadonlyMap<number, Progress>): Column<ImportLine>[] {
  return [
    {
      id: 'file',
      cellClass: 'font-normal!',
      value: ({ fileName }) => fileName,
      cell: ({ id, fileName }) => (
        <AppLink href={routes.import(siteId, id)} className="inline-link">
          {fileName}
        </AppLink>
      ),
    },
    {
      id: 'brought in (UTC)',
      text: true,
      value: ({ createdAt }) => createdAt,
      cell: ({ createdAt }) => createdAt.slice(0, 16).replace('T', ' '),
    },
    { id: 'rows', text: true, value: rowsName },
    {
      id: 'days',
      text: true,
      value: daysOf,
      cell: (line) => {
        // What was heard last of a file is over once the list itself says so.
        const underWay = line.state === 'queued' || line.state === 'running';
        const now = underWay ? progress.get(line.id) : undefined;
        return now ? <span aria-live="polite">{progressText(now)}</span> : daysOf(line);
      },
    },
    counted('read', 'rowsRead', true),
    counted('stored', 'rowsStored'),
    counted('were there', 'rowsReplaced'),
    counted('changed', 'rowsChanged'),
    counted('repeated', 'rowsRepeated', true),
    counted('refused', 'rowsRefused'),
  ];
}

/** The files brought in so far, newest first. */
export function ImportList({ siteId, lines, confirmAll, finished }: Props) {
  const say = useToast();
  const { busy, act } = useAct();
  const progress = useProgress(siteId, lines, finished);
  const drafts = lines.filter(({ state }) => state === 'draft').length;
  const takeAll = () =>
    act(
      () => confirmAll(siteId),
      ({ confirmed, open }) =>
        say(
          `${plural(confirmed, 'file')} in the queue${open > 0 ? `; ${plural(open, 'file')} left, which ask something first` : ''}.`,
        ),
    );
  return (
    <RowKeys>
      <FiguresTable
        label="Files brought in"
        className="text-[0.9rem]"
        csv="files brought in.csv"
        choose="imports"
        first={SHOWN}
        rows={lines}
        rowKey={({ id }) => id}
        columns={columnsFor(siteId, progress)}
      >
        {drafts > 1 && (
          <button type="button" className="btn btn-primary btn-sm" disabled={busy} onClick={takeAll}>
            Bring in all {drafts} as they are understood
          </button>
        )}
      </FiguresTable>
    </RowKeys>
  );
}
