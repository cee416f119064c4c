import type { DailySum } from '../measures/registry';
import { asDay, type Day } from '../calendar/day';
import type { Span } from '../calendar/span';
import type { Totals } from '../measures/totals';

/** One page's (or one query's on a page) figures from a first day on, a value a day. */
export type Series = {
  readonly id: number;
  /** Pages whose changes count as changes of this row; by default the row’s own id. */
  readonly pages?: readonly number[];
  readonly firstDay: Day;
  readonly clicks: ArrayLike<number>;
  readonly impressions: ArrayLike<number>;
  /** Average position times the impressions that came with one, and those impressions. */
  readonly positionSum: ArrayLike<number>;
  readonly positionWeight: ArrayLike<number>;
  /**
   * Expected clicks: impressions at the site’s usual CTR by position (docs/method.md, 2). Without
   * queries and positions impressions stand in, and appeal is the CTR.
   */
  readonly expected?: ArrayLike<number>;
  /**
   * Position over the same queries: the day effects of a two-way regression of log position on
   * query and day, times impressions, and these impressions. Without rows by query, the log
   * position of the total.
   */
  readonly rankSum?: ArrayLike<number>;
  readonly rankWeight?: ArrayLike<number>;
};

/** The columns of sums that a history keeps. */
export type RunningSums = Readonly<Record<DailySum, Float64Array>>;

/**
 * Figures of many pages (rows) over the same days, as running sums over time: the sum over a span
 * is the difference of two look-ups. Days outside the range count as zero.
 */
export class History {
  readonly rows: number;
  private readonly rowOf: ReadonlyMap<number, number>;
  private readonly ids: readonly number[];
  /** The pages of each row. */
  readonly pagesOf: readonly (readonly number[])[];
  /**
   * Sums over the first `i` days, by `i * rows + row`. Rows of a day are adjacent, since most
   * queries read all rows between the same days.
   */
  readonly sums: RunningSums;
  /** Days with figures among the first `i` days. */
  private readonly coveredUpTo: Int32Array;

  /**
   * @param series one row each, in order
   * @param covered the days on which the site has any figures
   */
  constructor(
    readonly firstDay: Day,
    readonly days: number,
    series: readonly Series[],
    covered: Iterable<Day>,
  ) {
    this.rows = series.length;
    this.rowOf = new Map(series.map(({ id }, row) => [id, row]));
    this.ids = series.map(({ id }) => id);
    this.pagesOf = series.map(({ id, pages }) => pages ?? [id]);
    const size = this.rows * (days + 1);
    this.sums = {
      clicks: new Float64Array(size),
      impressions: new Float64Array(size),
      positionSum: new Float64Array(size),
      positionWeight: new Float64Array(size),
      expected: new Float64Array(size),
      rankSum: new Float64Array(size),
      rankWeight: new Float64Array(size),
    };
    this.coveredUpTo = new Int32Array(days + 1);
    for (const day of covered) {
      const at = day - firstDay;
      if (at >= 0 && at < days) this.coveredUpTo[at + 1] = 1;
    }
    for (let i = 1; i <= days; i++) this.coveredUpTo[i]! += this.coveredUpTo[i - 1]!;
    series.forEach((one, row) => this.addUp(one, row));
  }

  private addUp(series: Series, row: number): void {
    const { clicks, impressions, positionSum, positionWeight, expected, rankSum, rankWeight } = this.sums;
    const showings = series.expected ?? series.impressions;
    const offset = this.firstDay - series.firstDay;
    let [c, m, ps, pw, e, rs, rw] = [0, 0, 0, 0, 0, 0, 0];
    for (let i = 0; i < this.days; i++) {
      const at = i + offset;
      if (at >= 0 && at < series.clicks.length) {
        c += series.clicks[at]!;
        m += series.impressions[at]!;
        ps += series.positionSum[at]!;
        pw += series.positionWeight[at]!;
        e += showings[at]!;
        if (series.rankSum) {
          rs += series.rankSum[at]!;
          rw += series.rankWeight![at]!;
        } else if (series.positionWeight[at]! > 0) {
          rs += series.positionWeight[at]! * Math.log(series.positionSum[at]! / series.positionWeight[at]!);
          rw += series.positionWeight[at]!;
        }
      }
      const to = (i + 1) * this.rows + row;
      clicks[to] = c;
      impressions[to] = m;
      positionSum[to] = ps;
      positionWeight[to] = pw;
      expected[to] = e;
      rankSum[to] = rs;
      rankWeight[to] = rw;
    }
  }

  /** The row of a page, or undefined where it has no figures. */
  row(id: number): number | undefined {
    return this.rowOf.get(id);
  }

  /** The id of a row. */
  idOf(row: number): number {
    return this.ids[row]!;
  }

  get lastDay(): Day {
    return asDay(this.firstDay + this.days - 1);
  }

  /** Index of the sums before `day`: days from the first, clamped to the range. */
  offset(day: number): number {
    return Math.min(this.days, Math.max(0, day - this.firstDay));
  }

  /** Days of a span on which the site has figures. */
  covered(span: Span): number {
    return this.coveredUpTo[this.offset(span.lastDay + 1)]! - this.coveredUpTo[this.offset(span.firstDay)]!;
  }

  /** Expected clicks of rows, by id, over a span; null if none of them has figures. */
  expectedOf(ids: readonly number[], span: Span): number | null {
    const rows = ids.flatMap((id) => this.rowOf.get(id) ?? []);
    if (rows.length === 0) return null;
    const [from, to] = [this.offset(span.firstDay), this.offset(span.lastDay + 1)];
    const { expected } = this.sums;
    return rows.reduce(
      (sum, row) => sum + expected[to * this.rows + row]! - expected[from * this.rows + row]!,
      0,
    );
  }

  /** The sums of one row over a span. */
  totals(row: number, span: Span): Totals {
    const from = this.offset(span.firstDay) * this.rows + row;
    const to = this.offset(span.lastDay + 1) * this.rows + row;
    const over = (sums: Float64Array) => sums[to]! - sums[from]!;
    return {
      days: this.covered(span),
      clicks: over(this.sums.clicks),
      impressions: over(this.sums.impressions),
      positionSum: over(this.sums.positionSum),
      positionWeight: over(this.sums.positionWeight),
    };
  }
}
