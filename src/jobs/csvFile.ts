import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { Transform } from 'node:stream';
import Papa from 'papaparse';
import { findDelimiter, notCsvReason, type Delimiter } from '../core/intake/format';

/** The whole file cannot be taken. The message is one sentence for the person who sent it. */
export class FileRefused extends Error {
  override name = 'FileRefused';
}

export type CsvHead = { readonly delimiter: Delimiter; readonly head: readonly string[] };

const HEAD_BYTES = 256 * 1024;
const MAX_COLUMNS = 200;
/** No honest row comes near this; a longer run without a line end is another kind of file. */
const MAX_LINE_BYTES = 1024 * 1024;

/** Reads delimiter and column names from the beginning of a file. Throws FileRefused where it is no CSV. */
export async function readHead(file: string): Promise<CsvHead> {
  const handle = await open(file);
  let bytes: Uint8Array;
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0);
    bytes = buffer.subarray(0, bytesRead);
  } finally {
    await handle.close();
  }
  const reason = notCsvReason(bytes);
  if (reason) throw new FileRefused(reason);
  const text = new TextDecoder('utf-8').decode(bytes);
  const firstLine = text.split(/\r\n|\n|\r/, 1)[0] ?? '';
  const delimiter = findDelimiter(firstLine);
  if (!delimiter) {
    throw new FileRefused(
      'This does not look like a CSV: its first line is not divided by commas, semicolons or tabs.',
    );
  }
  const head = Papa.parse<string[]>(text, { delimiter, preview: 1 }).data[0] ?? [];
  if (head.length > MAX_COLUMNS) throw new FileRefused(`The file has more than ${MAX_COLUMNS} columns.`);
  return { delimiter, head: head.map((name) => name.trim()) };
}

/** Told of every record after the head. `line` is the line of the file on which the record begins, the head being 1. */
export type OnRecord = (cells: string[], line: number) => void;

export type RecordOptions = {
  /** Called around the records of each piece of the file, with the bytes read so far. */
  readonly inPiece?: (work: () => void, bytesRead: number) => void;
  /** Asked between pieces; true ends the reading early. */
  readonly stop?: () => boolean;
};

/**
 * Streams the records of a CSV in bounded memory. Blank lines are passed over.
 * Throws FileRefused where a quotation mark is never closed or a line has no end.
 */
export async function forEachRecord(
  file: string,
  { delimiter }: CsvHead,
  onRecord: OnRecord,
  options: RecordOptions = {},
): Promise<void> {
  const inPiece = options.inPiece ?? ((work) => work());
  let line = 0;
  let bytesRead = 0;
  let failure: unknown = null;

  const bounded = lineBound((bytes) => (bytesRead += bytes));
  const input = createReadStream(file, { highWaterMark: 256 * 1024 });
  const stream = input.pipe(bounded);
  stream.setEncoding('utf8');
  input.on('error', (error) => bounded.destroy(error));

  await new Promise<void>((resolve, reject) => {
    Papa.parse<string[]>(stream, {
      delimiter,
      skipEmptyLines: false,
      chunk: (results, parser) => {
        try {
          if (results.errors.some((e) => e.code === 'MissingQuotes')) {
            throw new FileRefused(`A quotation mark that opens after line ${line + 1} is never closed.`);
          }
          inPiece(() => {
            for (const cells of results.data) {
              line++;
              const start = line;
              for (const cell of cells) line += lineBreaks(cell);
              const blank = cells.length === 1 && cells[0]?.trim() === '';
              if (start > 1 && !blank) onRecord(cells, start);
            }
          }, bytesRead);
          if (options.stop?.()) parser.abort();
        } catch (error) {
          failure = error;
          parser.abort();
        }
      },
      complete: () => {
        input.destroy();
        if (failure) reject(failure);
        else resolve();
      },
      error: (error) => {
        input.destroy();
        reject(error);
      },
    });
  });
}

function lineBreaks(cell: string): number {
  let n = 0;
  for (let at = cell.indexOf('\n'); at !== -1; at = cell.indexOf('\n', at + 1)) n++;
  return n;
}

/** Passes bytes on, counts them, and refuses a file whose lines have no end. */
function lineBound(onBytes: (n: number) => void): Transform {
  let sinceBreak = 0;
  return new Transform({
    transform(piece: Buffer, _encoding, done) {
      onBytes(piece.length);
      const last = Math.max(piece.lastIndexOf(10), piece.lastIndexOf(13));
      sinceBreak = last === -1 ? sinceBreak + piece.length : piece.length - last;
      if (sinceBreak > MAX_LINE_BYTES)
        done(new FileRefused('The file has a line of more than a million characters.'));
      else done(null, piece);
    },
  });
}
