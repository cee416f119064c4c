import { closeSync, openSync, writeSync } from 'node:fs';
import Papa from 'papaparse';
import { headOfDays, matrixOf, rowsOfDays } from '../../core/intake/matrix';
import { FileRefused } from './fileRefused';
import { forEachRecord, readHead } from './text';

/** A table of more days than this is cut into several. */
const MOST_ROWS = 50_000_000;
const PIECE_CHARACTERS = 1024 * 1024;

/**
 * Writes a table that has a column for each day as CSV with a row for each day. Resolves to false,
 * and writes nothing, where the file is no such table. Throws FileRefused.
 */
export async function daysAsRows(file: string, target: string): Promise<boolean> {
  const csv = await readHead(file);
  const matrix = matrixOf(csv.head);
  if (!matrix) return false;
  const out = openSync(target, 'w');
  try {
    let piece = `${Papa.unparse([headOfDays(matrix)])}\r\n`;
    let rows = 0;
    await forEachRecord(file, csv, (cells) => {
      const made = rowsOfDays(cells, matrix, csv.head.length);
      if (made.length === 0) return;
      rows += made.length;
      if (rows > MOST_ROWS)
        throw new FileRefused('The table has more than fifty million cells; divide it by days.');
      piece += `${Papa.unparse(made)}\r\n`;
      if (piece.length < PIECE_CHARACTERS) return;
      writeSync(out, piece);
      piece = '';
    });
    writeSync(out, piece);
  } finally {
    closeSync(out);
  }
  return true;
}
