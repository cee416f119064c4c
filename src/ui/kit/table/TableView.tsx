'use client';

import {
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
  type Column,
  type ColumnDef,
  type SortingState,
} from '@tanstack/react-table';
import { useMemo, useState, type ReactNode } from 'react';
import { plural } from '@/core/words/format';
import { AppLink } from '../AppLink';
import { saveCsv } from '../saveCsv';
import { ColumnChoice } from './ColumnChoice';
import { nameOf, type ViewColumn } from './viewColumn';
import { useColumnChoice } from './useColumnChoice';

export type ViewRow = {
  readonly key: string;
  readonly className?: string | undefined;
  readonly title?: string | undefined;
  readonly wide: ReactNode;
  readonly cells: readonly ReactNode[];
  readonly values: readonly (string | number | null)[];
};

export type Sort = { readonly id: string; readonly desc: boolean };

export type TableOptions = {
  /** Names the table for those who do not see it. */
  readonly label: string;
  /** Of the table: size of type and density. */
  readonly className?: string;
  /** Name of the CSV file, where it can be saved. */
  readonly csv?: string;
  /** Where columns can be chosen: under what the choice is remembered in this browser. */
  readonly choose?: string;
  /** False where the order of the rows is part of what the table says. */
  readonly sortable?: boolean;
  /** The order at first; as the rows come where it is left out. */
  readonly sort?: Sort;
  /** Called with a new order if the parent controls `sort`, for example in the URL. */
  readonly onSort?: (sort: Sort) => void;
  /** Rows shown until all are asked for. */
  readonly first?: number;
  /** Rows to a part, and which part is shown. */
  readonly part?: { readonly size: number; readonly index: number };
  /** Whether each row becomes a block of named figures on a narrow screen. */
  readonly stacked?: boolean;
  /** Whether the head is for screen readers only. */
  readonly hideHead?: boolean;
  /** Actions above the table, followed by the table's own controls. */
  readonly children?: ReactNode;
};

type Props = TableOptions & { readonly columns: readonly ViewColumn[]; readonly rows: readonly ViewRow[] };

/** From this many rows on a table scrolls by itself, and its head stays in sight. */
const TALL = 30;

const BAR = 'flex flex-wrap items-center gap-x-4 gap-y-1 text-[0.85rem] print:hidden';

/** A table of rows whose cells are drawn already. */
export function TableView(props: Props) {
  const { label, columns, rows, csv, choose, sortable = true, onSort, first, part, stacked = false } = props;
  const [own, setOwn] = useState<SortingState>(props.sort ? [props.sort] : []);
  const [all, setAll] = useState(false);
  const choice = useColumnChoice(choose, columns);
  const sorting = onSort && props.sort ? [props.sort] : own;
  const definitions = useMemo(
    () =>
      columns.map((column, i): ColumnDef<ViewRow> => ({
        id: column.id,
        accessorFn: ({ values }) => values[i] ?? undefined,
        sortUndefined: 'last',
        enableSorting: sortable && column.sortable && !column.sortLink,
        ...(column.lowFirst && { sortDescFirst: false }),
        meta: i,
      })),
    [columns, sortable],
  );
  const table = useReactTable({
    data: rows as ViewRow[],
    columns: definitions,
    state: { sorting, columnOrder: choice.order, columnVisibility: choice.visible },
    enableSortingRemoval: !onSort,
    autoResetAll: false,
    getRowId: ({ key }) => key,
    onSortingChange: (update) => {
      const next = typeof update === 'function' ? update(sorting) : update;
      if (onSort) onSort(next[0]!);
      else setOwn(next);
    },
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  const sorted = table.getRowModel().rows;
  const shown = part
    ? sorted.slice(part.index * part.size, (part.index + 1) * part.size)
    : first !== undefined && !all
      ? sorted.slice(0, first)
      : sorted;
  const drawn = table.getVisibleLeafColumns().map((column) => {
    const index = column.columnDef.meta as number;
    return { column, index, view: columns[index]! };
  });
  const naming = Math.max(
    0,
    drawn.findIndex(({ view }) => view.names),
  );
  const save = () => {
    const saved = columns.flatMap(({ id, saveAs, saved: isSaved }, i) =>
      isSaved ? [[saveAs ?? id, i] as const] : [],
    );
    saveCsv(
      csv!,
      sorted.map(({ original: { values } }) =>
        Object.fromEntries(saved.map(([name, i]) => [name, values[i] ?? null])),
      ),
    );
  };
  const tall = shown.length > TALL;
  const above = Boolean(props.children);
  const more = first !== undefined && sorted.length > first;
  const tools = (csv !== undefined || choose !== undefined) && (
    <>
      {csv !== undefined && (
        <button type="button" className="inline-link" onClick={save}>
          Save as CSV
        </button>
      )}
      {choose !== undefined && <ColumnChoice columns={columns} choice={choice} />}
    </>
  );
  return (
    <>
      {above && (
        <div className={`${BAR} mb-1`}>
          {props.children}
          {tools}
        </div>
      )}
      <div
        className={`overflow-auto ${tall ? 'max-h-[80vh] print:max-h-none' : ''}`}
        tabIndex={0}
        role="region"
        aria-label={label}
      >
        <table className={`figures ${stacked ? 'stacked' : ''} ${props.className ?? 'text-[0.87rem]'}`}>
          <caption className="sr-only">{label}</caption>
          <thead
            className={`${props.hideHead ? 'sr-only' : ''} ${tall ? 'sticky top-0 z-10 bg-base-100' : ''}`}
          >
            <tr>
              {drawn.map(({ column, view }) => (
                <Head key={view.id} column={column} view={view} />
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map(({ original: row }) => (
              <tr key={row.key} data-row className={row.className} title={row.title}>
                {(row.wide === null ? drawn : drawn.slice(0, 1)).map(({ view, index }, i) => {
                  const Cell = i === naming ? 'th' : 'td';
                  return (
                    <Cell
                      key={view.id}
                      scope={i === naming ? 'row' : undefined}
                      data-name={stacked && i !== naming ? nameOf(view) : undefined}
                      className={classes(view, view.cellClass)}
                    >
                      {row.cells[index]}
                    </Cell>
                  );
                })}
                {row.wide !== null && (
                  <td colSpan={drawn.length - 1} className="text-left! whitespace-normal!">
                    {row.wide}
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {(more || (tools && !above)) && (
        <div className={`${BAR} mt-1`}>
          {more && (
            <button type="button" className="inline-link" onClick={() => setAll(!all)}>
              {all ? `Show the first ${first}` : `Show all ${plural(sorted.length, 'row')}`}
            </button>
          )}
          {!above && tools}
        </div>
      )}
    </>
  );
}

const classes = ({ text, className }: ViewColumn, more?: string) =>
  [text && 'text-left!', className, more].filter(Boolean).join(' ') || undefined;

function Head({ column, view }: { column: Column<ViewRow>; view: ViewColumn }) {
  const { head = nameOf(view), about, hideHead, sortLink } = view;
  const sorted = column.getIsSorted();
  const now = sortLink ? sortLink.now : sorted === 'asc' ? 'ascending' : sorted ? 'descending' : null;
  const inside = (
    <>
      {head}
      <span aria-hidden className="absolute bottom-0 left-full">
        {now === 'ascending' ? '▴' : now === 'descending' ? '▾' : ''}
      </span>
    </>
  );
  return (
    <th scope="col" className={classes(view)} aria-sort={now ?? undefined} title={about}>
      {hideHead ? (
        <span className="sr-only">{head}</span>
      ) : sortLink ? (
        <AppLink href={sortLink.href} className="relative hover:underline">
          {inside}
        </AppLink>
      ) : column.getCanSort() ? (
        <button
          type="button"
          onClick={column.getToggleSortingHandler()}
          className={`relative hover:underline ${view.text ? 'text-left' : 'text-right'}`}
        >
          {inside}
        </button>
      ) : (
        head
      )}
    </th>
  );
}
