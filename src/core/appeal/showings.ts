import type { Day } from '../calendar/day';
import type { Series } from '../history/history';
import type { PositionCurve } from './positionCurve';

/** What a page's showings come to day by day: see `Series`. */
export type Showings = {
  readonly expected: Float64Array;
  readonly rankSum: Float64Array;
  readonly rankWeight: Float64Array;
};

/**
 * Adds up a page's rows by query to what its showings would bring at a curve, and to where it stands search by search. Rare searches are
 * withheld, so what the rows lack of the page's own figures is counted at its own mean position.
 */
export class ShowingsSum {
  private readonly days: number[] = [];
  private readonly queries: number[] = [];
  private readonly impressions: number[] = [];
  private readonly logs: number[] = [];
  private readonly expected: Float64Array;
  private readonly shown: Float64Array;
  private readonly position: Float64Array;

  constructor(
    private readonly page: Pick<Series, 'firstDay' | 'impressions' | 'positionSum' | 'positionWeight'>,
    private readonly curve: PositionCurve,
  ) {
    const days = page.impressions.length;
    this.expected = new Float64Array(days);
    this.shown = new Float64Array(days);
    this.position = new Float64Array(days);
  }

  /** A row of a query on a day; `positionSum` is its position times its impressions, NaN where it has none. */
  add(day: Day, query: number, impressions: number, positionSum: number): void {
    const at = day - this.page.firstDay;
    if (impressions <= 0 || at < 0 || at >= this.expected.length || Number.isNaN(positionSum)) return;
    const position = positionSum / impressions;
    this.expected[at]! += impressions * this.curve(position);
    this.shown[at]! += impressions;
    this.position[at]! += positionSum;
    this.days.push(at);
    this.queries.push(query);
    this.impressions.push(impressions);
    this.logs.push(Math.log(Math.max(1, position)));
  }

  /** The sums by day, counted from the first of the page's series. */
  total(): Showings {
    const { impressions, positionSum, positionWeight } = this.page;
    const expected = this.expected.map((sum, at) => {
      const rest = impressions[at]! - this.shown[at]!;
      if (rest <= 0) return sum;
      const known = positionWeight[at]! - this.shown[at]!;
      const position = known > 0 ? (positionSum[at]! - this.position[at]!) / known : NaN;
      const whole = positionWeight[at]! > 0 ? positionSum[at]! / positionWeight[at]! : NaN;
      // Where not even the page's position is known its showings count as those on a first page do.
      return sum + rest * this.curve(firstKnown(position, whole, UNKNOWN_POSITION));
    });
    return { expected, ...this.rank() };
  }

  private rank() {
    const means = new Map<number, { sum: number; weight: number }>();
    this.queries.forEach((query, i) => {
      const mean = means.get(query) ?? { sum: 0, weight: 0 };
      means.set(query, mean);
      mean.sum += this.impressions[i]! * this.logs[i]!;
      mean.weight += this.impressions[i]!;
    });
    const days = this.expected.length;
    const [rankSum, rankWeight] = [new Float64Array(days), new Float64Array(days)];
    this.queries.forEach((query, i) => {
      const { sum, weight } = means.get(query)!;
      rankSum[this.days[i]!]! += this.impressions[i]! * (this.logs[i]! - sum / weight);
      rankWeight[this.days[i]!]! += this.impressions[i]!;
    });
    return { rankSum, rankWeight };
  }
}

const UNKNOWN_POSITION = 8;

const firstKnown = (...positions: readonly number[]) =>
  positions.find((position) => position >= 1) ?? UNKNOWN_POSITION;

/**
 * What showings would bring where no rows by query are known: each day's impressions at its own mean position.
 * @example plainShowings({ impressions: [100], positionSum: [300], positionWeight: [100] }, curve) // [100 * curve(3)]
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
