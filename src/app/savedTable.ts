import { csvOfCells } from '@/core/words/csv';
import { xlsxOf } from '@/services/export/xlsx';

type Cell = string | number | null;
const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

/** A table as a file to be saved, as CSV or XLSX. */
export async function savedTable(
  name: string,
  as: 'csv' | 'xlsx',
  { head, rows }: { readonly head: readonly string[]; readonly rows: readonly (readonly Cell[])[] },
): Promise<Response> {
  const disposition = `attachment; filename="${name.replace(/[^\w .-]+/g, '-').slice(0, 80)}.${as}"`;
  const [type, body] =
    as === 'csv'
      ? ([
          'text/csv; charset=utf-8',
          `\ufeff${csvOfCells(
            [...head],
            rows.map((row) => [...row]),
          )}`,
        ] as const)
      : ([XLSX, new Uint8Array(await xlsxOf(head, rows))] as const);
  return new Response(body, { headers: { 'Content-Type': type, 'Content-Disposition': disposition } });
}
