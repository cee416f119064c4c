/* Which rows of a list are shown, and in which order. */

import type { Column } from './columns';
import { columnValues, type FiguresTable } from './table';

/** The least and the most that a column may be, both included; null leaves that end open. */
export type Range = { readonly min: number | null; readonly max: number | null };

export type Sorting = { readonly column: Column; readonly falling: boolean };

/** What is wanted of a list besides its words. */
export type Choice = {
  readonly ranges: readonly (readonly [Column, Range])[];
  /** Whether a row is wanted at all; absent: all are. */
  readonly wanted?: (row: number) => boolean;
};

/** The rows within all ranges, in the order of the table. A row that does not have a value of a column is in none of its ranges. */
export function rowsWithin(table: FiguresTable, { ranges, wanted }: Choice): Uint32Array {
  const columns = ranges.map(([column, range]) => [columnValues(table, column), range] as const);
  const found = new Uint32Array(table.rows);
  let count = 0;
  for (let row = 0; row < table.rows; row++) {
    const within = columns.every(([values, { min, max }]) => {
      const value = values[row]!;
      return value === value && (min === null || value >= min) && (max === null || value <= max);
    });
    if (within && (wanted === undefined || wanted(row))) found[count++] = row;
  }
  return found.slice(0, count);
}

/**
 * The rows from place `from` to below `to` in the order of a column; rows without a value come last, rows alike in the order of `alike`.
 * Only as much is sorted as is asked for: the value at place `to` is found among plain numbers, which is many times faster.
 */
export function inOrder(
  rows: Uint32Array,
  values: Float64Array,
  falling: boolean,
  { from, to }: { readonly from: number; readonly to: number },
  alike: (a: number, b: number) => number = (a, b) => a - b,
): number[] {
  const end = Math.min(to, rows.length);
  if (from >= end) return [];
  const sign = falling ? -1 : 1;
  // Absent values count as beyond everything, whichever way is sorted.
  const keys = new Float64Array(rows.length);
  for (let i = 0; i < rows.length; i++) {
    const value = values[rows[i]!]!;
    keys[i] = value === value ? sign * value : Infinity;
  }
  const last = keys.slice().sort()[end - 1]!;
  const places: number[] = [];
  for (let i = 0; i < keys.length; i++) if (keys[i]! <= last) places.push(i);
  places.sort((a, b) => keys[a]! - keys[b]! || alike(rows[a]!, rows[b]!) || rows[a]! - rows[b]!);
  return places.slice(from, end).map((place) => rows[place]!);
}
