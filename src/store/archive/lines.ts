import { parseJson } from '../../core/parseJson';
import { refused } from './rows';
import type { ArchivedTable } from './tables';

/** A line of a list that is written a row a line may have so many characters. */
const MOST_LINE = 64 * 1024 * 1024;
const BLOCK = 256 * 1024;

async function* texts(bytes: AsyncIterable<Buffer>): AsyncGenerator<string> {
  const decoder = new TextDecoder('utf-8', { ignoreBOM: true });
  for await (const chunk of bytes) yield decoder.decode(chunk, { stream: true });
  yield decoder.decode();
}

/** The rows of a JSON list that is written a row a line. Throws ArchiveRefused. */
export async function* jsonRows(
  bytes: AsyncIterable<Buffer>,
  table: Pick<ArchivedTable, 'file'>,
): AsyncGenerator<unknown> {
  let rest = '';
  let line = 0;
  for await (const text of texts(bytes)) {
    rest += text;
    if (rest.length > MOST_LINE) throw refused(table, line + 1, 'it is longer than any line can be.');
    const lines = rest.split('\n');
    rest = lines.pop()!;
    for (const one of lines) {
      line++;
      if (one === '[' || one === ']' || one === '[]') continue;
      yield parsed(one.endsWith(',') ? one.slice(0, -1) : one, table, line);
    }
  }
  if (rest !== '') throw refused(table, line + 1, 'it is cut off.');
}

function parsed(text: string, table: Pick<ArchivedTable, 'file'>, line: number): unknown {
  try {
    return parseJson(text);
  } catch {
    throw refused(table, line, 'it is no JSON.');
  }
}

/** CSV in blocks of whole lines: a line break within quotes ends none. */
export async function* csvBlocks(bytes: AsyncIterable<Buffer>): AsyncGenerator<string> {
  let block = '';
  for await (const text of texts(bytes)) {
    block += text;
    if (block.length < BLOCK) continue;
    const end = endOfLines(block);
    if (end === 0) continue;
    yield block.slice(0, end);
    block = block.slice(end);
  }
  if (block !== '') yield block;
}

/** Where the last whole line of a text ends, which begins with a line; 0 where none does. */
function endOfLines(text: string): number {
  let end = text.lastIndexOf('\n') + 1;
  let quotes = 0;
  for (let at = text.indexOf('"'); at !== -1 && at < end; at = text.indexOf('"', at + 1)) quotes++;
  // Within quotes: the line began further up.
  while (end > 0 && quotes % 2 === 1) {
    const before = text.lastIndexOf('\n', end - 2) + 1;
    for (let at = text.indexOf('"', before); at !== -1 && at < end; at = text.indexOf('"', at + 1)) quotes--;
    end = before;
  }
  return end;
}
