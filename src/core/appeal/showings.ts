import type { Day } from '../calendar/day';
import type { Series } from '../history/history';
import { twoWayTimeEffects } from '../statistics/twoWayEffects';
import type { PositionCurve } from './positionCurve';

/** What a page's showings come to day by day: see `Series`. */
export type Showings = {
  readonly expected: Float64Array;
  readonly rankSum: Float64Array;
  readonly rankWeight: Float64Array;
};

/** Growing, reusable columns for rows: a large site has millions of them, page after page. */
export class RowsSeen {
  length = 0;
  days = new Int32Array(1024);
  queries = new Int32Array(1024);
  impressions = new Float64Array(1024);
  logs = new Float64Array(1024);

  add(day: number, query: number, impressions: number, log: number): void {
    if (this.length === this.days.length) this.grow();
    const at = this.length++;
    this.days[at] = day;
    this.queries[at] = query;
    this.impressions[at] = impressions;
    this.logs[at] = log;
  }

  private grow(): void {
    const twice = 2 * this.length;
    const { days, queries, impressions, logs } = this;
    (this.days = new Int32Array(twice)).set(days);
    (this.queries = new Int32Array(twice)).set(queries);
    (this.impressions = new Float64Array(twice)).set(impressions);
    (this.logs = new Float64Array(twice)).set(logs);
  }
}

/** A page's daily figures as far as its showings depend on them. */
type PageFigures = Pick<Series, 'firstDay' | 'impressions' | 'positionSum' | 'positionWeight'>;

/**
 * Expected clicks of a page by day, from its rows by query and a CTR curve. Rare queries are
 * withheld, so the remainder of the page’s own figures counts at its mean position.
 */
export class ExpectedSum {
  private readonly expected: Float64Array;
  private readonly shown: Float64Array;
  private readonly position: Float64Array;
  private readonly firstDay: number;

  constructor(
    private readonly page: PageFigures,
    private readonly curve: PositionCurve,
  ) {
    this.firstDay = page.firstDay;
    const days = page.impressions.length;
    this.expected = new Float64Array(days);
    this.shown = new Float64Array(days);
    this.position = new Float64Array(days);
  }

  /**
   * Adds a row of a query on a day; `positionSum` is position times impressions, NaN without
   * position. Returns its expected clicks, NaN if it doesn’t count.
   */
  add(day: number, impressions: number, positionSum: number): number {
    const at = day - this.firstDay;
    if (!(impressions > 0) || at < 0 || at >= this.expected.length || positionSum !== positionSum) return NaN;
    const expected = impressions * this.curve(positionSum / impressions);
    this.expected[at]! += expected;
    this.shown[at]! += impressions;
    this.position[at]! += positionSum;
    return expected;
  }

  /** The sums by day, counted from the first of the page's series. */
  total(): Float64Array {
    const { impressions, positionSum, positionWeight } = this.page;
    return this.expected.map((sum, at) => {
      const rest = impressions[at]! - this.shown[at]!;
      if (rest <= 0) return sum;
      const known = positionWeight[at]! - this.shown[at]!;
      const position = known > 0 ? (positionSum[at]! - this.position[at]!) / known : NaN;
      const whole = positionWeight[at]! > 0 ? positionSum[at]! / positionWeight[at]! : NaN;
      // Where not even the page's position is known its showings count as those on a first page do.
      return sum + rest * this.curve(firstKnown(position, whole, UNKNOWN_POSITION));
    });
  }
}

/** The same with the page's position over the same queries. */
export class ShowingsSum {
  private readonly sum: ExpectedSum;

  constructor(
    private readonly page: PageFigures,
    curve: PositionCurve,
    /** Buffer for rows until their total is asked for; reused from page to page. */
    private readonly seen = new RowsSeen(),
  ) {
    seen.length = 0;
    this.sum = new ExpectedSum(page, curve);
  }

  /** A row of a query on a day, as of `ExpectedSum`. */
  add(day: Day, query: number, impressions: number, positionSum: number): void {
    const expected = this.sum.add(day, impressions, positionSum);
    if (expected !== expected) return;
    const log = Math.log(Math.max(1, positionSum / impressions));
    this.seen.add(day - this.page.firstDay, query, impressions, log);
  }

  /** The sums by day, counted from the first of the page's series. */
  total(): Showings {
    return { expected: this.sum.total(), ...this.rank() };
  }

  /**
   * Position over the same queries: log position = query + day, weighted by impressions
   * (docs/method.md).
   */
  private rank() {
    const { length, days, queries, impressions, logs } = this.seen;
    const index = new Map<number, number>();
    const unit = new Int32Array(length);
    for (let i = 0; i < length; i++) {
      let at = index.get(queries[i]!);
      if (at === undefined) index.set(queries[i]!, (at = index.size));
      unit[i] = at;
    }
    const times = this.page.impressions.length;
    const effects = twoWayTimeEffects({
      ...{ length, unit, units: index.size, time: days, times, value: logs, weight: impressions },
    });
    const rankWeight = new Float64Array(times);
    for (let i = 0; i < length; i++) rankWeight[days[i]!]! += impressions[i]!;
    return { rankSum: effects.map((effect, day) => effect * rankWeight[day]!), rankWeight };
  }
}

const UNKNOWN_POSITION = 8;

const firstKnown = (...positions: readonly number[]) =>
  positions.find((position) => position >= 1) ?? UNKNOWN_POSITION;

/**
 * Expected clicks without rows by query: the impressions of each day at its mean position.
 *
 * @example
 * plainShowings({ impressions: [100], positionSum: [300], positionWeight: [100] }, curve)
 * // [100 * curve(3)]
 */
export function plainShowings(
  {
    impressions,
    positionSum,
    positionWeight,
  }: Pick<Series, 'impressions' | 'positionSum' | 'positionWeight'>,
  curve: PositionCurve,
): Float64Array {
  return Float64Array.from({ length: impressions.length }, (_, at) => {
    const position = positionWeight[at]! > 0 ? positionSum[at]! / positionWeight[at]! : NaN;
    return impressions[at]! * curve(firstKnown(position));
  });
}
