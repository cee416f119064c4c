import { existsSync } from 'node:fs';
import { appendFile, rename, rm, stat } from 'node:fs/promises';
import { wrappingOf } from '../../core/intake/format';
import { daysAsRows } from './daysAsRows';
import { FileRefused } from './fileRefused';
import { isParquet, parquetAsCsv } from './parquet';
import { sheetAsCsv } from './spreadsheet';
import { firstBytes } from './firstBytes';

/** A file as text: itself, or what was made of it, and then what it was. */
export type TextFile = {
  readonly file: string;
  readonly madeOf: 'spreadsheet' | 'Parquet' | 'days as columns' | null;
};

/** Whether a file is text, or packed text, and need not be made into it. */
export async function isText(file: string): Promise<boolean> {
  return kindOf(await firstBytes(file, 4)) === null;
}

function kindOf(start: Buffer): 'spreadsheet' | 'Parquet' | null {
  return wrappingOf(start) === 'zip' ? 'spreadsheet' : isParquet(start) ? 'Parquet' : null;
}

/** Where the rows of a file that is no text are kept as text. */
export function madeText(file: string): string {
  return `${file}.sheet`;
}

/**
 * Where it is noted that a file is being made into text. What is left there was cut off by the end
 * of the process.
 */
export function openedMark(file: string): string {
  return `${file}.opened`;
}

/** A process that ended this often while it opened a file is not asked to open it again. */
const MOST_ENDS = 3;

/**
 * Notes that a file is being opened. Throws FileRefused where that has ended the process before,
 * time after time.
 */
async function markOpened(file: string): Promise<void> {
  const ends = await stat(openedMark(file)).then(
    ({ size }) => size,
    () => 0,
  );
  if (ends >= MOST_ENDS)
    throw new FileRefused(
      `The server stopped ${MOST_ENDS} times while opening this file, so the file was set aside. Save it as CSV and import that.`,
    );
  await appendFile(openedMark(file), '.');
}

/**
 * The file to read in place of another: itself, or its rows as CSV for a spreadsheet, a Parquet
 * file or a table with a column per day. Rows are converted once and kept beside the file. Throws
 * FileRefused if it can’t be read.
 */
export async function asText(file: string): Promise<TextFile> {
  const kind = kindOf(await firstBytes(file, 4));
  const text = madeText(file);
  if (existsSync(text)) return { file: text, madeOf: kind ?? 'days as columns' };
  // Half a text under the final name would be taken for the whole next time.
  const [part, byDay] = [`${text}.part`, `${text}.days`];
  if (kind !== null) await markOpened(file);
  try {
    if (kind === 'Parquet') await parquetAsCsv(file, part);
    else if (kind === 'spreadsheet') await sheetAsCsv(file, part);
    const made = await daysAsRows(kind === null ? file : part, byDay);
    if (!made && kind === null) return { file, madeOf: null };
    await rename(made ? byDay : part, text);
  } finally {
    await Promise.all([part, byDay, openedMark(file)].map((name) => rm(name, { force: true })));
  }
  return { file: text, madeOf: kind ?? 'days as columns' };
}
