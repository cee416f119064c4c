import { existsSync } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { wrappingOf } from '../../core/intake/format';
import { isParquet, parquetAsCsv } from './parquet';
import { firstBytes, sheetAsCsv } from './sheet';

/** A file as text: itself, or what was made of it, and then what it was. */
export type TextFile = { readonly file: string; readonly madeOf: 'spreadsheet' | 'Parquet' | null };

/** Whether a file is text, or packed text, and need not be made into it. */
export async function isText(file: string): Promise<boolean> {
  const start = await firstBytes(file, 4);
  return wrappingOf(start) !== 'zip' && !isParquet(start);
}

/** Where the rows of a file that is no text are kept as text. */
export function madeText(file: string): string {
  return `${file}.sheet`;
}

/**
 * The file to read in place of another: itself, or for a spreadsheet or a Parquet file its rows as CSV, which are made
 * once and kept beside it. Throws FileRefused where it cannot be read.
 */
export async function asText(file: string): Promise<TextFile> {
  const start = await firstBytes(file, 4);
  const kind = wrappingOf(start) === 'zip' ? 'spreadsheet' : isParquet(start) ? 'Parquet' : null;
  if (kind === null) return { file, madeOf: null };
  const text = madeText(file);
  if (!existsSync(text)) {
    // Half a text under the final name would be taken for the whole next time.
    const part = `${text}.part`;
    try {
      await (kind === 'Parquet' ? parquetAsCsv(file, part) : sheetAsCsv(file, part));
    } catch (error) {
      await rm(part, { force: true });
      throw error;
    }
    await rename(part, text);
  }
  return { file: text, madeOf: kind };
}
