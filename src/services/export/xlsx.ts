import writeXlsxFile from 'write-excel-file/node';
import type { Cell } from '../lists/rows';

/** A table as the bytes of a spreadsheet, its head frozen and bold. */
export async function xlsxOf(head: readonly string[], rows: readonly (readonly Cell[])[]): Promise<Buffer> {
  const widths = head.map((name, column) => ({
    width: Math.min(
      60,
      Math.max(name.length, ...rows.slice(0, 200).map((row) => String(row[column] ?? '').length)) + 2,
    ),
  }));
  const cells = rows.map((row) =>
    row.map((value) =>
      value === null ? null : typeof value === 'number' ? { value, type: Number } : { value, type: String },
    ),
  );
  const sheet = [head.map((value) => ({ value, fontWeight: 'bold' as const })), ...cells];
  return writeXlsxFile(sheet, { columns: widths, stickyRowsCount: 1 }).toBuffer();
}
