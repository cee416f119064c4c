import { isAscii, isUtf8 } from 'node:buffer';
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { pipeline } from 'node:stream';
import { createGunzip } from 'node:zlib';
import iconv from 'iconv-lite';
import { BlockCutter, EndlessRecord } from '../../core/intake/blocks';
import {
  DELIMITER_NAMES,
  encodingOf,
  ENCODING_NAMES,
  findDelimiter,
  formOf,
  notCsvReason,
  wrappingOf,
} from '../../core/intake/format';
import { matrixOf } from '../../core/intake/matrix';
import { recogniseColumns } from '../../core/intake/columns';
import { columnsOfJsonLines } from '../../core/intake/jsonLines';
import { FileRefused } from './fileRefused';
import { firstBytes } from './firstBytes';
import { forEachRecordIn, parseRecords, type OnRecord } from './records';
import type { CsvHead } from './csvHead';

/** Whole records of a file as UTF-8. `garbled` tells that some bytes stood for no character. */
export type Block = {
  readonly bytes: Uint8Array;
  /** Whether its first record is the head of the file. */
  readonly isFirst: boolean;
  readonly garbled: boolean;
};

const PIECE_BYTES = 1024 * 1024;
const HEAD_BYTES = 256 * 1024;
const MAX_COLUMNS = 200;
/** The objects on so many lines say which columns JSON Lines have. */
const LINES_FOR_COLUMNS = 1000;
/** Largest ratio of unpacked to packed size; figures shrink to a tenth or a twentieth. */
const MAX_SWELLING = 250;
const SWELLING_ALLOWED_BYTES = 64 * 1024 * 1024;
/** A file may hold at most this many bytes once unpacked. */
const MAX_UNPACKED_BYTES = 32 * 1024 ** 3;

/** The bytes of a file, unpacked where it is compressed, a piece at a time. Throws FileRefused. */
async function* bytesOf(
  file: string,
  gzip: boolean,
  onRead?: (bytes: number) => void,
): AsyncGenerator<Buffer> {
  const input = createReadStream(file, { highWaterMark: PIECE_BYTES });
  if (!gzip) {
    for await (const piece of input as AsyncIterable<Buffer>) {
      onRead?.(input.bytesRead);
      yield piece;
    }
    return;
  }
  const size = (await stat(file)).size;
  const unpacked = createGunzip({ chunkSize: PIECE_BYTES });
  pipeline(input, unpacked, () => {});
  let bytes = 0;
  try {
    for await (const piece of unpacked as AsyncIterable<Buffer>) {
      bytes += piece.length;
      if (bytes > MAX_UNPACKED_BYTES || (bytes > SWELLING_ALLOWED_BYTES && bytes > size * MAX_SWELLING)) {
        throw new FileRefused(
          'The file swells to hundreds of times its size when it is unpacked; nobody’s figures do that.',
        );
      }
      onRead?.(input.bytesRead);
      yield piece;
    }
  } catch (error) {
    if (error instanceof FileRefused) throw error;
    throw new FileRefused('The file is compressed (gzip), and broken or cut off: it cannot be unpacked.');
  } finally {
    input.destroy();
    unpacked.destroy();
  }
}

/** Lines that are looked through for the head. */
const MOST_LINES_ABOVE = 30;

/** Line of the head, from 0: the first with two recognised columns, else the first line. */
function headLineOf(lines: readonly string[]): number {
  const known = (line: string) => {
    const delimiter = findDelimiter(line);
    if (!delimiter) return 0;
    const names = parseRecords(line, { delimiter, lineEnd: '\n' }, 1)[0] ?? [];
    return matrixOf(names) ? 2 : Object.keys(recogniseColumns(names)).length;
  };
  const found = lines.slice(0, MOST_LINES_ABOVE).findIndex((line) => known(line) >= 2);
  return Math.max(0, found);
}

/**
 * Reads from the beginning of a file how it is written, and its column names. Lines above the head are
 * passed over; `headLine` (from 1) says where it stands, and is found where it is absent. Throws
 * FileRefused where the file is no CSV.
 */
export async function readHead(file: string, headLine?: number): Promise<CsvHead> {
  const start = await firstBytes(file, 64);
  if (start.length === 0) throw new FileRefused('The file is empty.');
  if (wrappingOf(start) === 'zip')
    throw new FileRefused(
      'This is a ZIP file, not a CSV: unpack it, or send the spreadsheet (.xlsx) itself.',
    );
  const gzip = wrappingOf(start) === 'gzip';
  const pieces: Buffer[] = [];
  let bytes = 0;
  for await (const piece of bytesOf(file, gzip)) {
    pieces.push(piece.subarray(0, HEAD_BYTES - bytes));
    bytes += piece.length;
    if (bytes >= HEAD_BYTES) break;
  }
  const whole = Buffer.concat(pieces);
  if (gzip && wrappingOf(whole) !== null)
    throw new FileRefused('The file is compressed twice; unpack it once.');
  const { encoding: marked, mark } = encodingOf(whole);
  const cut = marked === 'utf-8' ? wholeCharacters(whole) : whole;
  const encoding = marked === 'utf-8' && !isUtf8(cut) ? 'windows-1252' : marked;
  const text = iconv.decode(whole.subarray(mark), encoding);
  const lines = text.split(/\r\n|\n|\r/, Math.max(MOST_LINES_ABOVE, headLine ?? 0));
  const skipped = headLine === undefined ? headLineOf(lines) : Math.min(headLine, lines.length) - 1;
  const firstLine = lines[skipped] ?? '';
  const form = formOf(firstLine);
  const reason = form === 'csv' ? notCsvReason(text, firstLine) : null;
  if (reason) throw new FileRefused(reason);
  if (firstLine.length === text.length && bytes >= HEAD_BYTES)
    throw new FileRefused('The first line has more than a hundred thousand characters; this is no table.');
  if (form === 'json-lines') {
    const objects = text.split(/\r\n|\n|\r/, LINES_FOR_COLUMNS);
    const head = columnsOfJsonLines(bytes >= HEAD_BYTES ? objects.slice(0, -1) : objects);
    if (head.length > MAX_COLUMNS) throw new FileRefused(`The file has more than ${MAX_COLUMNS} columns.`);
    return { form, delimiter: ',', lineEnd: '\n', encoding, gzip, head, first: [], skipped: 0 };
  }
  const delimiter = findDelimiter(firstLine);
  if (!delimiter) {
    throw new FileRefused(
      'This does not look like a CSV: its first line is not divided by commas, semicolons or tabs.',
    );
  }
  // A lone "\r" ends lines only where no "\n" does; both together are read as "\n".
  const lineEnd = text.includes('\n') || !text.includes('\r') ? '\n' : '\r';
  const from = text.split(lineEnd).slice(skipped).join(lineEnd);
  const [head = [], first = []] = parseRecords(from, { delimiter, lineEnd }, 2);
  if (head.length > MAX_COLUMNS) throw new FileRefused(`The file has more than ${MAX_COLUMNS} columns.`);
  const names = head.map((name) => name.trim());
  return { form, delimiter, lineEnd, encoding, gzip, skipped, head: names, first };
}

/** Bytes without a character at their end that is cut in two. */
function wholeCharacters(bytes: Buffer): Buffer {
  let end = bytes.length;
  while (end > 0 && bytes.length - end < 4 && (bytes[end - 1]! & 0xc0) === 0x80) end--;
  return end > 0 && bytes[end - 1]! >= 0xc0 ? bytes.subarray(0, end - 1) : bytes;
}

/** Says in a few words how a file is written. */
export function dialectOf({ form, delimiter, encoding, gzip }: CsvHead): string {
  const name = form === 'json-lines' ? 'JSON Lines' : DELIMITER_NAMES[delimiter];
  return [name, ENCODING_NAMES[encoding], ...(gzip ? ['gzip'] : [])].join(', ');
}

/**
 * The records of a file in blocks of about a megabyte, as UTF-8, the head's among them. Where bytes come that are no
 * UTF-8, after nothing but plain ASCII, the file is taken as Windows-1252 from there on.
 * Throws EndlessRecord, and FileRefused where the file cannot be unpacked.
 */
export async function* blocksOf(
  file: string,
  csv: CsvHead,
  onRead?: (bytes: number) => void,
): AsyncGenerator<Block> {
  const cutter = new BlockCutter(csv.form === 'csv' ? csv.delimiter : null, csv.lineEnd);
  let { encoding } = csv;
  let onlyAscii = true;
  let isFirst = true;
  const wide = encoding === 'utf-16le' || encoding === 'utf-16be' ? iconv.getDecoder(encoding) : null;
  const asBlock = (bytes: Uint8Array): Block => {
    const first = isFirst;
    isFirst = false;
    if (encoding === 'utf-8' && !isUtf8(bytes)) {
      if (!onlyAscii) return { bytes: own(bytes), isFirst: first, garbled: true };
      encoding = 'windows-1252';
    }
    if (onlyAscii && !isAscii(bytes)) onlyAscii = false;
    // Not the decoder that comes with Node.js, which takes Windows-1252 for Latin-1.
    const text =
      encoding === 'windows-1252' ? Buffer.from(iconv.decode(Buffer.from(bytes), encoding)) : bytes;
    return { bytes: own(text), isFirst: first, garbled: false };
  };
  let mark = -1;
  for await (const piece of bytesOf(file, csv.gzip, onRead)) {
    if (mark === -1) mark = encodingOf(piece).mark;
    const bytes = wide ? Buffer.from(wide.write(piece)) : piece.subarray(mark);
    mark = 0;
    for (let at = 0; at < bytes.length; at += PIECE_BYTES) {
      const block = cutter.push(bytes.subarray(at, at + PIECE_BYTES));
      if (block) yield asBlock(block);
    }
  }
  if (wide) {
    const last = cutter.push(Buffer.from(wide.end() ?? ''));
    if (last) yield asBlock(last);
  }
  const rest = cutter.end();
  if (rest) yield asBlock(rest);
}

/**
 * Calls `onRecord` for each record of a file but its head; `enough`, asked between blocks, ends it early. Resolves to whether
 * all of the file was read. Throws FileRefused.
 */
export async function forEachRecord(
  file: string,
  csv: CsvHead,
  onRecord: OnRecord,
  onRead?: (bytes: number) => void,
  enough?: () => boolean,
): Promise<boolean> {
  const decoder = new TextDecoder();
  let line = 1;
  try {
    for await (const { bytes, isFirst } of blocksOf(file, csv, onRead)) {
      line += forEachRecordIn(decoder.decode(bytes), line, isFirst, csv, onRecord);
      if (enough?.()) return false;
    }
    return true;
  } catch (error) {
    if (error instanceof EndlessRecord) throw new FileRefused(error.sentence(line));
    throw error;
  }
}

/** Bytes with memory of their own, which can be handed to another thread. */
function own(bytes: Uint8Array): Uint8Array {
  return bytes.byteLength === bytes.buffer.byteLength ? new Uint8Array(bytes.buffer) : new Uint8Array(bytes);
}
