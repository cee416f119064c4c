import { operation } from '@/app/api/v1/doorway';
import { csvOfCells } from '@/core/words/csv';
import { refusedRows } from '@/store/figures/imports';

/** The refused rows of an import as a CSV: line, reason, and the cells as they stood in the file. */
export const GET = operation(
  { summary: 'The refused rows of a file', on: 'import', may: 'read', answers: {} },
  ({ db, row }) => {
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
  },
);
