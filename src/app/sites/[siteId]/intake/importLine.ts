import type { Day } from '@/core/calendar/day';
import type { ImportRow } from '@/store/figures/imports';
import type { ImportLine } from '@/ui/intake/ImportSummary';

/** An import's record as the screens show it. */
export function importLine(row: ImportRow): ImportLine {
  const { id, fileName, state, grain, createdAt, failure, dialect, bytesTotal, bytesRead, foldedAt, about } =
    row;
  const { rowsRead, rowsStored, rowsReplaced, rowsChanged, rowsRepeated, rowsRefused, rowsLeftOut } = row;
  return {
    ...{ id, fileName, state, grain, createdAt, failure, dialect, bytesTotal, bytesRead, foldedAt, about },
    ...{ rowsRead, rowsStored, rowsReplaced, rowsChanged, rowsRepeated, rowsRefused, rowsLeftOut },
    firstDay: row.firstDay as Day | null,
    lastDay: row.lastDay as Day | null,
  };
}
