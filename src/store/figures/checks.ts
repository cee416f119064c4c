import type { Day } from '../../core/calendar/day';
import { inSpan, type Span } from '../../core/calendar/span';
import { pieceOf } from '../../core/facts/pack';
import { standingRows } from '../../core/facts/standing';
import type { CheckedPosition } from '../../core/history/subjectDays';
import type { Db } from '../database';
import { siteFacts } from './layers';
import { queryIdOf } from './queryIds';

/** Checked positions of a query within a span: the best of each day, in order. */
export function checkedPositions(db: Db, siteId: number, query: string, span: Span): CheckedPosition[] {
  const id = queryIdOf(db, siteId, query);
  if (id === null) return [];
  const best = new Map<Day, number | null>();
  for (const piece of siteFacts(db, siteId, 'rank_check', pieceOf(span.firstDay), pieceOf(span.lastDay))) {
    const { day: days, query: queries, values } = piece.facts;
    for (const row of standingRows(piece)) {
      const day = days[row]! as Day;
      if (queries[row] !== id || !inSpan(day, span)) continue;
      const position = Number.isNaN(values[0]![row]!) ? null : values[0]![row]!;
      const known = best.get(day) ?? null;
      best.set(day, known === null || (position !== null && position < known) ? position : known);
    }
  }
  return [...best].sort(([a], [b]) => a - b).map(([day, position]) => ({ day, position }));
}
