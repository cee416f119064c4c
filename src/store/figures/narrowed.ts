import type { Day } from '../../core/calendar/day';
import type { Layered } from '../../core/facts/layers';
import type { Series } from '../../core/history/history';
import { addToColumns } from '../../core/measures/accumulator';
import type { Db } from '../database';
import { ALWAYS, pageFacts } from './layers';

/** What rows are narrowed to: codes of a query, a device and a country; 0 leaves each whole. */
export type NarrowedTo = { readonly query: number; readonly device: number; readonly country: number };

/**
 * Rows of facts for a narrowing. Rows may be split by other columns or not, depending on the files:
 * the newest way of splitting a day wins, and of equally new ones the least split.
 */
export function* rowsNarrowedTo({ facts, vintage }: Layered, to: NarrowedTo): Generator<number> {
  const { rows, query, day, device, country } = facts;
  for (let from = 0; from < rows;) {
    let end = from;
    const newest = new Map<number, number>();
    const matching: number[] = [];
    for (; end < rows && query[end] === query[from] && day[end] === day[from]; end++) {
      if (to.device !== 0 && device[end] !== to.device) continue;
      if (to.country !== 0 && country[end] !== to.country) continue;
      matching.push(end);
      const way = wayOf(facts, end);
      newest.set(way, Math.max(newest.get(way) ?? -1, vintage[end]!));
    }
    if (matching.length > 0 && (to.query === 0 || query[from] === to.query)) {
      const latest = Math.max(...newest.values());
      const chosen = Math.min(...[...newest].filter(([, v]) => v === latest).map(([way]) => way));
      for (const row of matching) if (wayOf(facts, row) === chosen) yield row;
    }
    from = end;
  }
}

/** Whether any of some pages has rows by query for a device and a country. */
export function hasQueryRows(
  db: Db,
  pageIds: readonly number[],
  part: Pick<NarrowedTo, 'device' | 'country'>,
): boolean {
  return pageIds.some((id) => {
    for (const piece of pageFacts(db, id, 'page_query_day', ALWAYS))
      for (const _row of rowsNarrowedTo(piece, { query: 0, ...part })) return true;
    return false;
  });
}

/** Whether a row is divided by device (1), by country (2), by both (3) or by neither (0). */
function wayOf({ device, country }: Layered['facts'], row: number): number {
  return (device[row] === 0 ? 0 : 1) + (country[row] === 0 ? 0 : 2);
}

/**
 * Narrowed daily series of pages; with a query, from rows by query. Pages without rows are left
 * out.
 */
export function narrowedSeries(db: Db, pageIds: readonly number[], to: NarrowedTo): Series[] {
  const grain = to.query === 0 ? 'page_day' : 'page_query_day';
  return pageIds.flatMap((id) => {
    const found: { day: number; values: readonly number[] }[] = [];
    for (const piece of pageFacts(db, id, grain, ALWAYS)) {
      const { day, values } = piece.facts;
      for (const row of rowsNarrowedTo(piece, to))
        found.push({ day: day[row]!, values: values.map((column) => column[row]!) });
    }
    return found.length === 0 ? [] : [seriesOf(id, found)];
  });
}

function seriesOf(id: number, rows: readonly { day: number; values: readonly number[] }[]): Series {
  const first = rows.reduce((least, { day }) => Math.min(least, day), Infinity);
  const last = rows.reduce((most, { day }) => Math.max(most, day), -Infinity);
  const column = () => new Float64Array(last - first + 1);
  const columns = {
    clicks: column(),
    impressions: column(),
    positionSum: column(),
    positionWeight: column(),
  };
  for (const { day, values } of rows) addToColumns(columns, day - first, values[0]!, values[1]!, values[2]!);
  return { id, firstDay: first as Day, ...columns };
}
