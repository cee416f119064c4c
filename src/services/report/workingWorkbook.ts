import writeXlsxFile from 'write-excel-file/node';
import { serialOf, type WorkCell, type WorkSheet } from '../../core/working/workSheet';

/** Sheets of formulas as the bytes of a spreadsheet. */
export async function workingWorkbook(sheets: readonly WorkSheet[]): Promise<Uint8Array> {
  const made = sheets.map(({ name, rows }, i) => ({
    sheet: name,
    data: rows.map((row) => row.map(written)),
    columns: [{ width: i === 0 ? 52 : 30 }, { width: 14 }, { width: 14 }],
  }));
  return writeXlsxFile(made).toBuffer();
}

function written(cell: WorkCell) {
  if (cell === null) return null;
  if (typeof cell === 'number') return { value: cell, type: Number };
  if (typeof cell === 'string') return { value: cell, type: String };
  if ('heading' in cell) return { value: cell.heading, type: String, fontWeight: 'bold' as const };
  if ('day' in cell) return { value: serialOf(cell.day), type: Number, format: 'yyyy-mm-dd' };
  // Formulas stand in the file without their sign (ISO/IEC 29500-1, 18.3.1.40).
  return { value: cell.formula, type: 'Formula' as const };
}
