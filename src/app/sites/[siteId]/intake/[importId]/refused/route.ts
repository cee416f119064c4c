import { csvOfCells } from '@/core/words/csv';
import { refusedRows } from '@/store/figures/imports';
import { importFromPath, type ImportPageParams } from '../../import';

/** The refused rows of an import as a CSV: line, reason, and the cells as they stood in the file. */
export async function GET(
  _request: Request,
  { params }: { params: Promise<ImportPageParams> },
): Promise<Response> {
  const { db, row } = importFromPath(await params);
  const rows = refusedRows(db, row.id);
  const widest = Math.max(0, ...rows.map(({ cells }) => cells.length));
  const head = ['line', 'reason', ...Array.from({ length: widest }, (_, i) => `cell ${i + 1}`)];
  const text = csvOfCells(
    head,
    rows.map(({ line, message, cells }) => [line, message, ...cells]),
  );
  return new Response(`\ufeff${text}`, {
    headers: {
      'Content-Type': 'text/csv; charset=utf-8',
      'Content-Disposition': `attachment; filename="refused rows of import ${row.id}.csv"`,
    },
  });
}
