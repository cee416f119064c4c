import { createWriteStream } from 'node:fs';
import { open, stat } from 'node:fs/promises';
import { finished } from 'node:stream/promises';
import { once } from 'node:events';
import {
  asyncBufferFromFile,
  parquetMetadataAsync,
  parquetRead,
  type AsyncBuffer,
  type FileMetaData,
} from 'hyparquet';
import { compressors } from 'hyparquet-compressors';
import { cellOfValue } from '../../core/intake/jsonLines';
import { FileRefused } from './fileRefused';

/** Limits: the footer, an unpacked part, rows read at once, and the whole as text. */
const MAX_FOOTER_BYTES = 64 * 1024 * 1024;
const MAX_PAGE_BYTES = 512 * 1024 * 1024;
const MAX_GROUP_BYTES = 2 * 1024 ** 3;
const ROWS_AT_ONCE = 20_000;
const MAX_TEXT_BYTES = 16 * 1024 ** 3;
const MAX_COLUMNS = 200;

const BROKEN = 'This is a Parquet file, broken or cut off, or of a kind that cannot be read.';

/**
 * The library’s decompressors with a size limit, since the size stated by a page can’t be trusted.
 */
const bounded: typeof compressors = Object.fromEntries(
  Object.entries(compressors).map(([name, unpack]) => [
    name,
    (bytes: Uint8Array, size: number) => {
      if (size > MAX_PAGE_BYTES)
        throw new FileRefused('A page of the Parquet file unpacks to more than 512 MiB.');
      return unpack(bytes, size);
    },
  ]),
);

/** Whether a file says at its beginning that it is Parquet. */
export function isParquet(start: Uint8Array): boolean {
  return Buffer.from(start.subarray(0, 4)).toString('latin1') === 'PAR1';
}

/**
 * Writes the rows of a Parquet file as CSV, part by part. Throws FileRefused if it can’t be read.
 */
export async function parquetAsCsv(file: string, target: string): Promise<void> {
  await refuseFooter(file);
  const out = createWriteStream(target);
  let written = 0;
  const write = async (text: string) => {
    written += text.length;
    if (written > MAX_TEXT_BYTES)
      throw new FileRefused('The Parquet file holds more than 16 GiB of text; divide it.');
    if (!out.write(text)) await once(out, 'drain');
  };
  try {
    const buffer = await asyncBufferFromFile(file);
    const metadata = await parquetMetadataAsync(buffer);
    const columns = columnNames(metadata.schema);
    if (columns.length > MAX_COLUMNS) throw new FileRefused(`The file has more than ${MAX_COLUMNS} columns.`);
    const quoted = quoting();
    await write(`${columns.map(quoted).join(',')}\n`);
    let start = 0;
    for (const group of metadata.row_groups) {
      if (group.total_byte_size > MAX_GROUP_BYTES)
        throw new FileRefused(
          'A row group of the Parquet file unpacks to more than 2 GiB; write smaller ones.',
        );
      const end = start + Number(group.num_rows);
      const values = await columnsOf({ file: buffer, metadata, rowStart: start, rowEnd: end }, columns);
      for (let from = 0; from < end - start; from += ROWS_AT_ONCE) {
        let text = '';
        for (let row = from; row < Math.min(end - start, from + ROWS_AT_ONCE); row++) {
          for (let c = 0; c < values.length; c++) {
            if (c > 0) text += ',';
            const value = values[c]![row];
            text += typeof value === 'string' ? quoted(value) : quoted(cellOfValue(value));
          }
          text += '\n';
        }
        await write(text);
      }
      start = end;
    }
  } catch (error) {
    throw error instanceof FileRefused ? error : new FileRefused(BROKEN);
  } finally {
    out.end();
    await finished(out);
  }
}

type Part = { file: AsyncBuffer; metadata: FileMetaData; rowStart: number; rowEnd: number };

/** The values of some rows, column by column. */
async function columnsOf(part: Part, columns: readonly string[]): Promise<ArrayLike<unknown>[]> {
  const rows = part.rowEnd - part.rowStart;
  const found = columns.map(() => new Array<unknown>(rows));
  const places = new Map(columns.map((name, place) => [name, place]));
  await parquetRead({
    ...part,
    compressors: bounded,
    onChunk: ({ columnName, columnData, rowStart }) => {
      const column = found[places.get(columnName) ?? -1];
      if (!column) return;
      // A chunk may hold rows before or after those that were asked for.
      const at = rowStart - part.rowStart;
      const last = Math.min(columnData.length, rows - at);
      for (let i = Math.max(0, -at); i < last; i++) column[at + i] = columnData[i];
    },
  });
  return found;
}

const MOST_REMEMBERED = 100_000;

/** Writes texts as cells of a CSV; most of them come again and again. */
function quoting(): (text: string) => string {
  const known = new Map<string, string>();
  return (text) => {
    let cell = known.get(text);
    if (cell === undefined) {
      cell = /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
      if (known.size < MOST_REMEMBERED) known.set(text, cell);
    }
    return cell;
  };
}

/**
 * Names of the top-level columns, which follow the root in the footer; nested ones are parts of
 * them.
 */
function columnNames(schema: readonly { name: string; num_children?: number }[]): string[] {
  const names: string[] = [];
  let at = 1;
  const skip = (): void => {
    const { num_children: inner = 0 } = schema[at++]!;
    for (let i = 0; i < inner; i++) skip();
  };
  while (at < schema.length) {
    names.push(schema[at]!.name);
    skip();
  }
  return names;
}

/** The size of the description stands in the last eight bytes, before the closing mark. */
async function refuseFooter(file: string): Promise<void> {
  const { size } = await stat(file);
  const handle = await open(file);
  try {
    const { buffer } = await handle.read(Buffer.alloc(8), 0, 8, Math.max(0, size - 8));
    const footer = buffer.readUInt32LE(0);
    if (buffer.toString('latin1', 4) !== 'PAR1' || footer > size) throw new FileRefused(BROKEN);
    if (footer > MAX_FOOTER_BYTES) throw new FileRefused('The description of the Parquet file is too large.');
  } finally {
    await handle.close();
  }
}
