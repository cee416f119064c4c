import { beginsAsJsonLines } from './jsonLines';

export const DELIMITERS = [',', ';', '\t'] as const;
export type Delimiter = (typeof DELIMITERS)[number];
export const DELIMITER_NAMES: Record<Delimiter, string> = { ',': 'commas', ';': 'semicolons', '\t': 'tabs' };

/** How the bytes of a text file stand for characters. */
export type Encoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';
export const ENCODING_NAMES: Record<Encoding, string> = {
  'utf-8': 'UTF-8',
  'utf-16le': 'UTF-16',
  'utf-16be': 'UTF-16',
  'windows-1252': 'Windows-1252',
};

/** How the rows of a text stand in it. */
export type Form = 'csv' | 'json-lines';

/**
 * The container of a file by its first bytes (RFC 1952 for gzip; ZIP for spreadsheets, ISO/IEC
 * 29500-2).
 */
export function wrappingOf(bytes: Uint8Array): 'gzip' | 'zip' | null {
  if (bytes[0] === 0x1f && bytes[1] === 0x8b) return 'gzip';
  return bytes[0] === 0x50 && bytes[1] === 0x4b ? 'zip' : null;
}

/**
 * The encoding of a text by its beginning: its byte order mark, else the place of zero bytes (Latin
 * text in UTF-16 has every other byte zero), else UTF-8. Windows-1252 only shows at bytes that
 * aren’t UTF-8, perhaps much later.
 */
export function encodingOf(bytes: Uint8Array): { encoding: Encoding; mark: number } {
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) return { encoding: 'utf-8', mark: 3 };
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return { encoding: 'utf-16le', mark: 2 };
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return { encoding: 'utf-16be', mark: 2 };
  const zeros = [0, 0];
  const looked = Math.min(bytes.length & ~1, 4096);
  for (let i = 0; i < looked; i++) if (bytes[i] === 0) zeros[i & 1]!++;
  const half = looked / 2;
  if (looked >= 8 && zeros[1]! > 0.7 * half && zeros[0]! < 0.1 * half)
    return { encoding: 'utf-16le', mark: 0 };
  if (looked >= 8 && zeros[0]! > 0.7 * half && zeros[1]! < 0.1 * half)
    return { encoding: 'utf-16be', mark: 0 };
  return { encoding: 'utf-8', mark: 0 };
}

/**
 * The delimiter of a table by its first line: comma, semicolon or tab, whichever gives the most
 * cells outside quotes. Null if there is none, so the text isn’t a table of several columns.
 */
export function findDelimiter(firstLine: string): Delimiter | null {
  const bare = firstLine.replace(/"(?:[^"]|"")*"/g, '');
  let best: Delimiter | null = null;
  let most = 0;
  for (const delimiter of DELIMITERS) {
    const found = bare.split(delimiter).length - 1;
    if (found > most) [best, most] = [delimiter, found];
  }
  return best;
}

/** How rows stand in a text, by its first line. */
export function formOf(firstLine: string): Form {
  return beginsAsJsonLines(firstLine) ? 'json-lines' : 'csv';
}

/** Says why the beginning of a file's text cannot be a CSV, or null where it may be one. */
export function notCsvReason(text: string, firstLine: string): string | null {
  if (text.trim() === '') return 'The file is empty.';
  if (firstLine.includes('\0')) return 'This is not a text file, and so not a CSV: it holds NUL bytes.';
  const start = text.trimStart().slice(0, 20).toLowerCase();
  if (start.startsWith('<')) return 'This is an HTML or XML page, not a CSV.';
  if (start.startsWith('{') || start.startsWith('['))
    return 'This is JSON, and neither a CSV nor JSON Lines, which have an object on each line.';
  return null;
}
