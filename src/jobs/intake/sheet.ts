import { open as openFile, readFile, stat, writeFile } from 'node:fs/promises';
import { unzipSync } from 'fflate';
import Papa from 'papaparse';
import { readSheet } from 'read-excel-file/node';
import { cellOfValue } from '../../core/intake/jsonLines';
import { FileRefused } from './fileRefused';

/** Spreadsheets are read whole, so they have to fit in memory; a sheet holds a million rows at most anyway. */
const MAX_SHEET_BYTES = 64 * 1024 * 1024;
const MAX_UNPACKED_BYTES = 256 * 1024 * 1024;

/** Writes the rows of the first sheet of a spreadsheet (ISO/IEC 29500) as CSV. Throws FileRefused where it cannot be read. */
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

/** The first bytes of a file. */
export async function firstBytes(file: string, bytes: number): Promise<Buffer> {
  const handle = await openFile(file);
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(bytes), 0, bytes, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await handle.close();
  }
}
