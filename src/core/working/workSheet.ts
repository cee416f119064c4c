/** A cell of a workbook: a text, a number, a day (days since 1970), a formula without its sign, or nothing. */
export type WorkCell =
  | string
  | number
  | null
  | { readonly day: number }
  | { readonly formula: string }
  | { readonly heading: string };

/** A sheet of a workbook as rows of cells. */
export type WorkSheet = { readonly name: string; readonly rows: WorkCell[][] };

/** The number by which spreadsheets know a day: those since 30 December 1899. @example serialOf(0) // 25569 */
export const serialOf = (day: number): number => day + 25_569;

/** The letters of a column, counted from 0. @example letters(27) // 'AB' */
export function letters(column: number): string {
  let text = '';
  for (let left = column + 1; left > 0; left = Math.floor((left - 1) / 26))
    text = String.fromCharCode(65 + ((left - 1) % 26)) + text;
  return text;
}

/** The address of a cell, row and column counted from 0, that stays as it is when it is copied. @example cellAt(0, 1) // '$B$1' */
export const cellAt = (row: number, column: number): string => `$${letters(column)}$${row + 1}`;

/** A range of cells in a row, or in a column. */
export const rangeOf = (
  [fromRow, fromColumn]: readonly [number, number],
  [toRow, toColumn]: readonly [number, number],
): string => `${cellAt(fromRow, fromColumn)}:${cellAt(toRow, toColumn)}`;

/** A sheet that is written cell by cell, and that can be pointed to from others. */
export class SheetWriter {
  readonly rows: WorkCell[][] = [];

  constructor(readonly name: string) {}

  set(row: number, column: number, cell: WorkCell): void {
    while (this.rows.length <= row) this.rows.push([]);
    const line = this.rows[row]!;
    while (line.length <= column) line.push(null);
    line[column] = cell;
  }

  /** Writes cells beside each other. */
  line(row: number, cells: readonly WorkCell[], column = 0): void {
    cells.forEach((cell, i) => this.set(row, column + i, cell));
  }

  formula(row: number, column: number, formula: string): void {
    this.set(row, column, { formula });
  }

  /** The address of a cell as seen from other sheets. */
  at(row: number, column: number): string {
    return `'${this.name}'!${cellAt(row, column)}`;
  }

  /** A range as seen from other sheets. */
  range(from: readonly [number, number], to: readonly [number, number]): string {
    return `'${this.name}'!${rangeOf(from, to)}`;
  }
}
