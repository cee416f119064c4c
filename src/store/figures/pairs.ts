import type { PositionCurve } from '../../core/appeal/positionCurve';
import { ExpectedSum } from '../../core/appeal/showings';
import type { Day } from '../../core/calendar/day';
import type { Span } from '../../core/calendar/span';
import { columnsUsedAgain } from '../../core/facts/pack';
import { standingRows } from '../../core/facts/standing';
import type { Series } from '../../core/history/history';
import type { ListSpans } from '../../core/lists/spans';
import { emptySide, firstOfSide, type Side } from '../../core/lists/table';
import type { Db } from '../database';
import { pageFacts, type PieceFacts } from './layers';
import { rowsNarrowedTo } from './narrowed';

/** Expected clicks of a page in both spans, and by day from the first day of both. */
export type PageShowings = {
  readonly now: number;
  readonly was: number;
  readonly firstDay: Day;
  readonly days: Float64Array;
};

/**
 * Figures of every query on every page over two spans: a row per pair with impressions in either.
 */
export type Pairs = {
  readonly rows: number;
  readonly page: Int32Array;
  readonly query: Int32Array;
  readonly now: Side;
  readonly was: Side;
  /** By page, with what its rows by query lack of its own figures. */
  readonly showings: ReadonlyMap<number, PageShowings>;
};

/** Rows that are summed up while the pages of a site are gone through; the columns grow. */
class PairRows {
  rows = 0;
  page = new Int32Array(4096);
  query = new Int32Array(4096);
  now = emptySide(4096);
  was = emptySide(4096);
  /** By query, the row that it has on the page that is gone through, and which page that is. */
  private rowOf = new Int32Array(4096);
  private pageOf = new Int32Array(4096);

  /** The row of a query on a page. */
  row(page: number, query: number): number {
    if (query >= this.rowOf.length) {
      const size = Math.max(query + 1, 2 * this.rowOf.length);
      this.rowOf = grown(this.rowOf, size);
      this.pageOf = grown(this.pageOf, size);
    }
    if (this.pageOf[query] === page) return this.rowOf[query]!;
    if (this.rows === this.page.length) this.grow();
    const row = this.rows++;
    this.pageOf[query] = page;
    this.rowOf[query] = row;
    this.page[row] = page;
    this.query[row] = query;
    return row;
  }

  private grow(): void {
    const size = 2 * this.rows;
    this.page = grown(this.page, size);
    this.query = grown(this.query, size);
    for (const side of ['now', 'was'] as const) {
      const larger = emptySide(size);
      for (const name of Object.keys(larger) as (keyof Side)[]) larger[name].set(this[side][name]);
      this[side] = larger;
    }
  }
}

function grown(column: Int32Array<ArrayBuffer>, size: number): Int32Array<ArrayBuffer> {
  const larger = new Int32Array(size);
  larger.set(column);
  return larger;
}

/** Pages after which it is told how far it has come. */
const TOLD_EVERY = 50;

/**
 * Sums every query on every page over two spans.
 *
 * @param series daily figures of the pages for the device (0: all devices)
 * @param curve the site’s CTR by position
 * @param tell called now and then with the number of pages done
 */
export function pairFigures(
  db: Db,
  series: readonly Series[],
  { now, was }: ListSpans,
  device: number,
  curve: PositionCurve,
  tell?: (done: number, of: number) => void,
): Pairs {
  const rows = new PairRows();
  const showings = new Map<number, PageShowings>();
  const columns = columnsUsedAgain();
  const reach = {
    firstDay: Math.min(now.firstDay, was?.firstDay ?? now.firstDay) as Day,
    lastDay: Math.max(now.lastDay, was?.lastDay ?? now.lastDay) as Day,
  };
  for (const [at, whole] of series.entries()) {
    if (at % TOLD_EVERY === 0) tell?.(at, series.length);
    const page = within(whole, reach);
    const sum = new ExpectedSum(page, curve);
    for (const piece of pageFacts(db, page.id, 'page_query_day', reach, columns)) {
      addPiece(rows, page.id, piece, standingOf(piece, device), sum, now, was);
    }
    const expected = sum.total();
    showings.set(page.id, {
      now: sumIn(expected, page.firstDay, now),
      was: was ? sumIn(expected, page.firstDay, was) : 0,
      ...{ firstDay: page.firstDay, days: expected },
    });
  }
  tell?.(series.length, series.length);
  const count = rows.rows;
  return {
    rows: count,
    page: rows.page.slice(0, count),
    query: rows.query.slice(0, count),
    now: firstOfSide(rows.now, count),
    was: firstOfSide(rows.was, count),
    showings,
  };
}

/** Sums a piece of a page by query. Plain variables, since this runs over millions of rows. */
function addPiece(
  rows: PairRows,
  page: number,
  { facts: { day, query, values } }: PieceFacts,
  standing: ArrayLike<number>,
  expectedOfPage: ExpectedSum,
  now: Span,
  was: Span | null,
): void {
  const clicks = values[0]!;
  const impressions = values[1]!;
  const positionSum = values[2]!;
  const nowFrom = now.firstDay;
  const nowTo = now.lastDay;
  const wasFrom = was ? was.firstDay : 1;
  const wasTo = was ? was.lastDay : 0;
  const count = standing.length;
  for (let i = 0; i < count;) {
    const own = query[standing[i]!]!;
    let c = 0,
      m = 0,
      ps = 0,
      pw = 0,
      e = 0;
    let c0 = 0,
      m0 = 0,
      ps0 = 0,
      pw0 = 0,
      e0 = 0;
    for (; i < count; i++) {
      const at = standing[i]!;
      if (query[at] !== own) break;
      const on = day[at]!;
      const isNow = on >= nowFrom && on <= nowTo;
      if (!isNow && (on < wasFrom || on > wasTo)) continue;
      const shown = impressions[at]!;
      const position = positionSum[at]!;
      const known = position === position;
      const expected = known && shown > 0 ? expectedOfPage.add(on, shown, position) : 0;
      if (isNow) {
        c += clicks[at]!;
        m += shown;
        ps += known ? position : 0;
        pw += known ? shown : 0;
        e += expected;
      } else {
        c0 += clicks[at]!;
        m0 += shown;
        ps0 += known ? position : 0;
        pw0 += known ? shown : 0;
        e0 += expected;
      }
    }
    if (m === 0 && m0 === 0) continue;
    const row = rows.row(page, own);
    put(rows.now, row, c, m, ps, pw, e);
    put(rows.was, row, c0, m0, ps0, pw0, e0);
  }
}

/** Adds sums to their row. */
function put(side: Side, row: number, c: number, m: number, ps: number, pw: number, e: number): void {
  side.clicks[row]! += c;
  side.impressions[row]! += m;
  side.positionSum[row]! += ps;
  side.positionWeight[row]! += pw;
  side.expected[row]! += e;
}

/** The part of a series within a span. */
function within(series: Series, { firstDay, lastDay }: Span): Series {
  const from = Math.max(0, firstDay - series.firstDay);
  const to = Math.max(from, Math.min(lastDay + 1 - series.firstDay, series.impressions.length));
  const part = (values: ArrayLike<number>) => {
    const days = new Float64Array(to - from);
    for (let at = from; at < to; at++) days[at - from] = values[at] ?? 0;
    return days;
  };
  return {
    id: series.id,
    firstDay: (series.firstDay + from) as Day,
    clicks: [],
    impressions: part(series.impressions),
    positionSum: part(series.positionSum),
    positionWeight: part(series.positionWeight),
  };
}

function standingOf(piece: PieceFacts, device: number): ArrayLike<number> {
  return device === 0 ? standingRows(piece) : [...rowsNarrowedTo(piece, { query: 0, device, country: 0 })];
}

/** The sum of daily values within a span; `firstDay` is the day of the first. */
export function sumIn(values: ArrayLike<number>, firstDay: Day, span: Span): number {
  let sum = 0;
  const last = Math.min(span.lastDay - firstDay, values.length - 1);
  for (let at = Math.max(0, span.firstDay - firstDay); at <= last; at++) sum += values[at]!;
  return sum;
}
