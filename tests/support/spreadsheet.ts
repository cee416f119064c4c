import { strToU8, zipSync } from 'fflate';

const PACKAGE = 'http://schemas.openxmlformats.org/package/2006';
const OFFICE = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const MAIN = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';

const escaped = (text: string) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;');

/** A cell of a sheet: text, a number, or a day as the number of days since 30 December 1899, shown as a date. */
export type Cell = string | number | { readonly serialDay: number };

/** The smallest spreadsheet of one sheet that ISO/IEC 29500 allows, with dates by the built-in number format 14. */
export function spreadsheet(rows: readonly (readonly Cell[])[]): Uint8Array {
  return spreadsheetOf(rowsAsXml(rows));
}

function rowsAsXml(rows: readonly (readonly Cell[])[]): string {
  const cell = (value: Cell, ref: string) =>
    typeof value === 'string'
      ? `<c r="${ref}" t="inlineStr"><is><t>${escaped(value)}</t></is></c>`
      : typeof value === 'number'
        ? `<c r="${ref}"><v>${value}</v></c>`
        : `<c r="${ref}" s="1"><v>${value.serialDay}</v></c>`;
  return rows
    .map(
      (row, r) =>
        `<row r="${r + 1}">${row.map((value, c) => cell(value, String.fromCharCode(65 + c) + (r + 1))).join('')}</row>`,
    )
    .join('');
}

/** A spreadsheet with what its one sheet holds as XML, whatever that is. */
export function spreadsheetOf(sheet: string): Uint8Array {
  const xml = (body: string) => strToU8(`<?xml version="1.0" encoding="UTF-8" standalone="yes"?>${body}`);
  const type = 'application/vnd.openxmlformats-officedocument.spreadsheetml';
  return zipSync({
    '[Content_Types].xml': xml(
      `<Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="${type}.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="${type}.worksheet+xml"/><Override PartName="/xl/styles.xml" ContentType="${type}.styles+xml"/></Types>`,
    ),
    '_rels/.rels': xml(
      `<Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="r1" Type="${OFFICE}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    ),
    'xl/workbook.xml': xml(
      `<workbook xmlns="${MAIN}" xmlns:r="${OFFICE}"><sheets><sheet name="Figures" sheetId="1" r:id="r1"/></sheets></workbook>`,
    ),
    'xl/_rels/workbook.xml.rels': xml(
      `<Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="r1" Type="${OFFICE}/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="r2" Type="${OFFICE}/styles" Target="styles.xml"/></Relationships>`,
    ),
    'xl/styles.xml': xml(
      `<styleSheet xmlns="${MAIN}"><cellXfs count="2"><xf numFmtId="0"/><xf numFmtId="14" applyNumberFormat="1"/></cellXfs></styleSheet>`,
    ),
    'xl/worksheets/sheet1.xml': xml(`<worksheet xmlns="${MAIN}"><sheetData>${sheet}</sheetData></worksheet>`),
  });
}
