/**
 * Rows of a page (or a site) within some days, by column, ordered by query, day, device and
 * country, with unique keys. Query, device and country are 0 for rows not split by them.
 */
export type Facts = {
  readonly rows: number;
  readonly query: Int32Array;
  readonly day: Int32Array;
  readonly device: Uint8Array;
  readonly country: Int32Array;
  /** One column for each value of the grain; NaN where a row does not have it. */
  readonly values: readonly Float64Array[];
};

/** Columns for so many rows, all zero. */
export function emptyFacts(rows: number, values: number): Facts {
  return {
    rows,
    query: new Int32Array(rows),
    day: new Int32Array(rows),
    device: new Uint8Array(rows),
    country: new Int32Array(rows),
    values: Array.from({ length: values }, () => new Float64Array(rows)),
  };
}

/** Compares the keys of two rows: negative if the first comes first, 0 if equal. */
export function compareKeys(a: Facts, i: number, b: Facts, j: number): number {
  return (
    a.query[i]! - b.query[j]! ||
    a.day[i]! - b.day[j]! ||
    a.device[i]! - b.device[j]! ||
    a.country[i]! - b.country[j]!
  );
}

/** Whether two rows carry the same values, absent ones included. */
export function sameValues(a: Facts, i: number, b: Facts, j: number): boolean {
  for (let v = 0; v < a.values.length; v++) {
    const [x, y] = [a.values[v]![i]!, b.values[v]![j]!];
    // Absent values are alike.
    if (x !== y && (x === x || y === y)) return false;
  }
  return true;
}

/** Copies one row to a place of other columns of the same grain. */
export function copyRow(from: Facts, i: number, to: Facts, at: number): void {
  to.query[at] = from.query[i]!;
  to.day[at] = from.day[i]!;
  to.device[at] = from.device[i]!;
  to.country[at] = from.country[i]!;
  for (let v = 0; v < to.values.length; v++) to.values[v]![at] = from.values[v]![i]!;
}

/** Returns the given rows as new columns, in the given order. */
export function someRows(facts: Facts, rows: readonly number[]): Facts {
  const some = emptyFacts(rows.length, facts.values.length);
  rows.forEach((row, at) => copyRow(facts, row, some, at));
  return some;
}

/** The first rows of columns that were made too long. */
export function firstRows(facts: Facts, rows: number): Facts {
  if (rows === facts.rows) return facts;
  return {
    rows,
    query: facts.query.subarray(0, rows),
    day: facts.day.subarray(0, rows),
    device: facts.device.subarray(0, rows),
    country: facts.country.subarray(0, rows),
    values: facts.values.map((column) => column.subarray(0, rows)),
  };
}
