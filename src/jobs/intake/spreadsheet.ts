import { readFile, stat, writeFile } from 'node:fs/promises';
import { unzipSync } from 'fflate';
import Papa from 'papaparse';
import readXlsxFile, { readSheet } from 'read-excel-file/node';
import { recogniseColumns } from '../../core/intake/columns';
import { cellOfValue } from '../../core/intake/jsonLines';
import type { Unpacking } from './unpacking';
import { FileRefused } from './fileRefused';
import { refuseSparseSheet } from './sheetBounds';

/** Spreadsheets are read whole, so they must fit in memory; a sheet has at most a million rows. */
const MAX_SHEET_BYTES = 64 * 1024 * 1024;
const MAX_UNPACKED_BYTES = 256 * 1024 * 1024;

/**
 * Writes the first sheet of a spreadsheet (ISO/IEC 29500) as CSV. Throws FileRefused if it can’t be
 * read.
 */
export async function sheetAsCsv(file: string, target: string): Promise<void> {
  await refuseHuge(file);
  let rows: unknown[][];
  try {
    rows = (await readSheet(file)) as unknown[][];
  } catch {
    throw new FileRefused('This is a ZIP file, and no spreadsheet (.xlsx) that can be read.');
  }
  await writeFile(target, Papa.unparse(rows.map((row) => row.map(cellOfValue))));
}

/** A sheet of figures has this many columns that are recognised. */
const LEAST_COLUMNS = 2;

/**
 * Writes each sheet with figures as a CSV named by `place`, with reasons for the others. Null if
 * the first sheet is the only candidate: it is read with the workbook. Throws FileRefused.
 */
export async function sheetsAsCsv(
  file: string,
  place: (number: number) => string,
): Promise<Unpacking | null> {
  await refuseHuge(file);
  let sheets: { sheet: string; data: unknown[][] }[];
  try {
    sheets = (await readXlsxFile(file)) as { sheet: string; data: unknown[][] }[];
  } catch {
    throw new FileRefused('This is a ZIP file, and no spreadsheet (.xlsx) that can be read.');
  }
  const filled = sheets.filter(({ data }) => data.length > 1);
  const figures = filled.filter(({ data }) => headRow(data) !== -1);
  if (figures.length === 0 || (figures.length === 1 && figures[0] === sheets[0])) return null;
  const files = await Promise.all(
    figures.map(async ({ sheet, data }, i) => {
      const target = place(i);
      const text = Papa.unparse(data.map((row) => row.map(cellOfValue)));
      await writeFile(target, text);
      return { name: sheet, file: target, bytes: Buffer.byteLength(text) };
    }),
  );
  const leftOut = filled
    .filter((one) => !figures.includes(one))
    .map(({ sheet }) => ({ name: sheet, reason: 'No columns of figures are recognised in this sheet.' }));
  return { files, leftOut };
}

/** The first of the top rows with recognised columns of figures; -1 if there is none. */
function headRow(data: readonly (readonly unknown[])[]): number {
  return data
    .slice(0, 30)
    .findIndex(
      (row) => Object.keys(recogniseColumns(row.map((cell) => String(cell ?? '')))).length >= LEAST_COLUMNS,
    );
}

/** Throws FileRefused for what would take too much memory to read. */
async function refuseHuge(file: string): Promise<void> {
  const { size } = await stat(file);
  if (size > MAX_SHEET_BYTES)
    throw new FileRefused('The spreadsheet is larger than 64 MiB; save the sheet as CSV instead.');
  const bytes = await readFile(file);
  let unpacked = 0;
  const unzip = (wanted: boolean) => {
    try {
      return unzipSync(bytes, {
        filter: ({ originalSize }) => {
          if (!wanted) unpacked += originalSize;
          return wanted;
        },
      });
    } catch {
      throw new FileRefused('This is a ZIP file, broken or cut off, and no spreadsheet that can be read.');
    }
  };
  unzip(false);
  if (unpacked > MAX_UNPACKED_BYTES)
    throw new FileRefused('The spreadsheet swells to more than 256 MiB; save the sheet as CSV instead.');
  for (const part of Object.values(unzip(true))) refuseSparseSheet(Buffer.from(part).toString('latin1'));
}
