import type { ReactNode } from 'react';
import { TableView, type TableOptions } from './TableView';
import type { ViewColumn } from './viewColumn';

/** What a cell is sorted by and saved as; null is absent and sorts last. */
export type Value = string | number | null;

/** One column of a table: its head, and what a row has in it. */
export type Column<Row> = Omit<ViewColumn, 'sortable' | 'saved'> & {
  /** What is drawn; the value where it is left out. */
  readonly cell?: (row: Row) => ReactNode;
  /** Sort key and CSV value. A column without it can't be sorted or saved. */
  readonly value?: (row: Row) => Value;
  /** False where the order of the rows says something, so that this column does not change it. */
  readonly sorts?: boolean;
};

type Props<Row> = TableOptions & {
  /** Absent ones are left out, so that a column can depend on a condition. */
  readonly columns: readonly (Column<Row> | false | null)[];
  readonly rows: readonly Row[];
  readonly rowKey: (row: Row, index: number) => string | number;
  readonly rowClass?: (row: Row) => string | undefined;
  readonly rowTitle?: (row: Row) => string | undefined;
  /** Content that spans all columns after the first; null for a row with cells. */
  readonly wide?: (row: Row) => ReactNode;
};

/**
 * The table of the product: sorts by its heads, saves as CSV, lets columns be chosen and ordered, and
 * scrolls by itself with its head in sight. Works in server and client components alike: cells are
 * drawn here, and only what was drawn goes on to the browser.
 *
 * @example
 * <FiguresTable
 *   label="Pages"
 *   rows={pages}
 *   rowKey={({ id }) => id}
 *   columns={[
 *     { id: 'page', text: true, value: ({ path }) => path },
 *     { id: 'clicks', value: ({ clicks }) => clicks, cell: ({ clicks }) => count(clicks) },
 *   ]}
 * />
 */
export function FiguresTable<Row>({
  columns,
  rows,
  rowKey,
  rowClass,
  rowTitle,
  wide,
  ...options
}: Props<Row>) {
  const present = columns
    .filter((column) => column !== false && column !== null)
    .map(({ cell, value, sorts, ...view }) => ({
      draw: cell ?? value,
      value,
      view: { ...view, sortable: value !== undefined && sorts !== false, saved: value !== undefined },
    }));
  return (
    <TableView
      {...options}
      columns={present.map(({ view }) => view)}
      rows={rows.map((row, index) => {
        const across = wide?.(row) ?? null;
        return {
          key: String(rowKey(row, index)),
          className: rowClass?.(row),
          title: rowTitle?.(row),
          wide: across,
          cells: present.map(({ draw }, i) => (across !== null && i > 0 ? null : draw?.(row))),
          values: present.map(({ value }) => (across === null ? (value?.(row) ?? null) : null)),
        };
      })}
    />
  );
}
