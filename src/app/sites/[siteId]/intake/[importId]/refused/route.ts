import Papa from 'papaparse';
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
  // What a spreadsheet program would run as a formula is made harmless.
  const text = Papa.unparse(
    { fields: head, data: rows.map(({ line, message, cells }) => [line, message, ...cells]) },
    { escapeFormulae: true, newline: '\r\n' },
  );
  return new Response(`\ufeff${text}`, {
    headers: {
      'Content-Type': 'text/csv; charset=utf-8',
      'Content-Disposition': `attachment; filename="refused rows of import ${row.id}.csv"`,
    },
  });
}
