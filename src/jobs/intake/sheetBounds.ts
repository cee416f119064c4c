import { FileRefused } from './fileRefused';

/*
 * The cells of a sheet (ISO/IEC 29500) name their places. The library fills the gaps between them,
 * so that a place far out makes a small file take all memory. Places are looked at before it sees
 * the file.
 */

/** Columns that a sheet may reach to; figures have a few dozen. */
const MOST_COLUMNS = 1000;
/** Rows of the standard. */
const MOST_ROWS = 1_048_576;
/**
 * Cells that a sheet may spread over. As many that hold anything would not fit in a file of the
 * size allowed.
 */
const MOST_CELLS = 20_000_000;

/** The place of a row or a cell, in either kind of quotes. */
const PLACE = /\sr\s*=\s*(?:"([^"]*)"|'([^']*)')/g;
const CELL = /^([A-Z]{1,3})(\d{1,7})$/;
const ROW = /^\d{1,7}$/;

/**
 * Throws FileRefused where the cells of a sheet, given as XML, lie too far apart. Other parts of a
 * workbook pass.
 */
export function refuseSparseSheet(xml: string): void {
  if (!xml.includes('sheetData')) return;
  let [rows, columns] = [0, 0];
  for (const [, double, single] of xml.matchAll(PLACE)) {
    const place = double ?? single ?? '';
    const cell = CELL.exec(place);
    if (!cell && !ROW.test(place))
      throw new FileRefused(
        `The spreadsheet has a cell at “${place.slice(0, 20)}”, which is not a valid cell reference. Save the file again, or as CSV.`,
      );
    const row = Number(cell?.[2] ?? place);
    const column = cell ? columnOf(cell[1]!) : 0;
    if (column > MOST_COLUMNS || row > MOST_ROWS) throw tooFar(place);
    [rows, columns] = [Math.max(rows, row), Math.max(columns, column)];
    if (rows * columns > MOST_CELLS) throw tooFar(place);
  }
}

function tooFar(place: string): FileRefused {
  return new FileRefused(
    `The spreadsheet has a cell at ${place}, far outside the table. Delete the unused rows and columns, or save it as CSV.`,
  );
}

/** The number of a column from its letters: A is 1, AA is 27. */
function columnOf(letters: string): number {
  return [...letters].reduce((sum, letter) => 26 * sum + letter.charCodeAt(0) - 64, 0);
}
