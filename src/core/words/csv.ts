import Papa from 'papaparse';

/**
 * What spreadsheet programs read as a formula, also after white space, line breaks and in
 * full-width form (OWASP, CSV Injection). Tested on the whole cell, so later lines hide nothing.
 */
const FORMULA = /^[\s\u00a0\ufeff]*[=+\-@＝＋－＠]|^[\t\r\n]/;

/** A plain number, which may begin with a sign. */
const NUMBER = /^[+-]?\d+(?:[.,]\d+)*%?$/;

type Cell = string | number | null;

/**
 * Rows as CSV (RFC 4180). Texts that a spreadsheet would run as formulas get a leading apostrophe;
 * numbers stay numbers.
 *
 * @example csvOf([{ note: '=1+1' }]) // "note\r\n'=1+1"
 */
export function csvOf(rows: readonly Readonly<Record<string, Cell>>[]): string {
  const [first] = rows;
  const fields = first ? Object.keys(first) : [];
  return csvOfCells(
    fields,
    rows.map((row) => fields.map((field) => row[field] ?? null)),
  );
}

/** The same of rows as lists of cells under the names of their columns. */
export function csvOfCells(fields: readonly string[], rows: readonly (readonly Cell[])[]): string {
  const harmless = (text: string) => (FORMULA.test(text) && !NUMBER.test(text) ? `'${text}` : text);
  const cell = (value: Cell) => (typeof value === 'string' ? harmless(value) : value);
  return Papa.unparse(
    { fields: fields.map(harmless), data: rows.map((row) => row.map(cell)) },
    { newline: '\r\n' },
  );
}
