import { flexRender, type Row, type Table } from '@tanstack/react-table';

/** The head of a table whose columns are sorted by clicking on their names. */
export function SortableHead<Line>({ table }: { table: Table<Line> }) {
  return (
    <thead>
      {table.getHeaderGroups().map((group) => (
        <tr key={group.id}>
          {group.headers.map((header) => {
            const sorted = header.column.getIsSorted();
            return (
              <th
                key={header.id}
                scope="col"
                aria-sort={sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : undefined}
              >
                {header.column.getCanSort() ? (
                  <button
                    type="button"
                    onClick={header.column.getToggleSortingHandler()}
                    className="relative hover:underline"
                  >
                    {flexRender(header.column.columnDef.header, header.getContext())}
                    <span aria-hidden className="absolute left-full">
                      {sorted === 'asc' ? '▴' : sorted === 'desc' ? '▾' : ''}
                    </span>
                  </button>
                ) : (
                  flexRender(header.column.columnDef.header, header.getContext())
                )}
              </th>
            );
          })}
        </tr>
      ))}
    </thead>
  );
}

/** The lines of a table, each named by its first cell. */
export function TableLines<Line>({ rows }: { rows: readonly Row<Line>[] }) {
  return (
    <tbody>
      {rows.map((row) => (
        <tr key={row.id} data-row>
          {row.getVisibleCells().map((cell, i) => {
            const Cell = i === 0 ? 'th' : 'td';
            return (
              <Cell key={cell.id} {...(i === 0 ? { scope: 'row' as const, className: 'font-normal!' } : {})}>
                {flexRender(cell.column.columnDef.cell, cell.getContext())}
              </Cell>
            );
          })}
        </tr>
      ))}
    </tbody>
  );
}
