import Papa from 'papaparse';
import { JsonLineReader } from '../../core/intake/jsonLines';
import type { CsvHead } from './csvHead';

type Dialect = Pick<CsvHead, 'delimiter' | 'lineEnd'>;

/** How the records of a text stand in it; of JSON Lines also which columns they have. */
export type RecordForm = Dialect & Pick<CsvHead, 'form' | 'head' | 'skipped'>;

/**
 * The bare parser, without the library’s streams and types: more than twice as fast for small
 * texts.
 */
function parserFor({ delimiter, lineEnd }: Dialect, preview = 0): Papa.Parser {
  return new Papa.Parser({ delimiter, newline: lineEnd, quoteChar: '"', preview });
}

function recordsOf(parser: Papa.Parser, text: string): string[][] {
  return (parser.parse(text, 0, false) as Papa.ParseResult<string[]>).data;
}

/**
 * Records of a text that begins and ends between records. A blank line is a record of one empty
 * cell.
 */
export function parseRecords(text: string, dialect: Dialect, preview = 0): string[][] {
  return recordsOf(parserFor(dialect, preview), text);
}

/** Called with each record and its first line, or with the reason that it can’t be read. */
export type OnRecord = (cells: string[], line: number, problem?: string) => void;

/**
 * Calls `onRecord` for each record of a text except blank lines, and the first if it is the head.
 * `line` is that of the first record. Returns the number of lines.
 */
export function forEachRecordIn(
  text: string,
  line: number,
  isHead: boolean,
  csv: RecordForm,
  onRecord: OnRecord,
): number {
  if (csv.form === 'json-lines') return forEachJsonLine(text, line, csv.head, onRecord);
  const quoted = text.includes('"');
  let at = line;
  let toSkip = isHead ? csv.skipped + 1 : 0;
  const parser = parserFor(csv);
  for (const part of quoted ? [text] : partsOf(text, csv.lineEnd)) {
    for (const cells of recordsOf(parser, part)) {
      const start = at++;
      if (quoted) for (const cell of cells) at += lineBreaks(cell, csv.lineEnd);
      if (toSkip > 0) {
        toSkip -= 1;
        continue;
      }
      if (cells.length === 1 && cells[0]!.trim() === '') continue;
      // Lines may end in "\r\n" although "\n" is what they are cut at.
      const last = cells.length - 1;
      const cell = cells[last]!;
      if (cell.charCodeAt(cell.length - 1) === 13) cells[last] = cell.slice(0, -1);
      onRecord(cells, start);
    }
    // A text that ends with a line end has an empty record after it.
    if (part.endsWith(csv.lineEnd)) at--;
  }
  return at - line;
}

function forEachJsonLine(text: string, line: number, head: readonly string[], onRecord: OnRecord): number {
  const reader = new JsonLineReader(head);
  let at = line;
  for (let from = 0; from < text.length; at++) {
    const end = text.indexOf('\n', from);
    const to = end === -1 ? text.length : end;
    const one = text.slice(from, to).trim();
    from = to + 1;
    if (one === '') continue;
    const cells = reader.read(one);
    if (typeof cells === 'string') onRecord([one], at, cells);
    else onRecord(cells, at);
  }
  return at - line;
}

const PART_CHARACTERS = 8 * 1024;

/** Splits a text without quoted cells between lines, so that few cells are in memory at a time. */
function* partsOf(text: string, lineEnd: string): Generator<string> {
  for (let from = 0; from < text.length;) {
    const end = text.indexOf(lineEnd, from + PART_CHARACTERS);
    const to = end === -1 ? text.length : end + 1;
    yield text.slice(from, to);
    from = to;
  }
}

function lineBreaks(cell: string, lineEnd: string): number {
  let n = 0;
  for (let at = cell.indexOf(lineEnd); at !== -1; at = cell.indexOf(lineEnd, at + 1)) n++;
  return n;
}
