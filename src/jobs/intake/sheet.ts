import { existsSync } from 'node:fs';
import { open, readFile, rename, stat, writeFile } from 'node:fs/promises';
import { unzipSync } from 'fflate';
import Papa from 'papaparse';
import { readSheet } from 'read-excel-file/node';
import { wrappingOf } from '../../core/intake/format';
import { FileRefused } from './fileRefused';

/** Spreadsheets are read whole, so they have to fit in memory; a sheet holds a million rows at most anyway. */
const MAX_SHEET_BYTES = 64 * 1024 * 1024;
const MAX_UNPACKED_BYTES = 256 * 1024 * 1024;

/** Where the rows of a spreadsheet are kept as text. */
export function sheetText(file: string): string {
  return `${file}.sheet`;
}

/**
 * The file to read in place of another: itself, or for a spreadsheet (ISO/IEC 29500) the rows of its first sheet as
 * CSV. Throws FileRefused where a spreadsheet cannot be read.
 */
export async function asText(file: string): Promise<string> {
  const handle = await open(file);
  const { buffer } = await handle.read(Buffer.alloc(2), 0, 2, 0).finally(() => handle.close());
  if (wrappingOf(buffer) !== 'zip') return file;
  const text = sheetText(file);
  if (existsSync(text)) return text;
  await refuseHuge(file);
  let rows: unknown[][];
  try {
    rows = (await readSheet(file)) as unknown[][];
  } catch {
    throw new FileRefused('This is a ZIP file, and no spreadsheet (.xlsx) that can be read.');
  }
  const csv = Papa.unparse(rows.map((row) => row.map(cellText)));
  // Half a text under the final name would be taken for the whole next time.
  await writeFile(`${text}.part`, csv);
  await rename(`${text}.part`, text);
  return text;
}

async function refuseHuge(file: string): Promise<void> {
  const { size } = await stat(file);
  if (size > MAX_SHEET_BYTES)
    throw new FileRefused('The spreadsheet is larger than 64 MiB; save the sheet as CSV instead.');
  let unpacked = 0;
  try {
    unzipSync(await readFile(file), {
      filter: ({ originalSize }) => {
        unpacked += originalSize;
        return false;
      },
    });
  } catch {
    throw new FileRefused('This is a ZIP file, broken or cut off, and no spreadsheet that can be read.');
  }
  if (unpacked > MAX_UNPACKED_BYTES)
    throw new FileRefused('The spreadsheet swells to more than 256 MiB; save the sheet as CSV instead.');
}

function cellText(cell: unknown): string {
  if (cell === null || cell === undefined) return '';
  if (!(cell instanceof Date)) return String(cell);
  const iso = cell.toISOString();
  return iso.endsWith('T00:00:00.000Z') ? iso.slice(0, 10) : iso;
}
