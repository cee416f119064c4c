/* Tables with a column for each day: one row a page or query, one cell a day. */

import { readDate } from './dates';

/**
 * Where a table has its days: what each column other than the days is called, and what the cells
 * of a day hold.
 */
export type Matrix = {
  /** The columns that say what a row is about. */
  readonly keys: readonly { readonly column: number; readonly name: string }[];
  /**
   * What is told for each day, such as clicks; where the head does not say, it is called
   * VALUE_COLUMN.
   */
  readonly measures: readonly string[];
  /** The days as written; for each measure the column, or -1 where the day lacks it. */
  readonly days: readonly { readonly date: string; readonly columns: readonly number[] }[];
};

/** The name of the column of values where the head of a table gives days alone. */
export const VALUE_COLUMN = 'value of the day';

/** Fewer days than this are columns of another meaning, such as the day of a check. */
const LEAST_DAYS = 2;
/** More columns than this beside the days make it another kind of table. */
const MOST_KEYS = 5;
/** A written date has at most so many words: "Nov 1, 2026". */
const MOST_DATE_WORDS = 3;

const isDate = (text: string) =>
  typeof readDate(text, 'day-first') === 'number' || typeof readDate(text, 'month-first') === 'number';

/**
 * A name in the head that holds a date: the date, and what else the name says; null where it holds
 * none.
 */
function datedName(name: string): { readonly date: string; readonly measure: string } | null {
  const words = name.trim().split(/[\s_|]+/);
  for (let n = Math.min(MOST_DATE_WORDS, words.length); n > 0; n--) {
    for (const [date, rest] of [
      [words.slice(0, n), words.slice(n)],
      [words.slice(-n), words.slice(0, -n)],
    ] as const) {
      const written = date.join(' ').replace(/^[(:–-]+|[):–-]+$/g, '');
      const measure = rest.join(' ').replace(/^[^\p{L}]+|[^\p{L}]+$/gu, '');
      if (isDate(written)) return { date: written, measure };
    }
  }
  return null;
}

/**
 * Finds the days among the column names of a table; null where it is no table with days as columns.
 * @example matrixOf(['Query', '2026-11-01', '2026-11-02'])!.measures // ['value of the day']
 */
export function matrixOf(head: readonly string[]): Matrix | null {
  const keys: { column: number; name: string }[] = [];
  const byDate = new Map<string, Map<string, number>>();
  head.forEach((name, column) => {
    const dated = datedName(name);
    if (!dated) {
      keys.push({ column, name });
      return;
    }
    const day = byDate.get(dated.date) ?? new Map<string, number>();
    day.set(dated.measure || VALUE_COLUMN, column);
    byDate.set(dated.date, day);
  });
  if (byDate.size < LEAST_DAYS || keys.length === 0 || keys.length > MOST_KEYS) return null;
  const measures = [...new Set([...byDate.values()].flatMap((day) => [...day.keys()]))];
  const days = [...byDate].map(([date, columns]) => ({
    date,
    columns: measures.map((measure) => columns.get(measure) ?? -1),
  }));
  return { keys, measures, days };
}

/** The column names of the rows that `rowsOfDays` makes. */
export function headOfDays({ keys, measures }: Matrix): string[] {
  return [...keys.map(({ name }) => name), 'date', ...measures];
}

/**
 * A row of such a table as one row per day, without empty cells. A row with another number of cells
 * than the head says so in place of its date, and is refused: its cells can’t be matched to days.
 *
 * @example
 * rowsOfDays(['hive', '3', ''], matrixOf(['Query', '2026-11-01', '2026-11-02'])!, 3)
 * // [['hive', '2026-11-01', '3']]
 */
export function rowsOfDays(
  cells: readonly string[],
  { keys, measures, days }: Matrix,
  columns: number,
): string[][] {
  const about = keys.map(({ column }) => cells[column] ?? '');
  if (cells.length !== columns)
    return [[...about, `${cells.length} cells under ${columns} columns`, ...measures.map(() => '')]];
  return days.flatMap(({ date, columns: at }) => {
    const values = at.map((column) => (column < 0 ? '' : cells[column]!.trim()));
    return values.every((value) => value === '') ? [] : [[...about, date, ...values]];
  });
}
