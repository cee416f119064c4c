export const DELIMITERS = [',', ';', '\t'] as const;
export type Delimiter = (typeof DELIMITERS)[number];

/**
 * The delimiter of a table by its first line: the one of comma, semicolon and tab that divides it into most
 * cells, quoted text left aside. Null where none occurs, so that the text is no table of several columns.
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

/** Says why the beginning of a file cannot be a CSV, or null where it may be one. `bytes`: its first kilobytes. */
export function notCsvReason(bytes: Uint8Array): string | null {
  if (bytes.length === 0) return 'The file is empty.';
  if (bytes[0] === 0x50 && bytes[1] === 0x4b)
    return 'This is a ZIP or spreadsheet file, not a CSV: save the sheet as CSV first.';
  if (bytes[0] === 0x1f && bytes[1] === 0x8b)
    return 'This file is compressed (gzip), not a CSV: unpack it first.';
  if ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff)) {
    return 'This file is in UTF-16: save it as UTF-8.';
  }
  if (bytes.includes(0)) return 'This is not a text file, and so not a CSV.';
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes, { stream: true });
  } catch {
    return 'This file is not in UTF-8: save it as UTF-8.';
  }
  if (text.trim() === '') return 'The file is empty.';
  const start = text.trimStart().slice(0, 20).toLowerCase();
  if (start.startsWith('<')) return 'This is an HTML or XML page, not a CSV.';
  if (start.startsWith('{') || start.startsWith('[')) return 'This is JSON, not a CSV.';
  return null;
}
