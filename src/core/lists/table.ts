/* Figures of many rows over two spans, column by column: what lists are filtered and sorted by. */

import type { Column } from './columns';

/** The sums of each row over one span. */
export type Side = {
  readonly clicks: Float64Array;
  readonly impressions: Float64Array;
  readonly positionSum: Float64Array;
  readonly positionWeight: Float64Array;
  /** Clicks that the showings would bring at the site's usual CTR by position. */
  readonly expected: Float64Array;
};

const SUMS = ['clicks', 'impressions', 'positionSum', 'positionWeight', 'expected'] as const;

/** A side of so many rows, all zero. */
export function emptySide(rows: number): Side {
  const column = () => new Float64Array(rows);
  return {
    ...{ clicks: column(), impressions: column(), positionSum: column(), positionWeight: column() },
    expected: column(),
  };
}

/** The first rows of a side that was made too long. */
export function firstOfSide(side: Side, rows: number): Side {
  const column = (name: keyof Side) => side[name].slice(0, rows);
  return Object.fromEntries(SUMS.map((name) => [name, column(name)])) as Side;
}

/**
 * Adds up the rows of a side by a number that each has: entry `into[row]` of the answer is the sum of all rows with that number. Rows
 * with a number below 0 are left out.
 */
export function addedUp(side: Side, into: Int32Array, count: number): Side {
  const sum = emptySide(count);
  for (const name of SUMS) {
    const [from, to] = [side[name], sum[name]];
    for (let row = 0; row < into.length; row++) if (into[row]! >= 0) to[into[row]!]! += from[row]!;
  }
  return sum;
}

/** A list's rows: what they brought over a span, and over the one it is held against (null: none). */
export type FiguresTable = {
  readonly rows: number;
  readonly now: Side;
  readonly was: Side | null;
  /**
   * Columns that are no sums of figures, as what a row has, NaN where it has none; null where the list has no such column. A list that
   * shows a hundred of a million rows never works them out for all.
   */
  readonly further: (column: Column) => ((row: number) => number) | null;
};

/** The values of a column by row, NaN where a row has none. */
export function columnValues(table: FiguresTable, column: Column): Float64Array {
  const { now, was } = table;
  const none = () => new Float64Array(table.rows).fill(NaN);
  switch (column) {
    case 'clicks':
    case 'impressions':
      return now[column];
    case 'ctr':
    case 'position':
    case 'appeal':
    case 'expectedCtr':
      return rate(now, column);
    case 'missing':
      return now.expected.map((expected, row) => Math.max(0, expected - now.clicks[row]!));
    case 'before.clicks':
      return was?.clicks ?? none();
    case 'before.impressions':
      return was?.impressions ?? none();
    case 'before.ctr':
      return was ? rate(was, 'ctr') : none();
    case 'before.position':
      return was ? rate(was, 'position') : none();
    case 'difference.clicks':
    case 'difference.impressions': {
      const name = column === 'difference.clicks' ? 'clicks' : 'impressions';
      return was ? now[name].map((value, row) => value - was[name][row]!) : none();
    }
    case 'difference.ctr':
    case 'difference.appeal': {
      const name = column === 'difference.ctr' ? 'ctr' : 'appeal';
      return was ? difference(rate(was, name), rate(now, name)) : none();
    }
    case 'difference.placesGained':
      return was ? difference(rate(now, 'position'), rate(was, 'position')) : none();
    default: {
      const of = table.further(column);
      return of ? none().map((_, row) => of(row)) : none();
    }
  }
}

function rate(side: Side, of: 'ctr' | 'position' | 'appeal' | 'expectedCtr'): Float64Array {
  const [above, below] =
    of === 'ctr'
      ? [side.clicks, side.impressions]
      : of === 'position'
        ? [side.positionSum, side.positionWeight]
        : of === 'appeal'
          ? [side.clicks, side.expected]
          : [side.expected, side.impressions];
  return above.map((value, row) => (below[row]! > 0 ? value / below[row]! : NaN));
}

function difference(from: Float64Array, to: Float64Array): Float64Array {
  return to.map((value, row) => value - from[row]!);
}
